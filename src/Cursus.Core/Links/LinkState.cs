using System.Text.Json;
using System.Text.Json.Serialization;
using Cursus.Core.Addresses;
using Cursus.Core.Routing;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;

namespace Cursus.Core.Links;

/// <summary>Everything about a link that can be changed, as it stood at one time. Other things are named by their ids, which stay when they are
/// renamed.</summary>
public sealed record LinkState
{
    private static readonly JsonSerializerOptions Json = new JsonSerializerOptions(JsonSerializerDefaults.Web).ConfigureForNodaTime(
        DateTimeZoneProviders.Tzdb
    );

    public required Guid DomainId { get; init; }
    public required string Slug { get; init; }
    public required string Title { get; init; }

    /// <summary>As entered.</summary>
    public required string Destination { get; init; }

    /// <summary>Where visitors were sent.</summary>
    public required string FinalUrl { get; init; }

    public string? Source { get; init; }
    public string? Medium { get; init; }
    public string? Term { get; init; }
    public string? Content { get; init; }
    public Guid? CampaignId { get; init; }

    /// <summary>The channel that its clicks are counted for.</summary>
    public Guid? ChannelId { get; init; }

    /// <summary>Where visitors go while the destination is dead, and outside of the link's time.</summary>
    public string? Fallback { get; init; }

    /// <summary>When it opens, if it wasn't open from the start.</summary>
    public Instant? OpensAt { get; init; }

    /// <summary>When it ends, if ever.</summary>
    public Instant? EndsAt { get; init; }

    public short Redirect { get; init; } = LinkOptions.UsualRedirect;
    public LinkOptions Options { get; init; } = LinkOptions.Plain;

    /// <summary>Its rules; see <see cref="RouteText"/>.</summary>
    public string? Route { get; init; }

    /// <summary>The saved route that its rules come from.</summary>
    public Guid? RouteId { get; init; }
    public string? Note { get; init; }
    public Guid? FolderId { get; init; }

    /// <summary>In the order of their values, so that the same tags are the same text.</summary>
    public IReadOnlyList<Guid> TagIds { get; init; } = [];

    /// <summary>Its own retargeting pixels, in the order of their values.</summary>
    public IReadOnlyList<Guid> PixelIds { get; init; } = [];

    /// <summary>Clicks that were counted elsewhere, before the link came to Cursus.</summary>
    [JsonPropertyName("broughtAlong")]
    public long? ImportedClicks { get; init; }

    /// <summary>Hidden from lists, but still redirecting.</summary>
    public bool IsArchived { get; init; }

    /// <summary>It has ended, and can be brought back.</summary>
    public bool IsDeleted { get; init; }

    /// <summary>As it is stored. Two states with the same text are the same.</summary>
    public string ToJson() => JsonSerializer.Serialize(this, Json);

    /// <summary>What <see cref="ToJson"/> wrote.</summary>
    /// <exception cref="JsonException">It is nothing of the kind.</exception>
    public static LinkState FromJson(string text) =>
        JsonSerializer.Deserialize<LinkState>(text, Json) ?? throw new JsonException("No state of a link.");
}
