namespace Cursus.Web.Background;

/// <summary>Section <c>Cursus:Background</c> of the configuration.</summary>
internal sealed class BackgroundOptions
{
    /// <summary>Whether this process takes part in background work.</summary>
    public bool IsOn { get; init; } = true;
}
