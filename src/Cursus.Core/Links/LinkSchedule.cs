using System.Diagnostics.CodeAnalysis;
using NodaTime;

namespace Cursus.Core.Links;

/// <summary>Where a link stands in its time.</summary>
public enum LinkStage
{
    /// <summary>It leads to its destination.</summary>
    Open,

    /// <summary>It will open later.</summary>
    Scheduled,

    /// <summary>It did so once.</summary>
    Ended,
}

/// <summary>From when until when a link leads to its destination.</summary>
/// <param name="OpensAt">Its first moment; null where it is open from its making.</param>
/// <param name="EndsAt">The first moment at which it has ended; null where it never does.</param>
public readonly record struct LinkSchedule(Instant? OpensAt, Instant? EndsAt)
{
    /// <summary>Most links: open from their making, for good.</summary>
    public static LinkSchedule Always => default;

    /// <summary>Whether it has no bounds.</summary>
    public bool IsAlways => OpensAt is null && EndsAt is null;

    /// <summary>Where a link with this schedule stands. One that has ended is no longer scheduled, whatever its opening says.</summary>
    public LinkStage StageAt(Instant now) =>
        EndsAt <= now ? LinkStage.Ended
        : OpensAt > now ? LinkStage.Scheduled
        : LinkStage.Open;

    /// <summary>Whether a link can have it: it must not end before it opens.</summary>
    public bool IsPossible([NotNullWhen(false)] out ValidationError? error)
    {
        error = OpensAt >= EndsAt ? new ValidationError("ends-before-opening", "The link would end before it opens. Choose a later end.") : null;
        return error is null;
    }
}
