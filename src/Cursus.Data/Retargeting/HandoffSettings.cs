using Cursus.Core.Retargeting;

namespace Cursus.Data.Retargeting;

/// <summary>Whom a workspace asks before pixels fire, in which words, and how its handoff page looks. A workspace without a row has the
/// defaults.</summary>
public sealed class HandoffSettings
{
    public Guid WorkspaceId { get; init; }

    /// <summary>Asking is the default where the law of most visitors would have it so.</summary>
    public ConsentMode Consent { get; set; } = ConsentMode.Listed;

    /// <summary>Codes of ISO 3166-1 whose visitors are asked.</summary>
    public string[] Countries { get; set; } = [.. Core.Retargeting.Consent.DefaultCountries];

    /// <summary>JSON: the workspace's own question by language, in place of the shipped one.</summary>
    public string Questions { get; set; } = "{}";

    /// <summary>Page about data and privacy; null for none.</summary>
    public string? PrivacyPage { get; set; }

    /// <summary>Line of text on the handoff page; null leaves it blank.</summary>
    public string? Line { get; set; }

    /// <summary>Small picture as a data address; null for none.</summary>
    public string? Logo { get; set; }

    public string Paper { get; set; } = HandoffLook.Blank.Paper;
    public string Ink { get; set; } = HandoffLook.Blank.Ink;
}
