using Cursus.Core.Addresses;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Addresses;

internal sealed class AddressesModel : IEntityTypeConfiguration<ShortDomain>, IEntityTypeConfiguration<Link>, IEntityTypeConfiguration<Tag>
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
        link.HasIndex(l => new { l.DomainId, l.SlugKey }).IsUnique().HasDatabaseName(SlugIndex);
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
}
