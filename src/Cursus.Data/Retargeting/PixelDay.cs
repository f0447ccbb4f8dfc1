using NodaTime;

namespace Cursus.Data.Retargeting;

/// <summary>Roll-up: what became of one pixel at the visits of one link on one day of the workspace's time zone.</summary>
public sealed class PixelDay
{
    public Guid PixelId { get; init; }
    public Guid LinkId { get; init; }
    public LocalDate Day { get; init; }
    public int Fired { get; init; }
    public int Missed { get; init; }
    public int Declined { get; init; }
    public int OptedOut { get; init; }

    /// <summary>Those at whose visit it fired; see <see cref="Core.Clicks.Tallies.VisitorSketch"/>.</summary>
    public required byte[] VisitorSketch { get; init; }
}
