using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Core.Clicks.Tallies;
using Cursus.Data.Posts;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using NodaTime;

namespace Cursus.Data.Clicks;

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

/// <summary>The key of one day's visitor hashes in one time zone. Kept apart from the clicks, and deleted when the day has passed there.</summary>
public sealed class VisitorSalt
{
    public required string TimeZone { get; init; }
    public LocalDate Day { get; init; }

    /// <summary>When the day ends.</summary>
    public Instant EndsAt { get; init; }

    public required byte[] Salt { get; init; }
}

/// <summary>A user agent that has clicked, with what it tells: with its text, read when it is first seen and anew when the lists that it is read by
/// have changed; or, without one, what many agents were read as.</summary>
public sealed class UserAgent
{
    public int Id { get; init; }

    /// <summary>As sent, cut to <see cref="Click.MaxUserAgent"/> characters; null where it isn't kept (<see cref="UserAgentRetention"/>).</summary>
    public string? Text { get; init; }

    /// <summary>What requests told beside it; see <see cref="RequestTraits.ToNumber"/>.</summary>
    public short Hints { get; init; }

    public ClickKind Kind { get; set; }
    public required string Device { get; set; }
    public required string Browser { get; set; }
    public required string Os { get; set; }

    /// <summary>Which state of the lists it was read by.</summary>
    public required string ReadWith { get; set; }

    /// <summary>Day, in UTC, on which its text was sent last; null where the text isn't kept.</summary>
    public LocalDate? SeenOn { get; set; }
}

/// <summary>Up to when clicks lead to what their user agents were read as, no longer to the texts. There is at most one.</summary>
public sealed class PartedClicks
{
    public Instant Until { get; init; }
}

/// <summary>A host that visitors came from, with what is known of it everywhere.</summary>
public sealed class Referrer
{
    public required string Host { get; init; }

    /// <summary>Name of the network it belongs to; the host's own where nothing is known.</summary>
    public required string Network { get; set; }

    public SiteKind Kind { get; set; }

    /// <summary>Which state of the list it was read by.</summary>
    public required string ReadWith { get; set; }
}

/// <summary>What a workspace knows better of a host: which channel visitors from there came over, or that it is the organisation's own
/// site.</summary>
public sealed class ReferrerRule
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }

    /// <summary>A host; the rule holds for it and for all names below it. The longest rule that fits is taken.</summary>
    public required string Host { get; set; }

    /// <summary>The channel; null where the host is the organisation's own.</summary>
    public Guid? ChannelId { get; set; }
}

internal sealed class ClicksModel
    : IEntityTypeConfiguration<LinkDay>,
        IEntityTypeConfiguration<OpenDay>,
        IEntityTypeConfiguration<LinkMonth>,
        IEntityTypeConfiguration<LinkTotal>,
        IEntityTypeConfiguration<SealedDays>,
        IEntityTypeConfiguration<UserAgent>,
        IEntityTypeConfiguration<PartedClicks>,
        IEntityTypeConfiguration<Referrer>,
        IEntityTypeConfiguration<ReferrerRule>,
        IEntityTypeConfiguration<Journal>,
        IEntityTypeConfiguration<VisitorSalt>
{
    public void Configure(EntityTypeBuilder<LinkDay> linkDay)
    {
        linkDay.ToTable("link_days");
        linkDay.ToView("days_of_links");
        linkDay.HasKey(d => new { d.LinkId, d.Day });
        linkDay.HasIndex(d => d.Day);

        // No foreign key: it would look each link up for each day that is written. A trigger takes the days of deleted links away.
    }

    public void Configure(EntityTypeBuilder<OpenDay> openDay)
    {
        openDay.ToTable("open_days");
        openDay.HasKey(d => new { d.LinkId, d.Day });
        foreach (var tally in DayTally.All)
        {
            openDay.Property<string[]>($"{NameOf(tally)}Values").IsRequired();
            openDay.Property<int[]>($"{NameOf(tally)}Counts").IsRequired();
        }
    }

    public void Configure(EntityTypeBuilder<LinkMonth> linkMonth)
    {
        linkMonth.HasKey(m => new { m.LinkId, m.Month });
        linkMonth.HasIndex(m => m.Month);
        foreach (var tally in DayTally.All)
        {
            linkMonth.Property<byte[]>(NameOf(tally)).IsRequired();
        }
    }

    private static string NameOf(DayTally tally) => char.ToUpperInvariant(tally.Name[0]) + tally.Name[1..];

    public void Configure(EntityTypeBuilder<LinkTotal> total)
    {
        total.ToTable("link_totals");
        total.HasKey(t => t.LinkId);
    }

    public void Configure(EntityTypeBuilder<SealedDays> days)
    {
        days.ToTable("sealed_days");
        days.HasKey(d => d.Until);
    }

    public void Configure(EntityTypeBuilder<UserAgent> agent)
    {
        agent.HasIndex(a => new { a.Text, a.Hints }).IsUnique();
        agent
            .HasIndex(a => new
            {
                a.Kind,
                a.Device,
                a.Browser,
                a.Os,
                a.ReadWith,
            })
            .IsUnique()
            .HasFilter("text is null");
    }

    public void Configure(EntityTypeBuilder<PartedClicks> parted)
    {
        parted.ToTable("parted_clicks");
        parted.HasKey(p => p.Until);
    }

    public void Configure(EntityTypeBuilder<Referrer> referrer) => referrer.HasKey(r => r.Host);

    public void Configure(EntityTypeBuilder<ReferrerRule> rule)
    {
        rule.HasOne<Workspace>().WithMany().HasForeignKey(r => r.WorkspaceId);
        rule.HasOne<Channel>().WithMany().HasForeignKey(r => r.ChannelId).OnDelete(DeleteBehavior.Cascade);
        rule.HasIndex(r => new { r.WorkspaceId, r.Host }).IsUnique();
        rule.Property(r => r.Host).HasMaxLength(ReferrerHost.MaxLength);
    }

    public void Configure(EntityTypeBuilder<Journal> journal) => journal.HasIndex(j => j.Key).IsUnique();

    public void Configure(EntityTypeBuilder<VisitorSalt> salt)
    {
        // Its migration makes it unlogged.
        salt.ToTable("visitor_salts", "ephemeral");
        salt.HasKey(s => new { s.TimeZone, s.Day });
    }
}
