using Cursus.Core.Clicks;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>Deletes single clicks that are older than their workspace keeps them. What the roll-ups hold of them stays, and with it every report of
/// one thing by days.</summary>
public sealed class ClickRetention(NpgsqlDataSource dataSource)
{
    private sealed record Due(Guid Workspace, DateTimeZone Zone, LocalDate? KeptFrom, LocalDate Until);

    /// <summary>A condition on a row of a roll-up, called <c>d</c>: that its clicks are deleted.</summary>
    /// <param name="day">The column with the day, or the first day of the month.</param>
    internal static string IsAlone(string day) =>
        $"exists (select from links l join workspaces w on w.id = l.workspace_id where l.id = d.link_id and d.{day} < w.clicks_kept_from)";

    /// <summary>Deletes what is due in each workspace, a month at a time. Waits for days that aren't sealed yet.</summary>
    public async Task Keep(Instant now, CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        foreach (var due in await AllDue(connection, now, cancel))
        {
            for (var from = due.KeptFrom ?? await FirstMonth(connection, due, cancel); from < due.Until; from = from.PlusMonths(1))
            {
                await DeleteUntil(connection, due, from.PlusMonths(1), cancel);
            }
        }
    }

    /// <summary>Leaves out clicks that come so late that those of their day have been deleted: such a day could not be counted anew.</summary>
    internal static async Task LeaveOutLate(NpgsqlConnection connection, LinkHomes homes, List<ReadClick> clicks, CancellationToken cancel)
    {
        var keptFrom = new Dictionary<Guid, LocalDate>();
        await using var command = new NpgsqlCommand("select id, clicks_kept_from from workspaces where clicks_kept_from is not null", connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            keptFrom[reader.GetGuid(0)] = reader.GetFieldValue<LocalDate>(1);
        }

        if (keptFrom.Count > 0)
        {
            clicks.RemoveAll(c =>
                homes.Of(c.Click.LinkId) is { } home
                && keptFrom.TryGetValue(home.WorkspaceId, out var first)
                && c.Click.At.InZone(home.Zone).Date < first
            );
        }
    }

    private static async Task<List<Due>> AllDue(NpgsqlConnection connection, Instant now, CancellationToken cancel)
    {
        var due = new List<Due>();
        await using var command = new NpgsqlCommand(
            "select id, time_zone, clicks_kept_months, clicks_kept_from, until from workspaces, sealed_days where clicks_kept_months > 0",
            connection
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var zone = DateTimeZoneProviders.Tzdb[reader.GetString(1)];
            var (keptFrom, until) = (
                reader.IsDBNull(3) ? null : (LocalDate?)reader.GetFieldValue<LocalDate>(3),
                RetentionRule.KeptFrom(now.InZone(zone).Date, reader.GetInt16(2))
            );
            if ((keptFrom is null || keptFrom < until) && until <= reader.GetFieldValue<LocalDate>(4))
            {
                due.Add(new(reader.GetGuid(0), zone, keptFrom, until));
            }
        }

        return due;
    }

    /// <summary>The month of the first day that the roll-ups hold; where they hold none, there is nothing to delete and no need to begin earlier than
    /// the last month.</summary>
    private static async Task<LocalDate> FirstMonth(NpgsqlConnection connection, Due due, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            "select min(month) from link_months m join links l on l.id = m.link_id where l.workspace_id = $1",
            connection
        )
        {
            Parameters = { new() { Value = due.Workspace } },
        };
        return await command.ExecuteScalarAsync(cancel) is LocalDate first
            ? LocalDate.Min(first, due.Until.PlusMonths(-1))
            : due.Until.PlusMonths(-1);
    }

    private static async Task DeleteUntil(NpgsqlConnection connection, Due due, LocalDate day, CancellationToken cancel)
    {
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await connection.Run(ClickStore.Lock, cancel);
        await using var delete = new NpgsqlCommand(
            "delete from clicks c using links l where l.id = c.link_id and l.workspace_id = $1 and c.at < $2",
            connection
        )
        {
            Parameters =
            {
                new() { Value = due.Workspace },
                new() { Value = due.Zone.AtStartOfDay(day).ToInstant() },
            },
            CommandTimeout = 0,
        };
        await delete.ExecuteNonQueryAsync(cancel);
        await using var move = new NpgsqlCommand("update workspaces set clicks_kept_from = $2 where id = $1", connection)
        {
            Parameters =
            {
                new() { Value = due.Workspace },
                new() { Value = day },
            },
        };
        await move.ExecuteNonQueryAsync(cancel);
        await transaction.CommitAsync(cancel);
    }
}
