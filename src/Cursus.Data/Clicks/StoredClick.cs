using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Data.Clicks;

/// <summary>A click as it counts in every report from now on.</summary>
/// <param name="WorkspaceId">Null where the link doesn't exist any more; then the click counts nowhere.</param>
public readonly record struct StoredClick(Guid LinkId, Guid? WorkspaceId, Instant At, EnrichedClick Told);
