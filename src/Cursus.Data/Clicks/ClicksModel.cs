using Cursus.Core.Clicks;
using Cursus.Data.Addresses;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using NodaTime;

namespace Cursus.Data.Clicks;

/// <summary>Roll-up: clicks of one link on one day of the workspace's time zone. Kept in the transaction that stores the clicks themselves.</summary>
public sealed class LinkDay
{
    public Guid LinkId { get; init; }
    public LocalDate Day { get; init; }
    public ClickKind Kind { get; init; }
    public long Clicks { get; init; }
}

/// <summary>How far one click journal has been shipped. Moves in the transaction that stores the clicks, so none is stored twice.</summary>
public sealed class Journal
{
    /// <summary>High bits of the ids of its clicks.</summary>
    public int Id { get; init; }

    /// <summary>Written in the journal's folder; tells journals apart.</summary>
    public Guid Key { get; init; }

    /// <summary>Everything before this position is in the database.</summary>
    public long ShippedTo { get; init; }
}

/// <summary>The key of one UTC day's visitor hashes. Deleted when the day has passed.</summary>
public sealed class VisitorSalt
{
    public LocalDate Day { get; init; }
    public required byte[] Salt { get; init; }
}

internal sealed class ClicksModel : IEntityTypeConfiguration<LinkDay>, IEntityTypeConfiguration<Journal>, IEntityTypeConfiguration<VisitorSalt>
{
    public void Configure(EntityTypeBuilder<LinkDay> linkDay)
    {
        linkDay.HasKey(d => new { d.LinkId, d.Day, d.Kind });
        linkDay.HasOne<Link>().WithMany().HasForeignKey(d => d.LinkId);
    }

    public void Configure(EntityTypeBuilder<Journal> journal) => journal.HasIndex(j => j.Key).IsUnique();

    public void Configure(EntityTypeBuilder<VisitorSalt> salt) => salt.HasKey(s => s.Day);
}
