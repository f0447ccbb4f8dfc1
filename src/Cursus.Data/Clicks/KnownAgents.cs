using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>
/// What user agents tell, each read once: a few thousand make nearly all clicks. The exact text of one is kept beside its reading for
/// <see cref="UserAgentRetention.TextsKept"/> after it was seen last, so that it can be read anew when the lists change; a click is stored with the
/// number of that row. What anybody may send without end is bounded: agents beyond a day's or a batch's measure are kept as readings alone, without
/// their texts. For one batch at a time.
/// </summary>
internal sealed class KnownAgents(IClock clock)
{
    /// <summary>Agents of one batch that are read for their browser and system, those with the most clicks first; of the others only their kind and
    /// device are told. Reading one takes up to a millisecond, and a tenth of it in brief.</summary>
    public const int FullReadings = 1_000;

    /// <summary>Texts that one process begins to keep on one day.</summary>
    public const int NewTextsADay = 2_000;

    private const int Remembered = 50_000;

    /// <summary>Clicks this old, as after a long outage, are stored with the reading alone: a day younger than where <see cref="UserAgentRetention"/>
    /// takes texts away, so that none is passed over.</summary>
    private static readonly Duration TextsForClicks = UserAgentRetention.TextsKept - Duration.FromDays(1);

    private readonly Dictionary<(string Text, short Traits), (int Id, UserAgentReading Reading)> agents = [];
    private readonly Dictionary<UserAgentReading, int> readings = [];
    private readonly List<(string Text, short Traits)> inBrief = [];
    private (LocalDate Day, int NewTexts) today;

    /// <summary>Where a click's agent stands in <c>user_agents</c>, and what it tells. The click was among those learned last.</summary>
    public (int Id, UserAgentReading Reading) Of(in Click click)
    {
        var (id, reading) = agents[KeyOf(click)];
        return (IsOld(click) ? readings[reading] : id, reading);
    }

    /// <summary>Learns the agents of a batch that are not known yet.</summary>
    public async Task Learn(NpgsqlConnection connection, IReadOnlyList<(long Id, Click Click)> clicks, CancellationToken cancel)
    {
        BeginDay();
        var unknown = clicks
            .Select(c => KeyOf(c.Click))
            .Where(a => !agents.ContainsKey(a))
            .CountBy(a => a)
            .OrderByDescending(a => a.Value)
            .ThenBy(a => a.Key.Text, StringComparer.Ordinal)
            .Select(a => a.Key)
            .ToList();
        await Find(connection, unknown, cancel);
        unknown.RemoveAll(agents.ContainsKey);
        var read = unknown.Select((a, place) => (Agent: a, Reading: Read(a, place < FullReadings))).ToList();
        var kept = read.GetRange(0, Math.Min(Math.Min(read.Count, FullReadings), NewTextsADay - today.NewTexts));
        inBrief.AddRange(unknown.Skip(FullReadings));
        today.NewTexts += kept.Count;
        await Keep(connection, kept, cancel);
        await Find(connection, kept.ConvertAll(k => k.Agent), cancel);
        await LearnReadings(
            connection,
            read.Skip(kept.Count)
                .Select(r => r.Reading)
                .Concat(clicks.Where(c => IsOld(c.Click)).Select(c => agents.GetValueOrDefault(KeyOf(c.Click)).Reading).OfType<UserAgentReading>()),
            cancel
        );
        foreach (var (agent, reading) in read.Skip(kept.Count))
        {
            agents[agent] = (readings[reading], reading);
        }
    }

    private static (string Text, short Traits) KeyOf(in Click click) => (click.UserAgent, new RequestTraits(click.Hints, click.Signs).ToNumber());

    private static UserAgentReading Read((string Text, short Traits) agent, bool isFull)
    {
        var traits = RequestTraits.OfNumber(agent.Traits);
        return isFull ? UserAgentReading.Of(agent.Text, traits) : UserAgentReading.InBrief(agent.Text, traits);
    }

    private bool IsOld(in Click click) => click.At < clock.GetCurrentInstant() - TextsForClicks;

    /// <summary>Forgets everything on a new day, so that agents that are still sent are marked as seen on it.</summary>
    private void BeginDay()
    {
        var day = clock.GetCurrentInstant().InUtc().Date;
        if (day != today.Day)
        {
            today = (day, 0);
            agents.Clear();
        }

        if (agents.Count > Remembered)
        {
            agents.Clear();
        }

        // They may be read in full the next time.
        inBrief.ForEach(a => agents.Remove(a));
        inBrief.Clear();
    }

    /// <summary>Looks for agents whose texts are kept, and marks them as seen today.</summary>
    private async Task Find(NpgsqlConnection connection, List<(string Text, short Traits)> asked, CancellationToken cancel)
    {
        if (asked.Count == 0)
        {
            return;
        }

        await using var command = new NpgsqlCommand(
            """
            with asked as (select * from unnest($1::text[], $2::smallint[]) as a (text, hints)),
                seen as (update user_agents u set seen_on = $3 from asked a where a.text = u.text and a.hints = u.hints and u.seen_on < $3)
            select u.id, u.text, u.hints, u.kind, u.device, u.browser, u.os from user_agents u join asked a on a.text = u.text and a.hints = u.hints
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = asked.ConvertAll(a => a.Text) },
                new() { Value = asked.ConvertAll(a => a.Traits) },
                new() { Value = today.Day },
            },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            agents[(reader.GetString(1), reader.GetInt16(2))] = (reader.GetInt32(0), ReadingAt(reader, 3));
        }
    }

    private async Task Keep(
        NpgsqlConnection connection,
        List<((string Text, short Traits) Agent, UserAgentReading Reading)> arriving,
        CancellationToken cancel
    )
    {
        if (arriving.Count == 0)
        {
            return;
        }

        // Another process may add the same in this moment: then its row is found.
        await using var command = new NpgsqlCommand(
            """
            insert into user_agents (text, hints, kind, device, browser, os, read_with, seen_on)
            select *, $7, $8 from unnest($1::text[], $2::smallint[], $3::smallint[], $4::text[], $5::text[], $6::text[]) on conflict do nothing
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = arriving.ConvertAll(a => a.Agent.Text) },
                new() { Value = arriving.ConvertAll(a => a.Agent.Traits) },
            },
        };
        AddReadings(command, arriving.ConvertAll(a => a.Reading));
        command.Parameters.Add(new() { Value = today.Day });
        await command.ExecuteNonQueryAsync(cancel);
    }

    private async Task LearnReadings(NpgsqlConnection connection, IEnumerable<UserAgentReading> asked, CancellationToken cancel)
    {
        var unknown = asked.Where(r => !readings.ContainsKey(r)).Distinct().ToList();
        if (unknown.Count == 0)
        {
            return;
        }

        const string arriving = "unnest($1::smallint[], $2::text[], $3::text[], $4::text[]) as a (kind, device, browser, os)";
        await using var insert = new NpgsqlCommand(
            $"insert into user_agents (hints, kind, device, browser, os, read_with) select 0, a.*, $5 from {arriving} on conflict do nothing",
            connection
        );
        AddReadings(insert, unknown);
        await insert.ExecuteNonQueryAsync(cancel);
        await using var select = new NpgsqlCommand(
            $"select u.id, u.kind, u.device, u.browser, u.os from user_agents u join {arriving} using (kind, device, browser, os) where u.text is null and u.read_with = $5",
            connection
        );
        AddReadings(select, unknown);
        await using var reader = await select.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            readings[ReadingAt(reader, 1)] = reader.GetInt32(0);
        }
    }

    private static void AddReadings(NpgsqlCommand command, List<UserAgentReading> of)
    {
        command.Parameters.Add(new() { Value = of.ConvertAll(r => (short)r.Kind) });
        command.Parameters.Add(new() { Value = of.ConvertAll(r => r.Device) });
        command.Parameters.Add(new() { Value = of.ConvertAll(r => r.Browser) });
        command.Parameters.Add(new() { Value = of.ConvertAll(r => r.Os) });
        command.Parameters.Add(new() { Value = ClickLists.State });
    }

    private static UserAgentReading ReadingAt(NpgsqlDataReader reader, int first) =>
        new((ClickKind)reader.GetInt16(first), reader.GetString(first + 1), reader.GetString(first + 2), reader.GetString(first + 3));
}
