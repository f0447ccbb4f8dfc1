namespace Cursus.Core.Routing;

/// <summary>A page of a split with the people it got.</summary>
public readonly record struct SharedPage(RoutePage Page, long People);

/// <summary>Says whether a split works as set.</summary>
public static class SplitWords
{
    /// <summary>Stands by the figures of every split.</summary>
    public const string Caution = "People are shared out as set; these figures don’t say which page is better.";

    /// <param name="pages">As the split has them.</param>
    /// <param name="handsOverDead">Whether others get the visitors of a page that is broken.</param>
    /// <param name="isBroken">Whether one is known to be broken now.</param>
    public static string Of(SplitCall call, IReadOnlyCollection<SharedPage> pages, bool handsOverDead, Func<RoutePage, bool> isBroken)
    {
        ArgumentNullException.ThrowIfNull(pages);
        var people = pages.Sum(p => p.People);
        return call switch
        {
            SplitCall.TooFew =>
                $"Too few people to check the split: {CountWords.Number(people)} of at least {CountWords.Number(SplitCheck.Needed(pages.Select(p => (p.Page.Weight, p.People))))}.",
            SplitCall.AsSet => "The split works as set.",
            _ => $"Off: {Furthest(pages, people)} {Reason(pages, handsOverDead, isBroken)}",
        };
    }

    private static string Furthest(IReadOnlyCollection<SharedPage> pages, long people)
    {
        var page = pages.MaxBy(p => Math.Abs((double)p.People / people - p.Page.Weight / 100.0));
        return $"{page.Page.Name ?? page.Page.Destination} was set to {CountWords.Percent(page.Page.Weight / 100.0)} and got {CountWords.Percent((double)page.People / people)} of {CountWords.Number(people)} people.";
    }

    private static string Reason(IEnumerable<SharedPage> pages, bool handsOverDead, Func<RoutePage, bool> isBroken) =>
        pages.Select(p => p.Page).FirstOrDefault(isBroken) is { } broken
            ? handsOverDead
                ? $"{broken.Name ?? broken.Destination} is broken, and the others get its visitors until it is back."
                : $"{broken.Name ?? broken.Destination} is broken, and its visitors get the link’s fallback."
            : handsOverDead
                ? "Most likely a page was broken for a time and the others got its visitors."
                : "That is more than chance. Most likely a page was broken for a time, or a program clicked as many people.";
}
