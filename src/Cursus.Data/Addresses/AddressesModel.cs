using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Addresses.Tagging;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Addresses;

internal sealed class AddressesModel
    : IEntityTypeConfiguration<ShortDomain>,
        IEntityTypeConfiguration<ShortAddress>,
        IEntityTypeConfiguration<AgreedValue>,
        IEntityTypeConfiguration<TagMerge>
{
    /// <summary>What a taken slug runs into.</summary>
    public const string AddressKey = "pk_addresses";

    public void Configure(EntityTypeBuilder<ShortAddress> address)
    {
        // No foreign keys: what it is written from has them.
        address.ToTable("addresses");
        address.HasKey(a => new { a.DomainId, a.SlugKey }).HasName(AddressKey);
        address.Property(a => a.SlugKey).HasMaxLength(Slug.MaxLength);
    }

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
        domain.ComplexProperty(d => d.Options);
    }

    public void Configure(EntityTypeBuilder<AgreedValue> value)
    {
        value.ToTable("agreed_values");
        value.HasOne<Workspace>().WithMany().HasForeignKey(v => v.WorkspaceId);
        value
            .HasIndex(v => new
            {
                v.WorkspaceId,
                v.Field,
                v.Value,
            })
            .IsUnique();
        value.Property(v => v.Value).HasMaxLength(TagValue.MaxLength);
    }

    public void Configure(EntityTypeBuilder<TagMerge> merge)
    {
        merge.ToTable("tag_merges");
        merge.HasOne<Workspace>().WithMany().HasForeignKey(m => m.WorkspaceId);
        merge.HasOne<Member>().WithMany().HasForeignKey(m => m.MergedBy).OnDelete(DeleteBehavior.SetNull);

        // A spelling is given up for one other only, so that reading a value never follows a chain.
        merge
            .HasIndex(m => new
            {
                m.WorkspaceId,
                m.Field,
                m.FromValue,
            })
            .IsUnique();
    }
}
