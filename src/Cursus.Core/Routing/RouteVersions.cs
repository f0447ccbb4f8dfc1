namespace Cursus.Core.Routing;

/// <summary>Tells routes that lead visitors to other pages from those that only are called something else.</summary>
public static class RouteVersions
{
    /// <summary>Whether both lead every visitor to the same page.</summary>
    /// <param name="one">As it is stored; null for none.</param>
    public static bool LeadAlike(string? one, string? other) => one == other || Unnamed(one) == Unnamed(other);

    private static string? Unnamed(string? text)
    {
        if (text is null)
        {
            return null;
        }

        var route = RoutePages.With(RouteText.Read(text), p => p with { Name = null });
        return RouteText.Of(route with { Rules = [.. route.Rules.Select(r => r with { Name = null })] });
    }
}
