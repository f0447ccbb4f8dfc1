using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Reports;

internal sealed class ReportsModel : IEntityTypeConfiguration<SavedView>, IEntityTypeConfiguration<ViewShare>
{
    public void Configure(EntityTypeBuilder<SavedView> view)
    {
        view.HasOne<Workspace>().WithMany().HasForeignKey(v => v.WorkspaceId);
        view.HasOne(v => v.Creator).WithMany().HasForeignKey(v => v.CreatedBy).OnDelete(DeleteBehavior.SetNull);
        view.HasIndex(v => new { v.WorkspaceId, v.Name }).IsUnique();
    }

    public void Configure(EntityTypeBuilder<ViewShare> share)
    {
        share.HasOne(s => s.View).WithMany(v => v.Shares).HasForeignKey(s => s.ViewId);
        share.HasIndex(s => s.Hash).IsUnique();
    }
}
