using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>A click with what its user agent tells.</summary>
/// <param name="AgentId">The user agent's place in <c>user_agents</c>.</param>
/// <param name="IsStored">True where it is in the database already.</param>
internal readonly record struct ReadClick(long Id, Click Click, int AgentId, EnrichedClick Told, bool IsStored = false)
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
/// Reads from clicks what only their texts tell, when they are shipped and nobody waits. Each user agent and each referrer is read once and kept in
/// the database with what it tells; a click is stored with the number of its user agent.
/// </summary>
internal sealed class ClickReader(IClock clock)
{
    private readonly KnownAgents agents = new(clock);
    private readonly KnownReferrers referrers = new();

    /// <summary>Reads clicks. Gives them link by link, those of a link in the order of time: all that comes after goes by links, the database's index
    /// as well.</summary>
    public async Task<List<ReadClick>> Read(NpgsqlConnection connection, IReadOnlyList<(long Id, Click Click)> clicks, CancellationToken cancel)
    {
        await agents.Learn(connection, clicks, cancel);
        await referrers.Learn(connection, clicks, cancel);
        var read = new List<ReadClick>(clicks.Count);
        foreach (var place in ByLink(clicks))
        {
            var (id, click) = clicks[place];
            var (agentId, reading) = agents.Of(click);
            var kind = click.Kind == ClickKind.Person ? reading.Kind : click.Kind;
            read.Add(
                new ReadClick(
                    id,
                    click,
                    agentId,
                    new EnrichedClick(
                        kind,
                        click.Visitor,
                        click.Country.ToString(),
                        reading.Device,
                        reading.Browser,
                        reading.Os,
                        click.Language,
                        click.ReferrerHost,
                        click.Code,
                        click.Page,
                        click.Rule
                    )
                )
            );
            Backpressure.YieldAfter(read.Count);
        }

        return read;
    }

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
}
