using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>A new e-mail address that waits until it is confirmed at both addresses. An account has at most one.</summary>
public sealed class EmailChange
{
    /// <summary>How long the links in the two e-mails work.</summary>
    public static readonly Duration Life = Duration.FromDays(1);

    public Guid AccountId { get; init; }

    /// <summary>Named by the links; another change has other links.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    public required string NewEmail { get; init; }
    public bool IsConfirmedByOld { get; set; }
    public bool IsConfirmedByNew { get; set; }
    public Instant ExpiresAt { get; init; }
}
