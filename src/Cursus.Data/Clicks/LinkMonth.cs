using Cursus.Core.Clicks.Tallies;
using NodaTime;

namespace Cursus.Data.Clicks;

/// <summary>
/// Roll-up: the days of one link in one month that are over in every time zone, and everything that their clicks tell, each of
/// <see cref="DayTally.All"/> as a <see cref="MonthTally"/>, so that a long question reads a row where it would have read thirty. Written when a day
/// is sealed, and again where a click comes late.
/// </summary>
public sealed class LinkMonth
{
    public Guid LinkId { get; init; }

    /// <summary>The month's first day.</summary>
    public LocalDate Month { get; init; }

    /// <summary>Clicks of each kind, and <c>visitors</c>, by the names of their columns in <c>link_days</c>.</summary>
    public required byte[] Kinds { get; init; }

    /// <summary>People's clicks by hour of the workspace's clock, 0 to 23.</summary>
    public required byte[] Hours { get; init; }
}

/// <summary>How far days are sealed: in <see cref="LinkDay"/> and <see cref="LinkMonth"/>. There is at most one.</summary>
public sealed class SealedDays
{
    /// <summary>The first day that is not sealed: from it on, there are <see cref="OpenDay"/>s.</summary>
    public LocalDate Until { get; init; }
}
