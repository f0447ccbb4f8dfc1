namespace Cursus.Data.Clicks;

/// <summary>
/// Roll-up: what came of one link on one day that isn't sealed yet, and everything that its clicks tell. Kept in the transaction that stores the
/// clicks themselves. Each of <see cref="Core.Clicks.Tallies.DayTally.All"/> is a pair of columns: its values in order, and how many clicks had each.
/// When the day is over everywhere, it becomes a <see cref="LinkDay"/> and a part of its <see cref="LinkMonth"/>.
/// </summary>
public sealed class OpenDay : DayOfLink
{
    /// <summary>People's clicks by hour of the workspace's clock, 24 numbers; on the day that clocks go back, one hour counts for two.</summary>
    public required int[] Hours { get; init; }

    /// <summary>Who clicked, without saying who: see <see cref="Core.Clicks.Tallies.VisitorSketch"/>.</summary>
    public required byte[] VisitorSketch { get; init; }
}
