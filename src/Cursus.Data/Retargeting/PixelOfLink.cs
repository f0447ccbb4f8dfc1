namespace Cursus.Data.Retargeting;

/// <summary>A pixel that fires for a link, as the view <c>pixels_of_links</c> says it. One that is attached at several places stands several
/// times.</summary>
public sealed class PixelOfLink
{
    public Guid LinkId { get; init; }
    public Guid PixelId { get; init; }

    /// <summary>Where it is attached: <c>link</c>, <c>post</c>, <c>campaign</c>, <c>channel</c> or <c>domain</c>.</summary>
    public required string Place { get; init; }
}
