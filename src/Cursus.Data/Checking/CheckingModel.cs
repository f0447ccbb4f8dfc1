using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Checking;

internal sealed class CheckingModel : IEntityTypeConfiguration<CheckedPage>, IEntityTypeConfiguration<LinkCheckSettings>
{
    public void Configure(EntityTypeBuilder<CheckedPage> page)
    {
        page.ToTable("checked_pages");
        page.Ignore(p => p.State);
        page.HasOne<Workspace>().WithMany().HasForeignKey(p => p.WorkspaceId);
        page.HasIndex(p => new { p.WorkspaceId, p.Key }).IsUnique();
        page.HasIndex(p => p.NextCheckAt).HasFilter("next_check_at is not null");
        page.HasIndex(p => p.WorkspaceId).HasFilter("needs_care").HasDatabaseName("ix_checked_pages_needing_care");
        page.Property(p => p.Site)
            .HasComputedColumnSql("lower(substring(regexp_replace(address, '^[A-Za-z]+:/*', '') from '^[^/?]*'))", stored: true);
        page.Property(p => p.Verdict).HasColumnType("smallint");
        page.Property(p => p.Trouble).HasColumnType("smallint");
    }

    public void Configure(EntityTypeBuilder<LinkCheckSettings> settings)
    {
        settings.ToTable("link_check_settings");
        settings.HasKey(s => s.WorkspaceId);
        settings.HasOne<Workspace>().WithMany().HasForeignKey(s => s.WorkspaceId);
    }
}
