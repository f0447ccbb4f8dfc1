using Cursus.Core.Addresses;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Addresses;

internal sealed class AddressesModel : IEntityTypeConfiguration<ShortDomain>, IEntityTypeConfiguration<Link>, IEntityTypeConfiguration<Tag>,
    IEntityTypeConfiguration<Folder>, IEntityTypeConfiguration<AgreedValue>, IEntityTypeConfiguration<TagMerge>
{
    /// <summary>The unique index that a taken slug runs into.</summary>
    public const string SlugIndex = "ix_links_domain_id_slug_key";

    public void Configure(EntityTypeBuilder<ShortDomain> domain)
    {
        domain.ToTable("domains");
        domain.HasOne<Workspace>().WithMany().HasForeignKey(d => d.WorkspaceId);

        // Anybody may prepare a name, but it can be verified for one workspace only.
        domain.HasIndex(d => new { d.WorkspaceId, d.Name }).IsUnique();
        domain.HasIndex(d => d.Name).HasFilter("verified_at is not null").IsUnique().HasDatabaseName("ix_domains_verified_name");
        domain.HasIndex(d => d.WorkspaceId).HasFilter("is_default").IsUnique().HasDatabaseName("ix_domains_default");
        domain.Property(d => d.Name).HasMaxLength(253);
        domain.Property(d => d.Findings).HasColumnType("jsonb").HasDefaultValueSql("'[]'::jsonb");
        domain.HasIndex(d => d.NextCheckAt).HasFilter("next_check_at is not null");
        domain.ComplexProperty(d => d.Options, Options);
    }

    public void Configure(EntityTypeBuilder<Link> link)
    {
        link.HasOne<Workspace>().WithMany().HasForeignKey(l => l.WorkspaceId);
        link.HasOne(l => l.Domain).WithMany().HasForeignKey(l => l.DomainId);
        link.HasOne(l => l.Campaign).WithMany().HasForeignKey(l => l.CampaignId).OnDelete(DeleteBehavior.Restrict);
        link.HasOne(l => l.Channel).WithMany().HasForeignKey(l => l.ChannelId).OnDelete(DeleteBehavior.Restrict);
        link.HasOne<Member>().WithMany().HasForeignKey(l => l.CreatedBy).OnDelete(DeleteBehavior.SetNull);
        link.HasMany(l => l.Tags).WithMany(t => t.Links).UsingEntity(
            "link_tags",
            tagged => tagged.HasOne(typeof(Tag)).WithMany().HasForeignKey("tag_id"),
            tagging => tagging.HasOne(typeof(Link)).WithMany().HasForeignKey("link_id"));
        link.HasOne(l => l.Folder).WithMany().HasForeignKey(l => l.FolderId).OnDelete(DeleteBehavior.SetNull);
        link.HasIndex(l => new { l.DomainId, l.SlugKey }).HasFilter("slug_freed_at is null").IsUnique().HasDatabaseName(SlugIndex);
        link.ComplexProperty(l => l.Options, Options);
        link.HasIndex(l => new { l.WorkspaceId, l.CreatedAt });
        link.Property(l => l.Slug).HasMaxLength(Slug.MaxLength);
        link.Property(l => l.SlugKey).HasMaxLength(Slug.MaxLength);
        link.ToTable(t => t.HasCheckConstraint("ck_links_redirect", "redirect in (301, 302, 307, 308)"));
    }

    public void Configure(EntityTypeBuilder<Tag> tag)
    {
        tag.HasOne<Workspace>().WithMany().HasForeignKey(t => t.WorkspaceId);
        tag.HasIndex(t => new { t.WorkspaceId, t.Name }).IsUnique();
    }

    public void Configure(EntityTypeBuilder<Folder> folder)
    {
        folder.ToTable("folders");
        folder.HasOne<Workspace>().WithMany().HasForeignKey(f => f.WorkspaceId);
        folder.HasIndex(f => new { f.WorkspaceId, f.Name }).IsUnique();
    }

    public void Configure(EntityTypeBuilder<AgreedValue> value)
    {
        value.ToTable("agreed_values");
        value.HasOne<Workspace>().WithMany().HasForeignKey(v => v.WorkspaceId);
        value.HasIndex(v => new { v.WorkspaceId, v.Field, v.Value }).IsUnique();
        value.Property(v => v.Value).HasMaxLength(TagValue.MaxLength);
    }

    public void Configure(EntityTypeBuilder<TagMerge> merge)
    {
        merge.ToTable("tag_merges");
        merge.HasOne<Workspace>().WithMany().HasForeignKey(m => m.WorkspaceId);
        merge.HasOne<Member>().WithMany().HasForeignKey(m => m.MergedBy).OnDelete(DeleteBehavior.SetNull);

        // A spelling is given up for one other only, so that reading a value never follows a chain.
        merge.HasIndex(m => new { m.WorkspaceId, m.Field, m.FromValue }).IsUnique();
    }

    private static void Options(ComplexPropertyBuilder<LinkOptions> options)
    {
        options.Property(o => o.TitleAttribute).HasMaxLength(LinkOptions.MaxText);
        options.Property(o => o.AnchorText).HasMaxLength(LinkOptions.MaxText);
    }
}
