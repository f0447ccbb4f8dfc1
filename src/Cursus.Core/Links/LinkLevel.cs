using Cursus.Core.Addresses;

namespace Cursus.Core.Links;

/// <summary>
/// What one level says about how its links are answered: a row of a request, a post, a campaign, a short domain, a workspace. What is null is
/// left to the next wider level.
/// </summary>
public sealed record LinkLevel(short? Redirect = null, LinkOptionsPatch? Options = null)
{
    /// <summary>Leaves everything to the next level.</summary>
    public static readonly LinkLevel Silent = new();

    /// <summary>A level that has options says all of them.</summary>
    /// <param name="options">Null where it has none of its own.</param>
    public static LinkLevel Of(short? redirect, LinkOptions? options) => new(redirect, options is null ? null : LinkOptionsPatch.Of(options));
}
