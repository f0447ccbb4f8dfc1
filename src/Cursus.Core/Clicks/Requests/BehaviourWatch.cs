using System.Runtime.InteropServices;
using Cursus.Core.Clicks.Tallies;
using NodaTime;

namespace Cursus.Core.Clicks.Requests;

/// <summary>A click as <see cref="BehaviourWatch"/> looks at it.</summary>
/// <param name="Network">See <see cref="NetworkHash"/>; 0 where untold.</param>
/// <param name="Agent">Tells user agents apart.</param>
/// <param name="Kind">What the request and the user agent told.</param>
public readonly record struct WatchedClick(long Id, Instant At, Guid Link, Guid Workspace, long Visitor, int Network, int Agent, ClickKind Kind);

/// <summary>
/// Finds programs by what they do, where nothing in their requests tells them from browsers: mail scanners that open every link of a message, and
/// link checkers. Looks at clicks in the order of time and remembers some seconds of them. How often it is wrong is measured by <c>./cursus bench
/// machines</c>.
/// </summary>
/// <param name="links">How many different links a visitor opens in a sweep.</param>
/// <param name="linksOfNetwork">The same for a network.</param>
public sealed class BehaviourWatch(int links = BehaviourWatch.FewestLinks, int linksOfNetwork = BehaviourWatch.FewestLinksOfNetwork)
{
    /// <summary>A visitor who opened so many different links too fast is a program.</summary>
    public const int FewestLinks = 4;

    /// <summary>The same for a network, since several people may click at once.</summary>
    public const int FewestLinksOfNetwork = 5;

    /// <summary>A practised person needs 1.2 seconds to point at the next link and click (Card, Moran and Newell, "The keystroke-level model", 1980:
    /// 1.1 to point, 0.1 to press). Half of that is too fast.</summary>
    public static readonly Duration PerLink = Duration.FromMilliseconds(600);

    /// <summary>After the headers alone were asked for. Common practice, no source.</summary>
    public static readonly Duration AfterHead = Duration.FromSeconds(10);

    /// <summary>After the team's own visit. Common practice, no source.</summary>
    public static readonly Duration AfterTeam = Duration.FromSeconds(1);

    private const int FewestToForget = 20_000;

    private readonly Dictionary<(Guid Workspace, long Visitor), Trail> visitors = [];
    private readonly Dictionary<(Guid Workspace, int Network, int Agent), Trail> networks = [];
    private readonly Dictionary<(Guid Link, long Visitor), Instant> heads = [];
    private readonly Dictionary<Guid, (Instant At, long Visitor)> team = [];
    private int forgetAt = FewestToForget;

    /// <summary>What the click is, in view of those before it.</summary>
    /// <param name="alsoSwept">Gets the ids and times of earlier clicks that turn out to belong to the same sweep.</param>
    public ClickKind Judge(in WatchedClick click, ICollection<(long Id, Instant At)> alsoSwept)
    {
        ArgumentNullException.ThrowIfNull(alsoSwept);
        Forget(click.At);
        switch (click.Kind)
        {
            case ClickKind.Head:
                heads[(click.Link, click.Visitor)] = click.At;
                return click.Kind;
            case ClickKind.Team:
                team[click.Link] = (click.At, click.Visitor);
                return click.Kind;
            case not ClickKind.Person:
                return click.Kind;
        }

        var step = new LinkRun.Step(click.Id, click.At, click.Link, click.Visitor);
        var isSweep =
            Sweeps(visitors, (click.Workspace, click.Visitor), step, links, alsoSwept)
            | (click.Network != 0 && Sweeps(networks, (click.Workspace, click.Network, click.Agent), step, linksOfNetwork, alsoSwept));
        return isSweep ? ClickKind.Sweep
            : heads.TryGetValue((click.Link, click.Visitor), out var asked) && IsWithin(AfterHead, asked, click.At) ? ClickKind.Probe
            : team.TryGetValue(click.Link, out var visit) && visit.Visitor != click.Visitor && IsWithin(AfterTeam, visit.At, click.At)
                ? ClickKind.Echo
            : ClickKind.Person;
    }

    /// <summary>Nearly all visitors click once, so that a run is only made with their second click.</summary>
    private static bool Sweeps<TKey>(
        Dictionary<TKey, Trail> trails,
        TKey key,
        in LinkRun.Step step,
        int fewest,
        ICollection<(long Id, Instant At)> alsoSwept
    )
        where TKey : notnull
    {
        ref var trail = ref CollectionsMarshal.GetValueRefOrAddDefault(trails, key, out var isKnown);
        if (!isKnown || (trail.Run is null && step.At - trail.Last.At > PerLink * (fewest - 1)))
        {
            trail = new Trail(step, null, isKnown ? trail.Last.At : Instant.MinValue);
            return false;
        }

        trail = trail with { Last = step, Run = trail.Run ?? new LinkRun(fewest, PerLink, trail.Last, trail.Calm) };
        return trail.Run!.Add(step, alsoSwept);
    }

    /// <summary>Clicks of two batches may come a moment out of order.</summary>
    private static bool IsWithin(Duration span, Instant before, Instant at) => at >= before && at - before < span;

    private void Forget(Instant now)
    {
        if (visitors.Count + networks.Count + heads.Count + team.Count < forgetAt)
        {
            return;
        }

        // Clicks come a moment out of order, since visitors are answered side by side.
        var oldest = now - AfterHead - AfterHead;
        Remove(visitors, t => t.Last.At < oldest);
        Remove(networks, t => t.Last.At < oldest);
        Remove(heads, at => at < oldest);
        Remove(team, t => t.At < oldest);
        forgetAt = Math.Max(FewestToForget, 2 * (visitors.Count + networks.Count + heads.Count + team.Count));
    }

    private static void Remove<TKey, TValue>(Dictionary<TKey, TValue> from, Predicate<TValue> isOld)
        where TKey : notnull
    {
        foreach (var (key, value) in from)
        {
            if (isOld(value))
            {
                from.Remove(key);
            }
        }
    }

    /// <param name="Last">The latest click.</param>
    /// <param name="Run">What came before it; null where nothing did that lies close enough.</param>
    /// <param name="Calm">When somebody had clicked before the run.</param>
    private readonly record struct Trail(LinkRun.Step Last, LinkRun? Run, Instant Calm);
}
