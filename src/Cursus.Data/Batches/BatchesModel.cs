using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Batches;

internal sealed class BatchesModel : IEntityTypeConfiguration<Batch>, IEntityTypeConfiguration<BatchLine>, IEntityTypeConfiguration<ListMapping>
{
    public void Configure(EntityTypeBuilder<Batch> batch)
    {
        batch.ToTable("batches");
        batch.HasOne<Workspace>().WithMany().HasForeignKey(b => b.WorkspaceId);
        batch.HasOne<Member>().WithMany().HasForeignKey(b => b.CreatedBy).OnDelete(DeleteBehavior.SetNull);
        batch.HasIndex(b => new { b.WorkspaceId, b.CreatedAt });
        batch.Property(b => b.FolderIds).HasDefaultValueSql("'{}'::uuid[]");
        batch.HasMany(b => b.Lines).WithOne().HasForeignKey(l => l.BatchId);
    }

    public void Configure(EntityTypeBuilder<BatchLine> line)
    {
        line.ToTable("batch_lines");
        line.HasOne(l => l.Link).WithMany().HasForeignKey(l => l.LinkId).OnDelete(DeleteBehavior.Cascade);
        line.HasIndex(l => new { l.BatchId, l.Line });
    }

    public void Configure(EntityTypeBuilder<ListMapping> mapping)
    {
        mapping.ToTable("list_mappings");
        mapping.HasKey(m => new { m.WorkspaceId, m.ColumnsKey });
        mapping.HasOne<Workspace>().WithMany().HasForeignKey(m => m.WorkspaceId);
        mapping.Property(m => m.Choices).HasColumnType("jsonb");
    }
}
