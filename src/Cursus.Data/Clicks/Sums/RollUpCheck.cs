using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Tallies;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks.Sums;

/// <summary>Holds roll-ups of which there are clicks against what was counted anew, month by month, so that it needs no more room than a
/// month's.</summary>
internal sealed class RollUpCheck
{
    private readonly NpgsqlConnection connection;
    private readonly Queue<LocalDate> months;
    private readonly LocalDate until;
    private readonly List<RollUps.Difference> differences = [];
    private readonly List<(Guid LinkId, LocalDate Month)> differingMonths = [];
    private int days;

    private LocalDate? month;
    private Dictionary<(Guid Link, LocalDate Day), int[]> sealedDays = [];
    private Dictionary<(Guid Link, LocalDate Day), DayCounts> openDays = [];
    private Dictionary<Guid, byte[][]> tallies = [];

    private RollUpCheck(NpgsqlConnection connection, Queue<LocalDate> months, LocalDate until) =>
        (this.connection, this.months, this.until) = (connection, months, until);

    /// <param name="connection">In the moment that the clicks are counted in.</param>
    public static async Task<RollUpCheck> Begin(NpgsqlConnection connection, CancellationToken cancel)
    {
        var months = new Queue<LocalDate>();
        await using (
            var command = new NpgsqlCommand(
                "select distinct date_trunc('month', day)::date from days_of_links union select month from link_months order by 1",
                connection
            )
            {
                CommandTimeout = 0,
            }
        )
        await using (var reader = await command.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                months.Enqueue(reader.GetFieldValue<LocalDate>(0));
            }
        }

        return new(connection, months, await SealedRollUp.Until(connection, cancel) ?? LocalDate.MinIsoValue);
    }

    /// <summary>Compares the days of one link in one month, which come in the order of months.</summary>
    public async Task Compare(Guid link, List<(LocalDate Day, DayCounts Counts)> counted, CancellationToken cancel)
    {
        days += counted.Count;
        await GoTo(SealedRollUp.MonthOf(counted[0].Day), cancel);
        foreach (var (day, counts) in counted)
        {
            if (openDays.Remove((link, day), out var open))
            {
                Add(day < until || !open.Agrees(counts), link, day, counts.Of(ClickKind.Person), open.Of(ClickKind.Person));
            }
            else
            {
                var isThere = sealedDays.Remove((link, day), out var stored);
                Add(
                    day >= until || !isThere || !stored!.SequenceEqual(SealedRollUp.CountedOf(counts)),
                    link,
                    day,
                    counts.Of(ClickKind.Person),
                    stored?[0] ?? 0
                );
            }
        }

        var over = counted.Where(c => c.Day < until).ToList();
        if (
            over.Count > 0
            && !(
                tallies.Remove(link, out var packed)
                && packed.Zip(SealedRollUp.Pack(over, before: null)).All(t => t.First.AsSpan().SequenceEqual(t.Second))
            )
        )
        {
            differingMonths.Add((link, month!.Value));
        }
    }

    /// <summary>What was found, when all that the clicks come to has been compared.</summary>
    public async Task<RollUps.Agreement> End(CancellationToken cancel)
    {
        await GoTo(LocalDate.MaxIsoValue, cancel);
        return new(days, differences, differingMonths);
    }

    private void Add(bool isDifferent, Guid link, LocalDate day, int clicks, int rolledUp)
    {
        if (isDifferent)
        {
            differences.Add(new(link, day, clicks, rolledUp));
        }
    }

    /// <summary>Goes on to a month. What is left of those before it, no click is there for.</summary>
    private async Task GoTo(LocalDate next, CancellationToken cancel)
    {
        while (month is null || month < next)
        {
            differences.AddRange(sealedDays.Select(d => new RollUps.Difference(d.Key.Link, d.Key.Day, 0, d.Value[0])));
            differences.AddRange(openDays.Select(d => new RollUps.Difference(d.Key.Link, d.Key.Day, 0, d.Value.Of(ClickKind.Person))));
            differingMonths.AddRange(tallies.Keys.Select(link => (link, month!.Value)));
            (sealedDays, openDays, tallies) = ([], [], []);
            if (!months.TryPeek(out var stored) || stored > next)
            {
                month = next;
                return;
            }

            month = months.Dequeue();
            await Load(month.Value, cancel);
        }
    }

    private async Task Load(LocalDate first, CancellationToken cancel)
    {
        var end = first.PlusMonths(1);
        await foreach (
            var (link, day, counts) in DayRollUp.Read(
                connection,
                "where day >= $1 and day < $2 and exists (select from links l where l.id = link_id)",
                [first, end],
                cancel
            )
        )
        {
            openDays[(link, day)] = counts;
        }

        tallies = await SealedRollUp.StoredMonths(connection, first, null, cancel, withClicks: true);
        await using var command = new NpgsqlCommand(
            $"select link_id, day, {string.Join(", ", DayOfLink.Counted)} from link_days d where day >= $1 and day < $2 and exists (select from links l where l.id = link_id) and not {ClickRetention.IsAlone("day")}",
            connection
        )
        {
            Parameters =
            {
                new() { Value = first },
                new() { Value = end },
            },
            CommandTimeout = 0,
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            sealedDays[(reader.GetGuid(0), reader.GetFieldValue<LocalDate>(1))] =
            [
                .. DayOfLink.Counted.Select((_, place) => reader.GetInt32(2 + place)),
            ];
        }
    }
}
