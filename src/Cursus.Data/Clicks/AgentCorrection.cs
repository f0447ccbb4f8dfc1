using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>
/// Reads all agents anew that were read by an earlier state of the lists, and tells stored clicks anew whose agent turns out to be a person's, or
/// isn't one any more. Clicks whose agent's text is not kept any more (<see cref="UserAgentRetention"/>) stay as they were told.
/// </summary>
internal static class AgentCorrection
{
    /// <summary>Reads anew. Returns how many agents there were to read.</summary>
    public static async Task<int> ReadAnew(NpgsqlConnection connection, CancellationToken cancel)
    {
        var outdated = new List<(int Id, string Text, short Traits)>();
        await using (
            var select = new NpgsqlCommand("select id, text, hints from user_agents where text is not null and read_with <> $1", connection)
            {
                Parameters = { new() { Value = ClickLists.State } },
            }
        )
        await using (var reader = await select.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                outdated.Add((reader.GetInt32(0), reader.GetString(1), reader.GetInt16(2)));
            }
        }

        var readings = outdated.ConvertAll(a => UserAgentReading.Of(a.Text, RequestTraits.OfNumber(a.Traits)));
        await using var update = new NpgsqlCommand(
            """
            update user_agents set kind = n.kind, device = n.device, browser = n.browser, os = n.os, read_with = $6
            from unnest($1::int[], $2::smallint[], $3::text[], $4::text[], $5::text[]) as n (id, kind, device, browser, os) where n.id = user_agents.id
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = outdated.ConvertAll(a => a.Id) },
                new() { Value = readings.ConvertAll(r => (short)r.Kind) },
                new() { Value = readings.ConvertAll(r => r.Device) },
                new() { Value = readings.ConvertAll(r => r.Browser) },
                new() { Value = readings.ConvertAll(r => r.Os) },
                new() { Value = ClickLists.State },
            },
        };
        var before = await KindsOf(connection, [.. outdated.Select(a => a.Id)], cancel);
        await update.ExecuteNonQueryAsync(cancel);
        await TellAnew(
            connection,
            [.. outdated.Zip(readings).Where(a => before[a.First.Id] != (short)a.Second.Kind).Select(a => a.First.Id)],
            cancel
        );
        return outdated.Count;
    }

    private static async Task<Dictionary<int, short>> KindsOf(NpgsqlConnection connection, int[] agents, CancellationToken cancel)
    {
        var kinds = new Dictionary<int, short>();
        await using var command = new NpgsqlCommand("select id, kind from user_agents where id = any($1)", connection)
        {
            Parameters = { new() { Value = agents } },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            kinds[reader.GetInt32(0)] = reader.GetInt16(1);
        }

        return kinds;
    }

    /// <summary>Gives stored clicks the kind of their agents, unless the request itself told another, such as the team's. Repeats are told by the
    /// same rule as when clicks are shipped.</summary>
    private static async Task TellAnew(NpgsqlConnection connection, int[] agents, CancellationToken cancel)
    {
        if (agents.Length == 0)
        {
            return;
        }

        await using var command = new NpgsqlCommand(
            $"""
            update clicks c set kind = u.kind from user_agents u
            where u.id = c.user_agent_id and u.id = any($1) and c.kind in ({(int)ClickKind.Person}, {(int)ClickKind.Repeat}, {(int)
                ClickKind.Machine}, {(int)ClickKind.Preview}, {(int)ClickKind.Impostor});
            """,
            connection
        )
        {
            Parameters = { new() { Value = agents } },
            CommandTimeout = 0,
        };
        await command.ExecuteNonQueryAsync(cancel);
        await using var repeats = new NpgsqlCommand(
            $"""
            update clicks c set kind = {(int)ClickKind.Repeat} from (
                select id, at, at - lag(at) over (partition by link_id, visitor order by at, id) as since from clicks
                where user_agent_id = any($1) and kind = {(int)ClickKind.Person}) near
            where near.id = c.id and near.at = c.at and near.since < make_interval(secs => $2)
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = agents },
                new() { Value = (double)RecentVisits.RepeatSeconds },
            },
            CommandTimeout = 0,
        };
        await repeats.ExecuteNonQueryAsync(cancel);
    }
}
