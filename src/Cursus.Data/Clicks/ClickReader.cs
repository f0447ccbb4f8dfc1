using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;
using NodaTime;
using Npgsql;
using NpgsqlTypes;

namespace Cursus.Data.Clicks;

/// <summary>A click with what its user agent tells.</summary>
/// <param name="AgentId">The user agent's place in <c>user_agents</c>.</param>
/// <param name="IsStored">True where it is in the database already.</param>
internal readonly record struct ReadClick(long Id, Click Click, int AgentId, ToldClick Told, bool IsStored = false)
{
    /// <summary>By what clicks of a batch are put in order: link by link, those of a link in the order of time.</summary>
    public static (Guid Link, Instant At, long Id) OrderOf(long id, in Click click) => (click.LinkId, click.At, id);
}

/// <summary>A batch of a journal with what its clicks tell, ready to be stored.</summary>
public sealed class ReadBatch
{
    internal ReadBatch(int journalId, List<ReadClick> clicks, List<(long Id, HandoffReport Report)> reports, long next) =>
        (JournalId, Clicks, Reports, Next, Count) = (journalId, clicks, reports, next, clicks.Count);

    /// <summary>How many clicks it has.</summary>
    public int Count { get; }

    /// <summary>The position behind it.</summary>
    public long Next { get; }

    internal int JournalId { get; }

    internal List<ReadClick> Clicks { get; }

    internal List<(long Id, HandoffReport Report)> Reports { get; }
}

/// <summary>
/// Reads from clicks what only their texts tell, when they are shipped and nobody waits. Each user agent and each referrer is read once and kept in the database with
/// what it tells, since a few thousand make nearly all clicks; a click is stored with the number of its user agent.
/// </summary>
internal sealed class ClickReader
{
    private const int Remembered = 50_000;

    private readonly Dictionary<(string Text, short Traits), (int Id, UserAgentReading Reading)> agents = [];
    private readonly HashSet<string> referrers = [];

    /// <summary>Tells the state of the lists that agents and referrers are read by.</summary>
    public static string ReadWith => ClickLists.State;

    /// <summary>Reads clicks. Gives them link by link, those of a link in the order of time: all that comes after goes by links, the database's index as well.</summary>
    public async Task<List<ReadClick>> Read(NpgsqlConnection connection, IReadOnlyList<(long Id, Click Click)> clicks, CancellationToken cancel)
    {
        if (agents.Count + referrers.Count > Remembered)
        {
            agents.Clear();
            referrers.Clear();
        }

        // Another process may add an agent in the same moment: then neither adds nor sees it, and the next look finds it.
        while (clicks.Select(c => (c.Click.UserAgent, TraitsOf(c.Click))).Where(a => !agents.ContainsKey(a)).Distinct().ToList() is { Count: > 0 } unknown)
        {
            await Learn(connection, unknown, cancel);
        }

        await Learn(connection, [.. clicks.Select(c => c.Click.ReferrerHost).Where(h => !referrers.Contains(h)).Distinct()], cancel);
        var read = new List<ReadClick>(clicks.Count);
        foreach (var place in ByLink(clicks))
        {
            var (id, click) = clicks[place];
            var (agentId, reading) = agents[(click.UserAgent, TraitsOf(click))];
            var kind = click.Kind == ClickKind.Person ? reading.Kind : click.Kind;
            read.Add(new ReadClick(id, click, agentId, new ToldClick(
                kind, click.Visitor, click.Country.ToString(), reading.Device, reading.Browser, reading.Os, click.Language, click.ReferrerHost, click.Code)));
            Courtesy.After(read.Count);
        }

        return read;
    }

    /// <summary>Reads all agents and referrers anew that were read by an earlier state of the lists, and tells stored clicks anew whose agent turns out to be a person's, or isn't one any more. Returns whether there were any.</summary>
    public static async Task<bool> ReadAnew(NpgsqlConnection connection, CancellationToken cancel)
    {
        var outdated = new List<(int Id, string Text, short Traits)>();
        await using (var select = new NpgsqlCommand("select id, text, hints from user_agents where read_with <> $1", connection) { Parameters = { new() { Value = ReadWith } } })
        await using (var reader = await select.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                outdated.Add((reader.GetInt32(0), reader.GetString(1), reader.GetInt16(2)));
            }
        }

        var readings = outdated.ConvertAll(a => UserAgentReading.Of(a.Text, RequestTraits.OfNumber(a.Traits)));
        await using var update = new NpgsqlCommand("""
            update user_agents set kind = n.kind, device = n.device, browser = n.browser, os = n.os, read_with = $6
            from unnest($1::int[], $2::smallint[], $3::text[], $4::text[], $5::text[]) as n (id, kind, device, browser, os) where n.id = user_agents.id
            """, connection)
        {
            Parameters =
            {
                new() { Value = outdated.ConvertAll(a => a.Id) },
                new() { Value = readings.ConvertAll(r => (short)r.Kind) },
                new() { Value = readings.ConvertAll(r => r.Device) },
                new() { Value = readings.ConvertAll(r => r.Browser) },
                new() { Value = readings.ConvertAll(r => r.Os) },
                new() { Value = ReadWith },
            },
        };
        var before = await KindsOf(connection, [.. outdated.Select(a => a.Id)], cancel);
        await update.ExecuteNonQueryAsync(cancel);
        await TellAnew(connection, [.. outdated.Zip(readings).Where(a => before[a.First.Id] != (short)a.Second.Kind).Select(a => a.First.Id)], cancel);

        var hosts = new List<string>();
        await using (var select = new NpgsqlCommand("select host from referrers where read_with <> $1", connection) { Parameters = { new() { Value = ReadWith } } })
        await using (var reader = await select.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                hosts.Add(reader.GetString(0));
            }
        }

        await Write(connection, hosts, "on conflict (host) do update set network = excluded.network, kind = excluded.kind, read_with = excluded.read_with", cancel);
        return outdated.Count + hosts.Count > 0;
    }

    private static async Task<Dictionary<int, short>> KindsOf(NpgsqlConnection connection, int[] agents, CancellationToken cancel)
    {
        var kinds = new Dictionary<int, short>();
        await using var command = new NpgsqlCommand("select id, kind from user_agents where id = any($1)", connection) { Parameters = { new() { Value = agents } } };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            kinds[reader.GetInt32(0)] = reader.GetInt16(1);
        }

        return kinds;
    }

    /// <summary>Gives stored clicks the kind of their agents, unless the request itself told another, such as the team's. Repeats are told by the same rule as when clicks are shipped.</summary>
    private static async Task TellAnew(NpgsqlConnection connection, int[] agents, CancellationToken cancel)
    {
        if (agents.Length == 0)
        {
            return;
        }

        await using var command = new NpgsqlCommand($"""
            update clicks c set kind = u.kind from user_agents u
            where u.id = c.user_agent_id and u.id = any($1) and c.kind in ({(int)ClickKind.Person}, {(int)ClickKind.Repeat}, {(int)ClickKind.Machine}, {(int)ClickKind.Preview}, {(int)ClickKind.Impostor});
            """, connection)
        {
            Parameters = { new() { Value = agents } },
            CommandTimeout = 0,
        };
        await command.ExecuteNonQueryAsync(cancel);
        await using var repeats = new NpgsqlCommand($"""
            update clicks c set kind = {(int)ClickKind.Repeat} from (
                select id, at, at - lag(at) over (partition by link_id, visitor order by at, id) as since from clicks
                where user_agent_id = any($1) and kind = {(int)ClickKind.Person}) near
            where near.id = c.id and near.at = c.at and near.since < make_interval(secs => $2)
            """, connection)
        {
            Parameters = { new() { Value = agents }, new() { Value = (double)RecentVisits.RepeatSeconds } },
            CommandTimeout = 0,
        };
        await repeats.ExecuteNonQueryAsync(cancel);
    }

    private static short TraitsOf(in Click click) => new RequestTraits(click.Hints, click.Signs).ToNumber();

    /// <summary>The places of the clicks, link by link in the order of time.</summary>
    private static int[] ByLink(IReadOnlyList<(long Id, Click Click)> clicks)
    {
        var (keys, places) = (new (Guid, Instant, long)[clicks.Count], new int[clicks.Count]);
        for (var place = 0; place < places.Length; place++)
        {
            var (id, click) = clicks[place];
            (keys[place], places[place]) = (ReadClick.OrderOf(id, click), place);
        }

        Array.Sort(keys, places);
        return places;
    }

    private async Task Learn(NpgsqlConnection connection, List<(string Text, short Traits)> unknown, CancellationToken cancel)
    {
        var readings = unknown.ConvertAll(a => UserAgentReading.Of(a.Text, RequestTraits.OfNumber(a.Traits)));
        await using var command = new NpgsqlCommand("""
            with arriving as (select * from unnest($1::text[], $2::smallint[], $3::smallint[], $4::text[], $5::text[], $6::text[]) as n (text, hints, kind, device, browser, os)),
                added as (insert into user_agents (text, hints, kind, device, browser, os, read_with) select *, $7 from arriving on conflict (text, hints) do nothing returning *)
            select id, text, hints, kind, device, browser, os from added
            union all select u.id, u.text, u.hints, u.kind, u.device, u.browser, u.os from user_agents u join arriving a on a.text = u.text and a.hints = u.hints
            """, connection)
        {
            Parameters =
            {
                new() { Value = unknown.ConvertAll(a => a.Text) },
                new() { Value = unknown.ConvertAll(a => a.Traits) },
                new() { Value = readings.ConvertAll(r => (short)r.Kind) },
                new() { Value = readings.ConvertAll(r => r.Device) },
                new() { Value = readings.ConvertAll(r => r.Browser) },
                new() { Value = readings.ConvertAll(r => r.Os) },
                new() { Value = ReadWith },
            },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            agents[(reader.GetString(1), reader.GetInt16(2))] =
                (reader.GetInt32(0), new UserAgentReading((ClickKind)reader.GetInt16(3), reader.GetString(4), reader.GetString(5), reader.GetString(6)));
        }
    }

    private async Task Learn(NpgsqlConnection connection, List<string> unknown, CancellationToken cancel)
    {
        await Write(connection, unknown, "on conflict (host) do nothing", cancel);
        referrers.UnionWith(unknown);
    }

    private static async Task Write(NpgsqlConnection connection, List<string> hosts, string onConflict, CancellationToken cancel)
    {
        if (hosts.Count == 0)
        {
            return;
        }

        var sites = hosts.ConvertAll(ReferrerSite.Of);
        await using var command = new NpgsqlCommand(
            $"insert into referrers (host, network, kind, read_with) select *, $4 from unnest($1::text[], $2::text[], $3::smallint[]) {onConflict}", connection)
        {
            Parameters =
            {
                new() { Value = hosts },
                new() { Value = sites.ConvertAll(s => s.Network) },
                new() { Value = sites.ConvertAll(s => (short)s.Kind) },
                new() { Value = ReadWith, NpgsqlDbType = NpgsqlDbType.Text },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
    }
}
