using System.Runtime.CompilerServices;
using Cursus.Core.Clicks;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>Keeps <c>link_months</c> and <c>sealed_months</c> from <c>link_days</c>. The caller holds the transaction and is alone in writing.</summary>
internal static class MonthRollUp
{
    private const int MonthsAtOnce = 5000;

    // The last place on earth in which a month ends is twelve hours behind UTC.
    private static readonly Duration LastZone = Duration.FromHours(12);

    private static readonly string Tallies = string.Join(", ", DayCounts.Dimensions.Select(d => $"{d}_values, {d}_counts"));
    private static readonly string Kinds = string.Join(", ", DayRollUp.Kinds);

    /// <summary>The first month that has ended everywhere and is not sealed yet; null where there is none.</summary>
    public static async Task<LocalDate?> NextToSeal(NpgsqlConnection connection, Instant now, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            "select coalesce((select (max(month) + interval '1 month')::date from sealed_months), (select date_trunc('month', min(day))::date from link_days))", connection);
        return await command.ExecuteScalarAsync(cancel) is LocalDate month && month.PlusMonths(1).AtMidnight().InUtc().ToInstant() + LastZone <= now ? month : null;
    }

    /// <summary>Sums the days of a month up.</summary>
    public static async Task Seal(NpgsqlConnection connection, LocalDate month, CancellationToken cancel)
    {
        await Write(connection, month, null, cancel);
        await using var command = new NpgsqlCommand("insert into sealed_months (month) values ($1) on conflict do nothing", connection) { Parameters = { new() { Value = month } } };
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Forgets all months, so that they are sealed anew.</summary>
    public static Task Unseal(NpgsqlConnection connection, CancellationToken cancel) => connection.Run("delete from link_months; delete from sealed_months", cancel);

    /// <summary>Sums those links up again that got clicks on days of sealed months.</summary>
    public static async Task AddLate(NpgsqlConnection connection, IEnumerable<(Guid Link, LocalDate Day)> changed, CancellationToken cancel)
    {
        var links = changed.ToLookup(c => FirstOf(c.Day), c => c.Link);
        var months = (await Sealed(connection, cancel)).Where(links.Contains);
        foreach (var month in months)
        {
            await Write(connection, month, [.. links[month].Distinct()], cancel);
        }
    }

    /// <summary>The links whose month is not what its days come to.</summary>
    public static async Task<IReadOnlyList<Guid>> Differences(NpgsqlConnection connection, LocalDate month, CancellationToken cancel)
    {
        var summed = await Sum(connection, month, null, cancel);
        var differences = new List<Guid>();
        await foreach (var (link, stored) in Stored(connection, month, cancel))
        {
            if (!summed.Remove(link, out var counts) || !counts.Agrees(stored))
            {
                differences.Add(link);
            }
        }

        return [.. differences, .. summed.Keys];
    }

    /// <summary>The months that are sealed.</summary>
    public static async Task<IReadOnlyList<LocalDate>> Sealed(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("select month from sealed_months order by month", connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var months = new List<LocalDate>();
        while (await reader.ReadAsync(cancel))
        {
            months.Add(reader.GetFieldValue<LocalDate>(0));
        }

        return months;
    }

    private static LocalDate FirstOf(LocalDate day) => new(day.Year, day.Month, 1);

    private static async Task Write(NpgsqlConnection connection, LocalDate month, Guid[]? links, CancellationToken cancel)
    {
        var months = await Sum(connection, month, links, cancel);
        await using (var delete = new NpgsqlCommand("delete from link_months where month = $1 and ($2::uuid[] is null or link_id = any($2))", connection)
        {
            Parameters = { new() { Value = month }, new() { Value = links ?? (object)DBNull.Value } },
        })
        {
            await delete.ExecuteNonQueryAsync(cancel);
        }

        foreach (var some in months.Chunk(MonthsAtOnce))
        {
            var rows = new CopyRows();
            foreach (var (link, counts) in some)
            {
                rows.Row((short)(4 + DayRollUp.Kinds.Length + 2 * DayCounts.Dimensions.Count)).Add(link).Add(month);
                for (var kind = 0; kind < DayRollUp.Kinds.Length; kind++)
                {
                    rows.Add(counts.Of((ClickKind)kind));
                }

                rows.Add(counts.Visitors).Add(counts.WeekHours);
                for (var dimension = 0; dimension < DayCounts.Dimensions.Count; dimension++)
                {
                    rows.Add(counts.Tally(dimension));
                }
            }

            await rows.Send(connection, $"link_months (link_id, month, {Kinds}, visitors, week_hours, {Tallies})", cancel);
        }
    }

    /// <param name="links">Only these; null for all.</param>
    private static async Task<Dictionary<Guid, MonthCounts>> Sum(NpgsqlConnection connection, LocalDate month, Guid[]? links, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            $"""
            select link_id, {Kinds}, visitors, {Tallies}, day, hours from link_days
            where day >= $1 and day < $2 and ($3::uuid[] is null or link_id = any($3)) and exists (select from links l where l.id = link_id)
            """,
            connection)
        {
            Parameters = { new() { Value = month }, new() { Value = month.PlusMonths(1) }, new() { Value = links ?? (object)DBNull.Value } },
            CommandTimeout = 0,
        };
        var months = new Dictionary<Guid, MonthCounts>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var link = reader.GetGuid(0);
            if (!months.TryGetValue(link, out var counts))
            {
                months[link] = counts = new MonthCounts();
            }

            var visitors = Read(reader, counts);
            var after = 2 + DayRollUp.Kinds.Length + 2 * DayCounts.Dimensions.Count;
            counts.Add(reader.GetFieldValue<LocalDate>(after).DayOfWeek, reader.GetFieldValue<int[]>(after + 1), visitors);
        }

        return months;
    }

    private static async IAsyncEnumerable<(Guid Link, MonthCounts Counts)> Stored(NpgsqlConnection connection, LocalDate month, [EnumeratorCancellation] CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            $"select link_id, {Kinds}, visitors, {Tallies}, week_hours from link_months where month = $1 and exists (select from links l where l.id = link_id)",
            connection)
        { Parameters = { new() { Value = month } } };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var counts = new MonthCounts();
            var visitors = Read(reader, counts);
            var after = 2 + DayRollUp.Kinds.Length + 2 * DayCounts.Dimensions.Count;
            counts.Add(IsoDayOfWeek.Monday, reader.GetFieldValue<int[]>(after), visitors);
            yield return (reader.GetGuid(0), counts);
        }
    }

    /// <summary>Adds kinds and dimensions, which days and months keep alike; returns the people.</summary>
    private static int Read(NpgsqlDataReader reader, MonthCounts into)
    {
        for (var kind = 0; kind < DayRollUp.Kinds.Length; kind++)
        {
            into.Add((ClickKind)kind, reader.GetInt32(1 + kind));
        }

        var first = 2 + DayRollUp.Kinds.Length;
        for (var dimension = 0; dimension < DayCounts.Dimensions.Count; dimension++)
        {
            var counts = reader.GetFieldValue<int[]>(first + 2 * dimension + 1);
            foreach (var (place, value) in reader.GetFieldValue<string[]>(first + 2 * dimension).Index())
            {
                into.Add(dimension, value, counts[place]);
            }
        }

        return reader.GetInt32(first - 1);
    }
}
