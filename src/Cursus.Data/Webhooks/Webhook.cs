using NodaTime;

namespace Cursus.Data.Webhooks;

/// <summary>An address of another program that is told what happens in a workspace.</summary>
public sealed class Webhook
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public required string Address { get; set; }

    /// <summary>What it is told of.</summary>
    public required WebhookEventKind[] Events { get; set; }

    /// <summary>What its messages are signed with, sealed with the installation's keys.</summary>
    public required string Secret { get; init; }

    public Instant CreatedAt { get; init; }

    /// <summary>Since when every delivery has failed; null where the last one went well.</summary>
    public Instant? FailingSince { get; set; }

    /// <summary>Since when it is told nothing.</summary>
    public Instant? PausedAt { get; set; }

    /// <summary>Why it was paused, where nobody did it by hand.</summary>
    public string? PausedWhy { get; set; }
}

/// <summary>What webhooks tell of.</summary>
public enum WebhookEventKind : short
{
    /// <summary>To see whether the receiver answers.</summary>
    Test = 0,
    LinkCreated = 1,
    DestinationChanged = 2,
    PageDied = 3,
    PageBack = 4,
    MilestoneReached = 5,
    DigestReady = 6,
}

/// <summary>Something that happened, not yet told. Triggers write most of them, in the transaction that did it, where a webhook asks.</summary>
public sealed class WebhookEvent
{
    public long Id { get; init; }
    public Guid WorkspaceId { get; init; }
    public WebhookEventKind Kind { get; init; }

    /// <summary>The link or page; null for the digest.</summary>
    public Guid? Thing { get; init; }

    /// <summary>The destination before, the milestone, or the digest's week.</summary>
    public string? Detail { get; init; }

    public Instant At { get; init; }
}

/// <summary>One message to one webhook, and what came of it.</summary>
public sealed class WebhookDelivery
{
    /// <summary>How long they stay in the log.</summary>
    public static readonly Duration Life = Duration.FromDays(30);

    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WebhookId { get; init; }
    public WebhookEventKind Kind { get; init; }

    /// <summary>JSON, kept as it is signed.</summary>
    public required string Body { get; init; }

    public Instant CreatedAt { get; init; }

    /// <summary>Null where it has arrived, or was given up.</summary>
    public Instant? NextTryAt { get; set; }

    public int Tries { get; set; }
    public Instant? DeliveredAt { get; set; }

    /// <summary>What the receiver answered last (RFC 9110); null where it didn't.</summary>
    public int? Status { get; set; }

    /// <summary>Why the last try failed, in words.</summary>
    public string? Failure { get; set; }

    public Webhook? Webhook { get; init; }
}
