using System.Collections.Concurrent;
using System.Threading.Channels;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using NodaTime;

namespace Cursus.Web.Clicks;

/// <summary>The clicks of one moment, for live views.</summary>
/// <param name="People">People's clicks.</param>
/// <param name="Links">The links that were clicked, most recent last.</param>
public sealed record Arrivals(Instant At, int People, IReadOnlyList<LinkArrivals> Links);

/// <param name="People">People's clicks.</param>
/// <param name="Team">The team's own visits, test-opens among them; not counted.</param>
/// <param name="Others">Bots, previews, prefetches, repeats and HEAD requests; not counted.</param>
/// <param name="Device">Of the last click.</param>
/// <param name="Country">Of the last click: its name, or nothing.</param>
public sealed record LinkArrivals(Guid Link, int People, int Team, int Others, string Device, string Country);

/// <summary>Tells members who watch of clicks as soon as they are stored. Knows those that this process has answered.</summary>
public sealed class LiveClicks(IClock clock)
{
    private const int MostLinks = 200;
    private const int MostWaiting = 50;

    /// <summary>Clicks that waited longer, because the database was away, are history.</summary>
    private static readonly Duration Recent = Duration.FromMinutes(2);

    private readonly ConcurrentDictionary<Channel<Arrivals>, Guid> watching = new();

    /// <summary>What arrives in a workspace from now on, until the watch is disposed of. Who reads too slowly misses some.</summary>
    public Watch Begin(Guid workspaceId)
    {
        var channel = Channel.CreateBounded<Arrivals>(new BoundedChannelOptions(MostWaiting) { FullMode = BoundedChannelFullMode.DropOldest });
        watching[channel] = workspaceId;
        return new Watch(channel.Reader, () => watching.TryRemove(channel, out _));
    }

    /// <summary>Tells of clicks that have just been stored.</summary>
    public void Tell(IReadOnlyList<StoredClick> stored)
    {
        if (watching.IsEmpty)
        {
            return;
        }

        var now = clock.GetCurrentInstant();
        var watched = watching.Values.ToHashSet();
        foreach (
            var workspace in stored
                .Where(c => c.WorkspaceId is { } id && watched.Contains(id) && now - c.At < Recent)
                .GroupBy(c => c.WorkspaceId!.Value)
        )
        {
            var links = workspace.GroupBy(c => c.LinkId).OrderBy(l => l.Last().At).TakeLast(MostLinks).Select(Of).ToList();
            var arrivals = new Arrivals(now, workspace.Count(c => c.Told.Kind == ClickKind.Person), links);
            foreach (var (channel, _) in watching.Where(w => w.Value == workspace.Key))
            {
                channel.Writer.TryWrite(arrivals);
            }
        }
    }

    private static LinkArrivals Of(IGrouping<Guid, StoredClick> clicks)
    {
        var last = clicks.Last().Told;
        var people = clicks.Count(c => c.Told.Kind == ClickKind.Person);
        var team = clicks.Count(c => c.Told.Kind == ClickKind.Team);
        return new LinkArrivals(
            clicks.Key,
            people,
            team,
            clicks.Count() - people - team,
            last.Device,
            last.Country.Length == 0 ? "" : CountryNames.Of(last.Country)
        );
    }

    /// <summary>One member's watching.</summary>
    public sealed class Watch(ChannelReader<Arrivals> arrivals, Action end) : IDisposable
    {
        public ChannelReader<Arrivals> Arrivals => arrivals;

        public void Dispose() => end();
    }
}
