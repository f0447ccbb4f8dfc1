using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Posts;

internal sealed class PostsModel
    : IEntityTypeConfiguration<Channel>,
        IEntityTypeConfiguration<Campaign>,
        IEntityTypeConfiguration<Post>,
        IEntityTypeConfiguration<Placement>,
        IEntityTypeConfiguration<Recipe>,
        IEntityTypeConfiguration<Draft>
{
    public void Configure(EntityTypeBuilder<Channel> channel)
    {
        channel.HasOne<Workspace>().WithMany().HasForeignKey(c => c.WorkspaceId);
        channel.HasIndex(c => new { c.WorkspaceId, c.Key }).IsUnique();
    }

    public void Configure(EntityTypeBuilder<Campaign> campaign)
    {
        campaign.HasOne<Workspace>().WithMany().HasForeignKey(c => c.WorkspaceId);
        campaign.HasIndex(c => new { c.WorkspaceId, c.Key }).IsUnique();
        campaign.HasOne<Recipe>().WithMany().HasForeignKey(c => c.RecipeId).OnDelete(DeleteBehavior.SetNull);
    }

    public void Configure(EntityTypeBuilder<Post> post)
    {
        post.HasOne<Workspace>().WithMany().HasForeignKey(p => p.WorkspaceId);
        post.HasOne(p => p.Campaign).WithMany().HasForeignKey(p => p.CampaignId).OnDelete(DeleteBehavior.Restrict);
        post.HasOne<Member>().WithMany().HasForeignKey(p => p.CreatedBy).OnDelete(DeleteBehavior.SetNull);
        post.HasIndex(p => new { p.WorkspaceId, p.PublishedOn });
    }

    public void Configure(EntityTypeBuilder<Placement> placement)
    {
        placement.HasOne(p => p.Post).WithMany(p => p.Placements).HasForeignKey(p => p.PostId);
        placement.HasOne(p => p.Link).WithOne(l => l.Placement).HasForeignKey<Placement>(p => p.LinkId);
    }

    public void Configure(EntityTypeBuilder<Recipe> recipe)
    {
        recipe.ToTable("recipes");
        recipe.HasOne<Workspace>().WithMany().HasForeignKey(r => r.WorkspaceId);
        recipe.HasIndex(r => new { r.WorkspaceId, r.Name }).IsUnique();
        recipe.Property(r => r.Content).HasColumnType("jsonb");
    }

    public void Configure(EntityTypeBuilder<Draft> draft)
    {
        draft.ToTable("drafts");
        draft.HasOne<Workspace>().WithMany().HasForeignKey(d => d.WorkspaceId);
        draft.HasOne<Member>().WithMany().HasForeignKey(d => d.MemberId);
        draft.HasIndex(d => new { d.MemberId, d.UpdatedAt });
        draft.Property(d => d.Content).HasColumnType("jsonb");
    }
}
