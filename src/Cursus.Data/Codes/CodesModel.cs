using Cursus.Data.Links;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Codes;

internal sealed class CodesModel
    : IEntityTypeConfiguration<SavedCodeStyle>,
        IEntityTypeConfiguration<LinkCode>,
        IEntityTypeConfiguration<SavedCodeLogo>,
        IEntityTypeConfiguration<Link>
{
    public void Configure(EntityTypeBuilder<SavedCodeStyle> style)
    {
        style.ToTable("code_styles");
        style.HasOne<Workspace>().WithMany().HasForeignKey(s => s.WorkspaceId);
        style.HasOne<SavedCodeLogo>().WithMany().HasForeignKey(s => s.LogoId).OnDelete(DeleteBehavior.Restrict);
        style.HasIndex(s => new { s.WorkspaceId, s.Name }).IsUnique();
        style.HasIndex(s => s.WorkspaceId).IsUnique().HasFilter("is_default").HasDatabaseName("ix_code_styles_default");
        style.Property(s => s.Style).HasColumnType("jsonb");
    }

    public void Configure(EntityTypeBuilder<LinkCode> code)
    {
        code.ToTable("link_codes");
        code.HasKey(c => new { c.LinkId, c.Number });
        code.HasOne<Link>().WithMany().HasForeignKey(c => c.LinkId);
    }

    public void Configure(EntityTypeBuilder<SavedCodeLogo> logo)
    {
        logo.ToTable("code_logos");
        logo.HasOne<Workspace>().WithMany().HasForeignKey(l => l.WorkspaceId);
        logo.HasIndex(l => l.WorkspaceId);
        logo.Property(l => l.Shapes).HasColumnType("jsonb");
    }

    public void Configure(EntityTypeBuilder<Link> link) =>
        link.HasOne<SavedCodeStyle>().WithMany().HasForeignKey(l => l.CodeStyleId).OnDelete(DeleteBehavior.SetNull);
}
