using System.Security.Cryptography;
using System.Text;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Clicks;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Clicks;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Cursus.Data.Retargeting;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Demo;

/// <summary>Fills an empty database with the demo scenario, dated back from today, in one transaction.</summary>
internal sealed class DemoLoader(CursusDb db, UserManager<Account> accounts, CursusOptions options, IClock clock)
{
    private const int Seed = 20_261_123;

    public sealed record Loaded(int Posts, int Links, int Clicks);

    /// <summary>What posts refer to, by the names that the scenario gives it.</summary>
    private sealed record Words(
        Workspace Workspace,
        Dictionary<string, Member> Members,
        Dictionary<string, ShortDomain> Domains,
        Dictionary<string, Channel> Channels,
        Dictionary<string, Campaign> Campaigns,
        Dictionary<string, Tag> Tags
    );

    /// <summary>What became of the posts: their links, the clicks on these, and when which were sent by e-mail.</summary>
    private sealed record Outcome(List<Link> Links, List<Click> Clicks, List<(Guid Link, Instant Sent)> Messages);

    public async Task<Loaded> Load(DemoScenario scenario, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var zone = DateTimeZoneProviders.Tzdb[scenario.Workspace.TimeZone];
        var calendar = DemoCalendar.Of(scenario, now.InZone(zone).Date);
        var begun = zone.AtStartOfDay(calendar[0].Day.PlusDays(-10)).ToInstant();

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var words = await AddWords(scenario, calendar.Select(p => p.Campaign), begun, now);
        var pixels = DemoPixels.Add(db, scenario, options, words.Workspace, words.Campaigns, words.Channels, begun);
        var outcome = new Outcome([], [], []);
        var traffic = new DemoTraffic(scenario, zone, now, Seed);
        var routes = new DemoRoutes(db, scenario, zone, now.InZone(zone).Date, begun, page => Address(scenario, page));
        var slugs = new HashSet<string>();
        foreach (var (day, file, campaign) in calendar)
        {
            AddPost(day, file, campaign.Key, scenario, words, traffic, routes, slugs, zone, now, outcome);
        }

        DemoCodes.Add(db, scenario, words.Workspace, outcome.Links, begun);
        await db.SaveChangesAsync(cancel);
        var clicks = await StoreClicks(scenario, outcome, now, cancel);
        await PixelRollUp.Store(Connection, DemoPixels.Reports(pixels, outcome.Links, outcome.Clicks, Seed), cancel);
        await transaction.CommitAsync(cancel);
        await db.Database.ExecuteSqlAsync($"analyze", cancel);
        return new Loaded(calendar.Count, outcome.Links.Count, clicks);
    }

    private NpgsqlConnection Connection => (NpgsqlConnection)db.Database.GetDbConnection();

    private async Task<Words> AddWords(DemoScenario scenario, IEnumerable<DemoScenario.CampaignFile> ofPosts, Instant begun, Instant now)
    {
        var workspace = new Workspace
        {
            Name = scenario.Workspace.Name,
            Key = AsciiWords.Hyphenated(scenario.Workspace.Name, Workspace.MaxKey),
            TimeZone = scenario.Workspace.TimeZone,
            IsDemo = true,
            CreatedAt = begun,
        };
        db.Add(workspace);
        var members = await AddMembers(scenario, workspace, begun);
        var words = new Words(
            workspace,
            members,
            scenario.Workspace.Domains.ToDictionary(d => d.Name, d => MakeDomain(d, scenario, workspace, begun, now)),
            scenario.Channels.Select((c, i) => MakeChannel(c, i, workspace)).ToDictionary(c => c.Key),
            ofPosts.Concat(scenario.Campaigns).DistinctBy(c => c.Key).ToDictionary(c => c.Key, c => MakeCampaign(c, workspace)),
            scenario.Workspace.Tags.Select((name, i) => MakeTag(name, i, workspace)).ToDictionary(t => t.Name)
        );
        db.AddRange(words.Domains.Values);
        db.AddRange(words.Channels.Values);
        db.AddRange(words.Campaigns.Values);
        db.AddRange(words.Tags.Values);
        db.AddRange(
            words
                .Channels.Values.Where(c => c.Medium is "social" or "video" or "referral")
                .Select(c => new ReferrerRule
                {
                    WorkspaceId = workspace.Id,
                    Host = $"{c.Key}.localhost",
                    ChannelId = c.Id,
                })
        );
        db.Add(new ReferrerRule { WorkspaceId = workspace.Id, Host = scenario.Workspace.Sites["northmoor"] });
        return words;
    }

    private ShortDomain MakeDomain(DemoScenario.DomainFile file, DemoScenario scenario, Workspace workspace, Instant begun, Instant now)
    {
        var isHere = file.Name.EndsWith(".localhost", StringComparison.Ordinal);
        return new()
        {
            WorkspaceId = workspace.Id,
            Name = file.Name,
            IsDefault = file.IsDefault,
            BarePage = file.BarePage is { } page ? Address(scenario, page) : null,
            VerifiedAt = isHere ? begun : null,
            CreatedAt = begun,
            Proof = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(file.Name)))[..32],
            NextCheckAt = isHere ? null : now,
        };
    }

    private static Channel MakeChannel(DemoScenario.ChannelFile file, int position, Workspace workspace) =>
        new()
        {
            WorkspaceId = workspace.Id,
            Key = file.Key,
            Name = file.Name,
            Source = file.Source,
            Medium = file.Medium,
            Signet = file.Signet,
            Color = file.Color,
            TextLimit = file.TextLimit,
            Position = position,
        };

    private static Campaign MakeCampaign(DemoScenario.CampaignFile campaign, Workspace workspace) =>
        new()
        {
            WorkspaceId = workspace.Id,
            Key = campaign.Key,
            Name = campaign.Name,
        };

    private static Tag MakeTag(string name, int position, Workspace workspace) =>
        new()
        {
            WorkspaceId = workspace.Id,
            Name = name,
            Color = (short)(position % 10),
        };

    private void AddPost(
        LocalDate day,
        DemoScenario.PostFile file,
        string campaign,
        DemoScenario scenario,
        Words words,
        DemoTraffic traffic,
        DemoRoutes routes,
        HashSet<string> slugs,
        DateTimeZone zone,
        Instant now,
        Outcome outcome
    )
    {
        var domain = file.Domain is { } name ? words.Domains[name] : words.Domains.Values.Single(d => d.IsDefault);
        var posted = Instant.Min(
            zone.AtLeniently(day.At(new LocalTime(8 + day.Day % 10, day.Day * 2 % 60))).ToInstant(),
            now - Duration.FromHours(1)
        );
        var post = new Post
        {
            Id = Guid.CreateVersion7(posted.ToDateTimeOffset()),
            WorkspaceId = words.Workspace.Id,
            Title = file.Title,
            Destination = Address(scenario, file.Page),
            CampaignId = words.Campaigns[campaign].Id,
            PublishedOn = day,
            CreatedAt = posted,
            CreatedBy = words.Members[file.By].Id,
        };
        var appeal = traffic.Appeal();
        foreach (var (placed, position) in file.Channels.Select((c, i) => (c.Split('/'), i)))
        {
            var (channel, variant) = (words.Channels[placed[0]], placed.ElementAtOrDefault(1));
            var link = MakeLink(post, file, channel, variant, domain, campaign, slugs);
            link.EndsAt = file.EndsDaysAgo is { } days ? zone.AtStartOfDay(now.InZone(zone).Date.PlusDays(-days)).ToInstant() : null;
            link.Fallback = file.Fallback is { } page ? Address(scenario, page) : null;
            routes.Add(file.Title, link);
            link.Tags.AddRange(file.Tags.Select(t => words.Tags[t]));
            post.Placements.Add(
                new Placement
                {
                    PostId = post.Id,
                    LinkId = link.Id,
                    Link = link,
                    Variant = variant,
                    Position = position,
                }
            );
            outcome.Links.Add(link);
            if (channel.Medium == "email" && posted < now - Duration.FromHours(3))
            {
                outcome.Messages.Add((link.Id, posted));
            }

            int? exactly = file.Clicks is { } numbers
                ? numbers.TryGetValue(file.Channels[position], out var ofVariant)
                    ? ofVariant
                    : numbers[channel.Key]
                : null;
            outcome.Clicks.AddRange(
                routes.Led(link, traffic.On(link.Id, scenario.Channels.Single(c => c.Key == channel.Key), posted, appeal, exactly))
            );
        }

        db.Add(post);
    }

    /// <summary>Stores people's clicks and those of scanners, in the order of their times; says how many.</summary>
    private async Task<int> StoreClicks(DemoScenario scenario, Outcome outcome, Instant now, CancellationToken cancel)
    {
        var scanned = new DemoScanners(scenario, now, Seed).On([.. outcome.Messages.OrderBy(m => m.Sent)]);
        var inOrder = outcome.Clicks.Concat(scanned).OrderBy(c => c.At).Select((click, i) => ((long)i + 1, click)).ToList();
        await ClickStore.Store(Connection, inOrder, clock, cancel);
        return inOrder.Count;
    }

    private static Link MakeLink(
        Post post,
        DemoScenario.PostFile file,
        Channel channel,
        string? variant,
        ShortDomain domain,
        string campaign,
        HashSet<string> slugs
    )
    {
        var wanted = file.Slug is { } own ? $"{own}-{channel.Key}" : SlugMaker.Readable(post.Title, channel.Key);
        var slug = SlugMaker.Alternatives(wanted, "", "", post.PublishedOn.Year).Prepend(wanted).First(s => slugs.Add($"{domain.Name}/{s}"));
        var utm = new UtmTags(
            TagValue.Of(channel.Source),
            TagValue.Of(channel.Medium),
            TagValue.Of(campaign),
            Content: variant is null ? null : TagValue.Of(variant)
        );
        return new Link
        {
            Id = Guid.CreateVersion7(post.CreatedAt.ToDateTimeOffset()),
            WorkspaceId = post.WorkspaceId,
            DomainId = domain.Id,
            Slug = slug,
            SlugKey = slug,
            Title = post.Title,
            Destination = post.Destination,
            FinalUrl = Destination.Of(post.Destination).With(utm).ToString(),
            Source = channel.Source,
            Medium = channel.Medium,
            Content = variant,
            CampaignId = post.CampaignId,
            ChannelId = channel.Id,
            CreatedAt = post.CreatedAt,
            CreatedBy = post.CreatedBy,
        };
    }

    private string Address(DemoScenario scenario, string page)
    {
        var (site, path) = (page[..page.IndexOf('/', StringComparison.Ordinal)], page[page.IndexOf('/', StringComparison.Ordinal)..]);
        return $"http://{scenario.Workspace.Sites[site]}{(options.StandinsPort is { } port ? $":{port}" : "")}{path}";
    }

    private async Task<Dictionary<string, Member>> AddMembers(DemoScenario scenario, Workspace workspace, Instant begun)
    {
        var members = new Dictionary<string, Member>();
        foreach (var person in scenario.Workspace.Members)
        {
            var account = new Account
            {
                Name = person.Name,
                Email = person.Email,
                UserName = person.Email,
            };
            var made = await accounts.CreateAsync(account, DemoScenario.Password);
            if (!made.Succeeded)
            {
                throw new InvalidOperationException(
                    "The demo's members could not be made: " + string.Join(' ', made.Errors.Select(e => e.Description))
                );
            }

            members[person.Name] = new Member
            {
                WorkspaceId = workspace.Id,
                AccountId = account.Id,
                Role = Enum.Parse<Role>(person.Role, ignoreCase: true),
                CreatedAt = begun,
                WantsDigest = person.Role == "owner",
            };
        }

        db.AddRange(members.Values);
        return members;
    }
}
