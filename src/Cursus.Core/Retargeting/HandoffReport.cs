using NodaTime;

namespace Cursus.Core.Retargeting;

/// <summary>What became of one pixel at one visit.</summary>
public enum HandoffOutcome : byte
{
    /// <summary>The network answered in time.</summary>
    Fired = 0,

    /// <summary>The network was asked, and no proper answer came before the deadline. It may have counted the visitor all the same.</summary>
    Missed = 1,

    /// <summary>The visitor said no, now or before; nothing was sent.</summary>
    Declined = 2,

    /// <summary>The visitor's browser says no to everybody (<c>Sec-GPC</c>, <c>DNT</c>); nothing was sent.</summary>
    OptedOut = 3,
}

/// <param name="Pixel">The pixel's id in Cursus.</param>
public readonly record struct PixelOutcome(Guid Pixel, HandoffOutcome Outcome);

/// <summary>What became of the pixels of one visit, as it is written down until it is counted. Holds no network address.</summary>
/// <param name="Visitor">The visitor's keyed hash of the day, the same as that of the click.</param>
public sealed record HandoffReport(Instant At, Guid LinkId, long Visitor, IReadOnlyList<PixelOutcome> Pixels)
{
    /// <summary>So many pixels fire at one visit at most.</summary>
    public const int MostPixels = 20;
}
