namespace Cursus.Core.Reports;

/// <summary>To which part of its readers a channel showed each variant of a post, such as 30 and 70 per cent of a mailing.</summary>
public static class Split
{
    /// <summary>Why these parts, in per cent, can't be a split; null where they can: whole percentages that add up to 100 (common practice, no
    /// source), and more than one, none of them nothing.</summary>
    public static ValidationError? Check(IReadOnlyCollection<int> parts)
    {
        ArgumentNullException.ThrowIfNull(parts);
        return parts.Count < 2 ? new ValidationError("split-of-one", "A split needs at least two variants.")
            : parts.Any(p => p is < 1 or > 99) ? new ValidationError("split-part", "Each share must be a whole percentage from 1 to 99.")
            : parts.Sum() is var sum and not 100 ? new ValidationError("split-sum", $"The shares add up to {sum}%. They must add up to 100%.")
            : null;
    }
}
