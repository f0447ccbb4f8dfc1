using Cursus.Data.Links;
using Cursus.Data.Retargeting;
using NodaTime;

namespace Cursus.Data.Posts;

/// <summary>One piece of content that goes out on several channels.</summary>
public sealed class Post
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public required string Title { get; set; }

    /// <summary>As the marketer entered it.</summary>
    public required string Destination { get; set; }

    public Guid CampaignId { get; set; }

    /// <summary>The day it goes out, in the workspace's time zone.</summary>
    public LocalDate PublishedOn { get; set; }

    public Instant CreatedAt { get; init; }
    public Guid? CreatedBy { get; init; }

    public Campaign? Campaign { get; set; }
    public List<Placement> Placements { get; init; } = [];

    /// <summary>Pixels that fire for all its links.</summary>
    public List<Pixel> Pixels { get; init; } = [];
}

/// <summary>A post in one channel, with exactly one link. A channel that carries the post twice tells the two apart by variant.</summary>
public sealed class Placement
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid PostId { get; init; }
    public Guid LinkId { get; init; }
    public string? Variant { get; set; }

    /// <summary>To which part of the channel's readers this variant was shown, in per cent; null where no split was set, so that all variants count
    /// as shown alike.</summary>
    public int? Exposure { get; set; }

    /// <summary>Order within the post.</summary>
    public int Position { get; set; }

    public Post? Post { get; init; }
    public Link? Link { get; init; }
}
