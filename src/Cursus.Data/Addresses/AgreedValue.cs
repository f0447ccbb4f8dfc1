using Cursus.Core.Addresses.Tagging;
using NodaTime;

namespace Cursus.Data.Addresses;

/// <summary>A term or content value that the workspace has agreed on. Sources and mediums are agreed by channels, campaign values by
/// campaigns.</summary>
public sealed class AgreedValue
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public TagField Field { get; init; }
    public required string Value { get; init; }
}

/// <summary>Two spellings of one UTM value counted as one. Links keep what was recorded; what is sent and reported is the agreed value.</summary>
public sealed class TagMerge
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public TagField Field { get; init; }

    /// <summary>The spelling to replace.</summary>
    public required string FromValue { get; init; }

    /// <summary>The agreed one.</summary>
    public required string IntoValue { get; init; }

    public Instant MergedAt { get; init; }
    public Guid? MergedBy { get; init; }
}
