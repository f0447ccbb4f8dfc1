namespace Cursus.Core.Batches;

/// <summary>What is done with a line whose slug is taken already.</summary>
public enum TakenSlug
{
    /// <summary>It is something to correct.</summary>
    Refuse,

    /// <summary>The line is left out; the link that is there stays as it is.</summary>
    Skip,

    /// <summary>The line's link gets another slug.</summary>
    Rename,

    /// <summary>The link that is there becomes what the line says.</summary>
    TakeOver,
}

/// <summary>Result of one line of a list.</summary>
public enum LineOutcome
{
    Made,
    Renamed,
    TakenOver,
    Skipped,
    Refused,
}

/// <summary>Who has a slug that a line wants.</summary>
public enum SlugHolder
{
    Nobody,

    /// <summary>A link of the workspace, as its present address.</summary>
    Link,

    /// <summary>A link that had it once and is still found by it.</summary>
    FormerAddress,

    /// <summary>A deleted link, for which it is kept.</summary>
    DeletedLink,

    /// <summary>A line further up in the same list.</summary>
    EarlierLine,
}

/// <summary>The rule for lines whose slug is taken.</summary>
public static class TakenSlugs
{
    /// <summary>
    /// What becomes of a line. Only a link that is there and has the slug now can be taken over: a printed former address, a deleted link and a
    /// second line with the same slug would each be guessing.
    /// </summary>
    public static LineOutcome Outcome(TakenSlug choice, SlugHolder holder) =>
        (choice, holder) switch
        {
            (_, SlugHolder.Nobody) => LineOutcome.Made,
            (TakenSlug.Skip, _) => LineOutcome.Skipped,
            (TakenSlug.Rename, _) => LineOutcome.Renamed,
            (TakenSlug.TakeOver, SlugHolder.Link) => LineOutcome.TakenOver,
            _ => LineOutcome.Refused,
        };
}
