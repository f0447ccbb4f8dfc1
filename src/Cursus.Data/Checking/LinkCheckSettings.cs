namespace Cursus.Data.Checking;

/// <summary>How a workspace has its links checked. One without a row has the defaults.</summary>
public sealed class LinkCheckSettings
{
    public Guid WorkspaceId { get; init; }

    /// <summary>Whether destinations are asked at all.</summary>
    public bool IsOn { get; set; } = true;

    /// <summary>See <see cref="Core.Checking.GoneWords"/>.</summary>
    public string[] GoneWords { get; set; } = [.. Core.Checking.GoneWords.Defaults];

    /// <summary>Where visitors go while a destination is dead, unless link or campaign say otherwise; null leads them to the dead page.</summary>
    public string? Fallback { get; set; }
}
