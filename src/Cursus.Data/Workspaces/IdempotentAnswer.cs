using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>The answer to a POST that carried an <c>Idempotency-Key</c>, kept for an hour so that a repeat gets the same answer.</summary>
public sealed class IdempotentAnswer
{
    public static readonly Duration Life = Duration.FromHours(1);

    public Guid MemberId { get; init; }
    public required string Key { get; init; }

    /// <summary>Method, path, query and SHA-256 of the body: the same key with another request is a mistake.</summary>
    public required string Request { get; init; }

    /// <summary>Null while the first request is still running.</summary>
    public int? Status { get; set; }

    public string? ContentType { get; set; }

    /// <summary>Header <c>Location</c>: where what was made can be read.</summary>
    public string? Location { get; set; }

    /// <summary>Header <c>ETag</c>: its version.</summary>
    public string? EntityTag { get; set; }

    /// <summary>Null where it holds a secret, or is too large to be kept.</summary>
    public byte[]? Body { get; set; }

    /// <summary>Moved on while the first request runs. Where it has passed and there is no status, the process has died over it, and the key is free
    /// again.</summary>
    public Instant AliveUntil { get; set; }
    public Instant CreatedAt { get; init; }
}
