using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Data.Clicks;

/// <summary>A click as it counts in every report from now on.</summary>
public readonly record struct StoredClick(Guid LinkId, Instant At, ToldClick Told);
