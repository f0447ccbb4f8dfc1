using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Data.Clicks;

/// <summary>The numbers of one link on one day of the workspace's time zone, which days have whether they are sealed or not.</summary>
public abstract class DayOfLink
{
    /// <summary>The columns of the kinds of clicks, by number of <see cref="ClickKind"/>.</summary>
    public static IReadOnlyList<string> Kinds { get; } =
    ["clicks", "team", "machines", "previews", "prefetches", "repeats", "heads", "impostors", "sweeps", "echoes", "probes"];

    /// <summary>The columns of all that is counted: the kinds and the people.</summary>
    public static IReadOnlyList<string> Counted { get; } = [.. Kinds, "visitors"];

    public Guid LinkId { get; init; }
    public LocalDate Day { get; init; }

    /// <summary>People's clicks.</summary>
    public int Clicks { get; init; }

    public int Team { get; init; }
    public int Machines { get; init; }
    public int Previews { get; init; }
    public int Prefetches { get; init; }
    public int Repeats { get; init; }
    public int Heads { get; init; }
    public int Impostors { get; init; }
    public int Sweeps { get; init; }
    public int Echoes { get; init; }
    public int Probes { get; init; }

    /// <summary>How many different people clicked, as <see cref="Core.Clicks.Tallies.VisitorSketch"/> counts them.</summary>
    public int Visitors { get; init; }
}
