using NodaTime;

namespace Cursus.Core.Clicks;

/// <summary>
/// For how long a workspace keeps single clicks. The least leaves every day of last year to compare with, and a month to do so; the others add a year
/// each, so that a visitor's data is never kept without end where that isn't wanted (common practice, no source).
/// </summary>
public static class RetentionRule
{
    /// <summary>Months that can be chosen, beside for ever.</summary>
    public static readonly IReadOnlyList<int> Months = [14, 26, 38];

    /// <summary>The first day of which single clicks are kept: that of a month, so that months are deleted whole, and none too early.</summary>
    public static LocalDate KeptFrom(LocalDate today, int months) => today.With(DateAdjusters.StartOfMonth).PlusMonths(-months);
}
