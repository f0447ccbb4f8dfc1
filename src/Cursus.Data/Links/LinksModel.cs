using Cursus.Core.Addresses.Slugs;
using Cursus.Data.Clicks;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Links;

internal sealed class LinksModel
    : IEntityTypeConfiguration<Link>,
        IEntityTypeConfiguration<Tag>,
        IEntityTypeConfiguration<Folder>,
        IEntityTypeConfiguration<LinkAlias>,
        IEntityTypeConfiguration<RoutedPage>,
        IEntityTypeConfiguration<LinkVersion>,
        IEntityTypeConfiguration<LinkChange>,
        IEntityTypeConfiguration<LinkText>,
        IEntityTypeConfiguration<SavedFilter>,
        IEntityTypeConfiguration<SavedRoute>,
        IEntityTypeConfiguration<SavedRouteVersion>
{
    public void Configure(EntityTypeBuilder<Link> link)
    {
        link.HasOne<Workspace>().WithMany().HasForeignKey(l => l.WorkspaceId);
        link.HasOne(l => l.Domain).WithMany().HasForeignKey(l => l.DomainId);
        link.HasOne(l => l.Campaign).WithMany().HasForeignKey(l => l.CampaignId).OnDelete(DeleteBehavior.Restrict);
        link.HasOne(l => l.Channel).WithMany().HasForeignKey(l => l.ChannelId).OnDelete(DeleteBehavior.Restrict);
        link.HasOne<Member>().WithMany().HasForeignKey(l => l.CreatedBy).OnDelete(DeleteBehavior.SetNull);
        link.HasMany(l => l.Tags)
            .WithMany(t => t.Links)
            .UsingEntity(
                "link_tags",
                tagged => tagged.HasOne(typeof(Tag)).WithMany().HasForeignKey("tag_id"),
                tagging => tagging.HasOne(typeof(Link)).WithMany().HasForeignKey("link_id")
            );
        link.HasOne(l => l.Folder).WithMany().HasForeignKey(l => l.FolderId).OnDelete(DeleteBehavior.SetNull);
        link.HasOne<SavedRoute>().WithMany().HasForeignKey(l => l.RouteId).OnDelete(DeleteBehavior.SetNull);
        link.HasIndex(l => l.RouteId).HasFilter("route_id is not null");
        link.ComplexProperty(l => l.Options);
        // Reports ask for the ids of all links, which are read from the index alone.
        link.HasIndex(l => new { l.WorkspaceId, l.Id });
        link.HasIndex(l => new { l.WorkspaceId, l.CreatedAt });
        link.HasIndex(l => new { l.WorkspaceId, l.Title });
        link.HasIndex(l => new { l.WorkspaceId, l.EndsAt })
            .HasFilter("opens_at is not null or ends_at is not null")
            .HasDatabaseName("ix_links_with_span");
        link.HasIndex(l => l.ChangeId).HasFilter("change_id is not null");
        // The name that archives of earlier versions have.
        link.Property(l => l.ImportedClicks).HasColumnName("brought_along");
        link.Property(l => l.PageKey).HasComputedColumnSql("md5(split_part(destination, '#', 1))::uuid", stored: true);
        link.HasIndex(l => new { l.WorkspaceId, l.PageKey });
        link.Property(l => l.LastRule).HasDefaultValue((short)0);
        link.Property(l => l.Version).HasDefaultValue(1).IsConcurrencyToken();
        link.HasOne(l => l.Text).WithOne().HasForeignKey<LinkText>(t => t.LinkId);
        link.HasOne(l => l.Total).WithOne().HasForeignKey<LinkTotal>(t => t.LinkId);
        link.Property(l => l.Slug).HasMaxLength(Slug.MaxLength);
        link.Property(l => l.SlugKey).HasMaxLength(Slug.MaxLength);
        link.Ignore(l => l.Schedule);
        link.ToTable(t => t.HasCheckConstraint("ck_links_redirect", "redirect in (301, 302, 307, 308)"));
        link.ToTable(t => t.HasCheckConstraint("ck_links_span", "ends_at > opens_at"));
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

    public void Configure(EntityTypeBuilder<LinkAlias> alias)
    {
        alias.ToTable("link_aliases");
        alias.HasOne(a => a.Link).WithMany(l => l.Aliases).HasForeignKey(a => a.LinkId);
        alias.HasOne(a => a.Domain).WithMany().HasForeignKey(a => a.DomainId);
        alias.HasIndex(a => new { a.DomainId, a.SlugKey }).IsUnique();
        alias.Property(a => a.Slug).HasMaxLength(Slug.MaxLength);
        alias.Property(a => a.SlugKey).HasMaxLength(Slug.MaxLength);
    }

    public void Configure(EntityTypeBuilder<RoutedPage> page)
    {
        page.ToTable("routed_pages");
        page.HasKey(p => new { p.LinkId, p.Number });
        page.HasOne<Link>().WithMany(l => l.RoutedPages).HasForeignKey(p => p.LinkId);
        page.Property(p => p.PageKey).HasComputedColumnSql("md5(split_part(destination, '#', 1))::uuid", stored: true);
        page.HasIndex(p => p.PageKey).HasFilter("is_used");
    }

    public void Configure(EntityTypeBuilder<LinkVersion> version)
    {
        version.ToTable("link_versions");
        version.HasKey(v => new { v.LinkId, v.Number });
        version.HasOne<Link>().WithMany().HasForeignKey(v => v.LinkId);
        version.Property(v => v.State).HasColumnType("jsonb");
    }

    public void Configure(EntityTypeBuilder<LinkChange> change)
    {
        change.ToTable("link_changes");
        change.HasOne<Workspace>().WithMany().HasForeignKey(c => c.WorkspaceId);
        change.HasIndex(c => new { c.WorkspaceId, c.MadeAt });
    }

    public void Configure(EntityTypeBuilder<LinkText> text)
    {
        text.ToTable("link_texts");
        text.HasKey(t => t.LinkId);
        text.HasIndex(t => t.Words).HasMethod("gin").HasOperators("gin_trgm_ops");
        text.HasIndex(t => t.Vector).HasMethod("gin");
    }

    public void Configure(EntityTypeBuilder<SavedFilter> filter)
    {
        filter.ToTable("saved_filters");
        filter.HasOne<Workspace>().WithMany().HasForeignKey(f => f.WorkspaceId);
        filter.HasIndex(f => new { f.WorkspaceId, f.Name }).IsUnique();
    }

    public void Configure(EntityTypeBuilder<SavedRoute> route)
    {
        route.ToTable("saved_routes");
        route.HasOne<Workspace>().WithMany().HasForeignKey(r => r.WorkspaceId);
        route.HasIndex(r => new { r.WorkspaceId, r.Name }).IsUnique();
        route.Property(r => r.Version).IsConcurrencyToken();
    }

    public void Configure(EntityTypeBuilder<SavedRouteVersion> version)
    {
        version.ToTable("saved_route_versions");
        version.HasKey(v => new { v.RouteId, v.Number });
        version.HasOne<SavedRoute>().WithMany().HasForeignKey(v => v.RouteId);
    }
}
