using Cursus.Core.Routing;
using NodaTime;

namespace Cursus.Data.Links;

/// <summary>A route kept under a name, which any number of links follow: where it changes, they change with it.</summary>
public sealed class SavedRoute
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public required string Name { get; set; }

    /// <summary>See <see cref="RouteText"/>. Its rules have numbers, its pages none: those are each link's own.</summary>
    public required string Route { get; set; }

    /// <summary>The last number that was given to one of its rules.</summary>
    public short LastRule { get; set; }

    /// <summary>Numbered from 1; a change of the name alone makes no new one.</summary>
    public int Version { get; set; } = 1;

    public Instant ChangedAt { get; set; }

    /// <summary>The member who made it so; null where that member has gone.</summary>
    public Guid? ChangedBy { get; set; }
}

/// <summary>How a saved route was before one of its changes.</summary>
public sealed class SavedRouteVersion
{
    public Guid RouteId { get; init; }

    /// <summary>See <see cref="SavedRoute.Version"/>.</summary>
    public int Number { get; init; }

    public Instant Since { get; init; }
    public Instant Until { get; init; }

    /// <summary>The member who made it so; null where that member has gone.</summary>
    public Guid? MadeBy { get; init; }

    /// <summary>See <see cref="SavedRoute.Route"/>.</summary>
    public required string Route { get; init; }
}
