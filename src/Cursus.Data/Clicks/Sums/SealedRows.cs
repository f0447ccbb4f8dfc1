using Cursus.Core.Clicks.Tallies;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks.Sums;

/// <summary>Gathers sealed days and their months, and writes them instead of what was stored of them before.</summary>
internal sealed class SealedRows(NpgsqlConnection connection)
{
    private readonly List<(Guid Link, LocalDate Day)> days = [];
    private readonly List<(Guid Link, LocalDate Month)> months = [];
    private CopyRows dayRows = new();
    private CopyRows monthRows = new();

    /// <summary>How many days are gathered.</summary>
    public int Count => days.Count;

    /// <summary>Adds days of a link's month.</summary>
    /// <param name="before">The month as it is stored, of which these days are changed or to which they are added; null where nothing is.</param>
    public void Add(Guid link, LocalDate month, IReadOnlyList<(LocalDate Day, DayCounts Counts)> ofMonth, byte[][]? before)
    {
        months.Add((link, month));
        monthRows.Row((short)(2 + SealedRollUp.Tallies.Length)).Add(link).Add(month);
        foreach (var tally in SealedRollUp.Pack(ofMonth, before))
        {
            monthRows.Add(tally);
        }

        foreach (var (day, counts) in ofMonth)
        {
            days.Add((link, day));
            dayRows.Row((short)(2 + DayOfLink.Counted.Count)).Add(link).Add(day);
            foreach (var number in SealedRollUp.CountedOf(counts))
            {
                dayRows.Add(number);
            }
        }
    }

    /// <summary>Writes what was gathered.</summary>
    /// <param name="isAnew">True where nothing of it was stored before.</param>
    public async Task Write(CancellationToken cancel, bool isAnew = false)
    {
        if (days.Count == 0)
        {
            return;
        }

        if (!isAnew)
        {
            await Delete("link_days", "day", days, cancel);
            await Delete("link_months", "month", months, cancel);
        }

        await dayRows.Send(connection, $"link_days (link_id, day, {string.Join(", ", DayOfLink.Counted)})", cancel);
        await monthRows.Send(connection, $"link_months (link_id, month, {string.Join(", ", SealedRollUp.Tallies)})", cancel);
        (dayRows, monthRows) = (new CopyRows(), new CopyRows());
        days.Clear();
        months.Clear();
    }

    private async Task Delete(string table, string column, List<(Guid Link, LocalDate At)> rows, CancellationToken cancel)
    {
        await using var delete = new NpgsqlCommand(
            $"delete from {table} t using unnest($1, $2) as gone (link_id, at) where t.link_id = gone.link_id and t.{column} = gone.at",
            connection
        )
        {
            Parameters =
            {
                new() { Value = rows.Select(r => r.Link).ToArray() },
                new() { Value = rows.Select(r => r.At).ToArray() },
            },
            CommandTimeout = 0,
        };
        await delete.ExecuteNonQueryAsync(cancel);
    }
}
