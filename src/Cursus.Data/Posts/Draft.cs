using NodaTime;

namespace Cursus.Data.Posts;

/// <summary>A post that one member has begun and not sent. Nobody else sees it.</summary>
public sealed class Draft
{
    /// <summary>Made by the sheet, so that its first save needs no answer.</summary>
    public Guid Id { get; init; }

    public Guid WorkspaceId { get; init; }
    public Guid MemberId { get; init; }

    /// <summary>JSON: the request that would make the post.</summary>
    public required string Content { get; set; }

    public Instant UpdatedAt { get; set; }
}
