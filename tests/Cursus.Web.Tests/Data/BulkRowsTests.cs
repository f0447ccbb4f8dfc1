using System.Text.Json;
using Cursus.Core.Addresses;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Batches;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Tests.Data;

/// <summary>Rows that are written by COPY are the very rows that EF would have written.</summary>
public class BulkRowsTests(CursusApp app)
{
    private static readonly Instant At = Instant.FromUtc(2026, 3, 24, 18, 5, 7).Plus(Duration.FromMilliseconds(123));

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_link_with_everything_and_one_with_nothing_are_read_as_they_were_written()
    {
        var (world, domain, campaign, channel) = await Somewhere();
        await using var db = app.Database();
        var folder = new Folder { WorkspaceId = world.Workspace.Id, Name = "Shop" };
        db.Add(folder);
        await db.SaveChangesAsync(Cancel);
        var full = NewLink(world, domain, "Ev-1");
        (full.Source, full.Medium, full.Term, full.Content) = ("perch", "social", "Müller; “x”", "a\tb\\N\n\"c\"");
        (full.CampaignId, full.ChannelId, full.FolderId, full.Note, full.Redirect) = (campaign.Id, channel.Id, folder.Id, "", 308);
        full.Options = new LinkOptions
        {
            PassQuery = QueryPassing.VisitorWins,
            Referrer = ReferrerPassing.HideByPage,
            HideFromSearch = true,
            Nofollow = true,
            Sponsored = true,
            NewTab = true,
            TitleAttribute = "Title",
            AnchorText = "Here",
        };
        (full.DeletedAt, full.SlugFreedAt) = (At, At + Duration.FromDays(180));
        var plain = NewLink(world, domain, "ev-2");

        await Write(db, [full, plain]);

        await using var reading = app.Database();
        foreach (var link in new[] { full, plain })
        {
            AsText(await reading.Links.AsNoTracking().SingleAsync(l => l.Id == link.Id, Cancel)).ShouldBe(AsText(link));
        }
    }

    [Fact]
    public async Task Posts_placements_and_lines_follow_their_links()
    {
        var (world, domain, campaign, _) = await Somewhere();
        await using var db = app.Database();
        var link = NewLink(world, domain, "follow");
        var post = new Post
        {
            WorkspaceId = world.Workspace.Id,
            Title = "Sky",
            Destination = "northmoor.example",
            CampaignId = campaign.Id,
            PublishedOn = new LocalDate(2026, 3, 29),
            CreatedAt = At,
        };
        var placement = new Placement
        {
            PostId = post.Id,
            LinkId = link.Id,
            Variant = "logo",
            Position = 3,
        };
        var batch = new Batch
        {
            WorkspaceId = world.Workspace.Id,
            Name = "list.csv",
            Content = [0, 1, 255],
            CreatedAt = At,
        };
        BatchLine[] lines =
        [
            new()
            {
                BatchId = batch.Id,
                Line = 2,
                LinkId = link.Id,
            },
            new()
            {
                BatchId = batch.Id,
                Line = 3,
                Problem = "No.",
                Address = "ftp://",
            },
        ];

        await Write(db, [link]);
        await db.WriteRows([post], Cancel);
        await db.WriteRows([placement], Cancel);
        await db.WriteRows([batch], Cancel);
        await db.WriteRows(lines, Cancel);

        await using var reading = app.Database();
        AsText(await reading.Posts.AsNoTracking().SingleAsync(p => p.Id == post.Id, Cancel)).ShouldBe(AsText(post));
        AsText(await reading.Placements.AsNoTracking().SingleAsync(p => p.Id == placement.Id, Cancel)).ShouldBe(AsText(placement));
        AsText(await reading.Batches.AsNoTracking().SingleAsync(b => b.Id == batch.Id, Cancel)).ShouldBe(AsText(batch));
        (await reading.BatchLines.AsNoTracking().Where(l => l.BatchId == batch.Id).OrderBy(l => l.Line).ToListAsync(Cancel))
            .Select(AsText)
            .ShouldBe(lines.Select(AsText));
    }

    [Fact]
    public async Task A_broken_rule_writes_nothing_and_is_told_as_the_database_tells_it()
    {
        var (world, domain, _, _) = await Somewhere();
        await using var db = app.Database();
        var refused = await Should.ThrowAsync<PostgresException>(() => Write(db, [NewLink(world, domain, "once"), NewLink(world, domain, "ONCE")]));
        (refused.SqlState, refused.ConstraintName).ShouldBe((PostgresErrorCodes.UniqueViolation, "pk_addresses"));
        await using var reading = app.Database();
        (await reading.Links.AnyAsync(l => l.DomainId == domain.Id, Cancel)).ShouldBeFalse();
    }

    [Fact]
    public async Task Progress_is_told_to_the_last_row()
    {
        var (world, domain, _, _) = await Somewhere();
        await using var db = app.Database();
        var told = new List<int>();
        await db.Database.OpenConnectionAsync(Cancel);
        await db.WriteRows([.. Enumerable.Range(0, 600).Select(i => NewLink(world, domain, $"p{i}"))], Cancel, new Told(told.Add));
        told.ShouldBe([250, 500, 600]);
        await db.WriteRows<Link>([], Cancel);
    }

    private async Task<(World World, ShortDomain Domain, Campaign Campaign, Channel Channel)> Somewhere()
    {
        var world = await World.Make(app);
        await using var db = app.Database();
        var id = world.Workspace.Id;
        return (
            world,
            await db.Domains.SingleAsync(d => d.WorkspaceId == id, Cancel),
            await db.Campaigns.SingleAsync(c => c.WorkspaceId == id, Cancel),
            await db.Channels.FirstAsync(c => c.WorkspaceId == id, Cancel)
        );
    }

    private static Link NewLink(World world, ShortDomain domain, string slug) =>
        new()
        {
            WorkspaceId = world.Workspace.Id,
            DomainId = domain.Id,
            Slug = slug,
            SlugKey = slug.ToLowerInvariant(),
            Title = "Sky",
            Destination = "northmoor.example",
            FinalUrl = "https://northmoor.example/",
            CreatedAt = At,
        };

    private static async Task Write(CursusDb db, IReadOnlyCollection<Link> links)
    {
        await db.Database.OpenConnectionAsync(Cancel);
        await db.WriteRows(links, Cancel);
    }

    /// <summary>Every property that is stored.</summary>
    private static string AsText<T>(T row)
        where T : class =>
        JsonSerializer.Serialize(
            typeof(T)
                .GetProperties()
                .Where(p => p.Name != nameof(Link.PageKey))
                .Where(p =>
                    p.PropertyType.IsValueType
                    || p.PropertyType == typeof(string)
                    || p.PropertyType == typeof(byte[])
                    || p.PropertyType == typeof(LinkOptions)
                )
                .ToDictionary(
                    p => p.Name,
                    p =>
                        p.GetValue(row) is LinkOptions options ? JsonSerializer.Serialize(options)
                        : p.GetValue(row) is byte[] bytes ? Convert.ToHexString(bytes)
                        : p.GetValue(row)?.ToString()
                )
        );

    private sealed class Told(Action<int> tell) : IProgress<int>
    {
        public void Report(int value) => tell(value);
    }
}
