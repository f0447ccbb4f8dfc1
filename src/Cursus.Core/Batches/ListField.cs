using System.Text.Json.Serialization;

namespace Cursus.Core.Batches;

/// <summary>What a column of a list says about the links to be made from its lines.</summary>
public enum ListField
{
    Destination,
    Title,
    Channel,
    Campaign,
    Source,
    Medium,
    Term,
    Content,
    Slug,

    /// <summary>The whole short address, of which the slug and perhaps the domain are taken.</summary>
    ShortAddress,
    Domain,
    Tags,
    Folder,

    /// <summary>What another program keeps links together by; it becomes folders or tags.</summary>
    Group,
    Note,
    Redirect,
    PassQuery,
    Referrer,
    HideFromSearch,
    Nofollow,
    Sponsored,
    NewTab,
    TitleAttribute,
    AnchorText,
    HandoffDeadline,
    EndedText,
    PublishedOn,

    /// <summary>When the link opens.</summary>
    OpensAt,

    /// <summary>When it ends.</summary>
    EndsAt,

    /// <summary>Name of the saved route that the link follows.</summary>
    SavedRoute,

    /// <summary>Pages that share everybody; see <see cref="Routing.SplitText"/>.</summary>
    Split,

    /// <summary>The rules in words, which no line can say: they are only told.</summary>
    Rules,

    /// <summary>When the link was made, there where it comes from.</summary>
    CreatedAt,

    /// <summary>Clicks that were counted there; never mixed with those that Cursus counts.</summary>
    [JsonStringEnumMemberName("brought-along")]
    ImportedClicks,
}
