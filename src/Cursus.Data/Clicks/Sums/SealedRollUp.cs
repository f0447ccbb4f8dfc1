using System.Globalization;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Tallies;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks.Sums;

/// <summary>
/// Keeps <c>link_days</c>, <c>link_months</c> and <c>sealed_days</c>: what became of days that are over everywhere. Nothing can be added to these,
/// since they don't say who clicked; where a click comes late, its day is counted anew from the clicks. The caller holds the transaction and is alone
/// in writing.
/// </summary>
internal static class SealedRollUp
{
    private const string Kinds = "kinds";
    private const string Hours = "hours";

    /// <summary>The columns of a month beside its link and first day, all of them <see cref="MonthTally"/>s.</summary>
    public static readonly string[] Tallies = [Kinds, Hours, .. DayTally.All.Select(t => t.Name)];

    private static readonly string[] HourNames = [.. Enumerable.Range(0, 24).Select(h => h.ToString(CultureInfo.InvariantCulture))];

    // The last place on earth in which a day ends is twelve hours behind UTC.
    private static readonly Duration LastZone = Duration.FromHours(12);

    /// <summary>The first day that isn't over everywhere.</summary>
    public static LocalDate OpenAt(Instant now) => (now - LastZone).InUtc().Date;

    /// <summary>The first day that isn't sealed; null where none ever was.</summary>
    public static async Task<LocalDate?> Until(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("select until from sealed_days", connection);
        return await command.ExecuteScalarAsync(cancel) as LocalDate?;
    }

    /// <summary>Says how far days are sealed.</summary>
    public static async Task MoveUntil(NpgsqlConnection connection, LocalDate day, CancellationToken cancel)
    {
        await connection.Run("delete from sealed_days", cancel);
        await using var move = new NpgsqlCommand("insert into sealed_days (until) values ($1)", connection)
        {
            Parameters = { new() { Value = day } },
        };
        await move.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Seals the open days that are over everywhere, those of one month at a time. Returns whether there are more.</summary>
    public static async Task<bool> SealNext(NpgsqlConnection connection, Instant now, CancellationToken cancel)
    {
        var over = OpenAt(now);
        await using var begin = new NpgsqlCommand(
            "select coalesce((select until from sealed_days), least((select min(day) from open_days), (select min(day) from link_days)))",
            connection
        );
        if (await begin.ExecuteScalarAsync(cancel) is not LocalDate from || from >= over)
        {
            return false;
        }

        var month = MonthOf(from);
        var until = LocalDate.Min(month.PlusMonths(1), over);
        var stored = await StoredMonths(connection, month, null, cancel);
        var rows = new SealedRows(connection);
        await foreach (
            var (link, days) in ByLink(
                DayRollUp.Read(connection, "where day >= $1 and day < $2 order by link_id, day", [from, until], cancel),
                cancel
            )
        )
        {
            rows.Add(link, month, days, stored.GetValueOrDefault(link));
        }

        await rows.Write(cancel);
        await using var delete = new NpgsqlCommand("delete from open_days where day < $1", connection)
        {
            Parameters = { new() { Value = until } },
            CommandTimeout = 0,
        };
        await delete.ExecuteNonQueryAsync(cancel);
        await MoveUntil(connection, until, cancel);
        return until < over;
    }

    /// <summary>Counts sealed days anew that clicks came late to.</summary>
    public static async Task CountAnew(NpgsqlConnection connection, IReadOnlyCollection<(Guid Link, LocalDate Day)> late, CancellationToken cancel)
    {
        if (late.Count == 0)
        {
            return;
        }

        var counted = await Recount.Of(connection, late, cancel);
        foreach (var month in counted.ToLookup(c => MonthOf(c.Key.Day)))
        {
            var stored = await StoredMonths(connection, month.Key, [.. month.Select(c => c.Key.Link).Distinct()], cancel);
            var rows = new SealedRows(connection);
            foreach (var ofLink in month.GroupBy(c => c.Key.Link))
            {
                rows.Add(
                    ofLink.Key,
                    month.Key,
                    [.. ofLink.Select(c => (c.Key.Day, c.Value)).OrderBy(d => d.Day)],
                    stored.GetValueOrDefault(ofLink.Key)
                );
            }

            await rows.Write(cancel);
        }
    }

    /// <summary>What a month holds of its days, each of <see cref="Tallies"/> packed.</summary>
    /// <param name="before">What the month held before of other days; null where it held nothing.</param>
    public static byte[][] Pack(IReadOnlyList<(LocalDate Day, DayCounts Counts)> days, byte[][]? before)
    {
        return [.. Tallies.Select(PackOne)];

        byte[] PackOne(string tally, int place)
        {
            var counts = days.Select(d =>
                    (
                        d.Day.Day,
                        tally switch
                        {
                            Kinds => KindsOf(d.Counts),
                            Hours => HoursOf(d.Counts),
                            _ => d.Counts.Tally(tally),
                        }
                    )
                )
                .ToList();
            return before is null ? MonthTally.Pack(counts) : MonthTally.With(before[place], counts);
        }
    }

    /// <summary>Days by their links, which they come in the order of.</summary>
    public static async IAsyncEnumerable<(Guid Link, List<(LocalDate Day, DayCounts Counts)> Days)> ByLink(
        IAsyncEnumerable<(Guid Link, LocalDate Day, DayCounts Counts)> days,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        (Guid Link, List<(LocalDate Day, DayCounts Counts)> Days)? current = null;
        await foreach (var (link, day, counts) in days.WithCancellation(cancel))
        {
            if (current is { } last && (last.Link != link || MonthOf(last.Days[0].Day) != MonthOf(day)))
            {
                yield return last;
                current = null;
            }

            current ??= (link, []);
            current.Value.Days.Add((day, counts));
        }

        if (current is { } final)
        {
            yield return final;
        }
    }

    /// <summary>Months of links that exist, as they are stored.</summary>
    /// <param name="links">Only these; null for all.</param>
    /// <param name="withClicks">Whether months are left out whose single clicks have been deleted.</param>
    public static async Task<Dictionary<Guid, byte[][]>> StoredMonths(
        NpgsqlConnection connection,
        LocalDate month,
        Guid[]? links,
        CancellationToken cancel,
        bool withClicks = false
    )
    {
        await using var command = new NpgsqlCommand(
            $"select link_id, {string.Join(", ", Tallies)} from link_months d where month = $1 and ($2::uuid[] is null or link_id = any($2)) and exists (select from links l where l.id = link_id)"
                + (withClicks ? $" and not {ClickRetention.IsAlone("month")}" : ""),
            connection
        )
        {
            Parameters =
            {
                new() { Value = month },
                new() { Value = links ?? (object)DBNull.Value, NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.Array | NpgsqlTypes.NpgsqlDbType.Uuid },
            },
            CommandTimeout = 0,
        };
        var months = new Dictionary<Guid, byte[][]>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            months[reader.GetGuid(0)] = [.. Tallies.Select((_, place) => reader.GetFieldValue<byte[]>(1 + place))];
        }

        return months;
    }

    /// <summary>First day of a day's month.</summary>
    public static LocalDate MonthOf(LocalDate day) => day.With(DateAdjusters.StartOfMonth);

    private static IReadOnlyList<KeyValuePair<string, int>> KindsOf(DayCounts counts) =>
        [.. DayOfLink.Counted.Zip(CountedOf(counts), KeyValuePair.Create).Where(k => k.Value > 0).OrderBy(k => k.Key, StringComparer.Ordinal)];

    private static IReadOnlyList<KeyValuePair<string, int>> HoursOf(DayCounts counts) =>
        [.. HourNames.Zip(counts.Hours, KeyValuePair.Create).Where(h => h.Value > 0).OrderBy(h => h.Key, StringComparer.Ordinal)];

    /// <summary>The numbers of <see cref="DayOfLink.Counted"/>.</summary>
    public static IEnumerable<int> CountedOf(DayCounts counts) =>
        DayOfLink.Kinds.Select((_, kind) => counts.Of((ClickKind)kind)).Append(counts.People);
}
