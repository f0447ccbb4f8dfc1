using Cursus.Core.Routing;

namespace Cursus.Data.Links;

/// <summary>A page that a link's route leads to, or has led to. Its number stays its own, since clicks are kept with it.</summary>
public sealed class RoutedPage
{
    public required Guid LinkId { get; init; }

    /// <summary>See <see cref="RoutePages"/>.</summary>
    public required short Number { get; init; }

    /// <summary>As entered.</summary>
    public required string Destination { get; init; }

    /// <summary>Whether the present route leads there.</summary>
    public bool IsUsed { get; set; }

    /// <summary>The same as <see cref="Link.PageKey"/>, of this page.</summary>
    public Guid PageKey { get; private init; }
}
