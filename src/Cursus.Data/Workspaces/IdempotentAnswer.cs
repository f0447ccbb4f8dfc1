using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>The answer to a POST that carried an <c>Idempotency-Key</c>, kept for a day so that a repeat gets the same answer.</summary>
public sealed class IdempotentAnswer
{
    public Guid MemberId { get; init; }
    public required string Key { get; init; }

    /// <summary>Method, path and SHA-256 of the body: the same key with another request is a mistake.</summary>
    public required string Request { get; init; }

    /// <summary>Null while the first request is still running.</summary>
    public int? Status { get; set; }

    public string? ContentType { get; set; }
    public byte[]? Body { get; set; }
    public Instant CreatedAt { get; init; }
}
