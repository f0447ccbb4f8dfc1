using Cursus.Data.Workspaces;
using NodaTime;

namespace Cursus.Data.Reports;

/// <summary>A question that was kept under a name, to be asked again and again.</summary>
public sealed class SavedView
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public required string Name { get; set; }

    /// <summary>The question as a query string, with how it is shown.</summary>
    public required string Question { get; set; }

    /// <summary>Whether it stands above every question.</summary>
    public bool IsPinned { get; set; }

    public Guid? CreatedBy { get; init; }
    public Instant CreatedAt { get; init; }

    public Member? Creator { get; init; }
    public ICollection<ViewShare> Shares { get; } = [];
}
