using Cursus.Data.Addresses;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Retargeting;

internal sealed class RetargetingModel
    : IEntityTypeConfiguration<Pixel>,
        IEntityTypeConfiguration<OwnNetwork>,
        IEntityTypeConfiguration<HandoffSettings>,
        IEntityTypeConfiguration<PixelDay>,
        IEntityTypeConfiguration<PixelOfLink>,
        IEntityTypeConfiguration<Link>,
        IEntityTypeConfiguration<Post>,
        IEntityTypeConfiguration<Campaign>,
        IEntityTypeConfiguration<Channel>,
        IEntityTypeConfiguration<ShortDomain>
{
    public void Configure(EntityTypeBuilder<Pixel> pixel)
    {
        pixel.ToTable("pixels");
        pixel.HasOne<Workspace>().WithMany().HasForeignKey(p => p.WorkspaceId);
        pixel.HasIndex(p => new { p.WorkspaceId, p.Name }).IsUnique();
        pixel
            .HasIndex(p => new
            {
                p.WorkspaceId,
                p.Network,
                p.Reference,
            })
            .IsUnique();
    }

    public void Configure(EntityTypeBuilder<OwnNetwork> network)
    {
        network.ToTable("ad_networks");
        network.HasOne<Workspace>().WithMany().HasForeignKey(n => n.WorkspaceId);
        network.HasIndex(n => new { n.WorkspaceId, n.Key }).IsUnique();
        network.Property(n => n.Description).HasColumnType("jsonb");
    }

    public void Configure(EntityTypeBuilder<HandoffSettings> settings)
    {
        settings.ToTable("handoff_settings");
        settings.HasKey(s => s.WorkspaceId);
        settings.HasOne<Workspace>().WithOne().HasForeignKey<HandoffSettings>(s => s.WorkspaceId);
        settings.Property(s => s.Questions).HasColumnType("jsonb");
    }

    public void Configure(EntityTypeBuilder<PixelDay> day)
    {
        day.ToTable("pixel_days");
        day.HasKey(d => new
        {
            d.PixelId,
            d.LinkId,
            d.Day,
        });
        day.HasOne<Pixel>().WithMany().HasForeignKey(d => d.PixelId);
        day.HasOne<Link>().WithMany().HasForeignKey(d => d.LinkId);
    }

    public void Configure(EntityTypeBuilder<PixelOfLink> pixel) =>
        pixel
            .ToView("pixels_of_links")
            .HasKey(p => new
            {
                p.LinkId,
                p.PixelId,
                p.Place,
            });

    public void Configure(EntityTypeBuilder<Link> link) => Attach(link, l => l.Pixels, "link");

    public void Configure(EntityTypeBuilder<Post> post) => Attach(post, p => p.Pixels, "post");

    public void Configure(EntityTypeBuilder<Campaign> campaign) => Attach(campaign, c => c.Pixels, "campaign");

    public void Configure(EntityTypeBuilder<Channel> channel) => Attach(channel, c => c.Pixels, "channel");

    public void Configure(EntityTypeBuilder<ShortDomain> domain) => Attach(domain, d => d.Pixels, "domain");

    /// <summary>Pixels that fire for everything of one link, post, campaign, channel or domain.</summary>
    private static void Attach<T>(EntityTypeBuilder<T> owner, System.Linq.Expressions.Expression<Func<T, IEnumerable<Pixel>?>> pixels, string name)
        where T : class =>
        owner
            .HasMany(pixels)
            .WithMany()
            .UsingEntity(
                $"{name}_pixels",
                attached => attached.HasOne(typeof(Pixel)).WithMany().HasForeignKey("pixel_id"),
                attaching => attaching.HasOne(typeof(T)).WithMany().HasForeignKey($"{name}_id")
            );
}
