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

    public async Task<Loaded> Load(DemoScenario scenario, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var zone = DateTimeZoneProviders.Tzdb[scenario.Workspace.TimeZone];
        var calendar = DemoCalendar.Of(scenario, now.InZone(zone).Date);
        var begun = zone.AtStartOfDay(calendar[0].Day.PlusDays(-10)).ToInstant();

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var workspace = new Workspace
        {
            Name = scenario.Workspace.Name,
            TimeZone = scenario.Workspace.TimeZone,
            IsDemo = true,
            CreatedAt = begun,
        };
        db.Add(workspace);
        var members = await AddMembers(scenario, workspace, begun);
        var domains = scenario.Workspace.Domains.ToDictionary(
            d => d.Name,
            d => new ShortDomain
            {
                WorkspaceId = workspace.Id,
                Name = d.Name,
                IsDefault = d.IsDefault,
                BarePage = d.BarePage is { } page ? Address(scenario, page) : null,
                VerifiedAt = d.Name.EndsWith(".localhost", StringComparison.Ordinal) ? begun : null,
                CreatedAt = begun,
                Proof = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(d.Name)))[..32],
                NextCheckAt = d.Name.EndsWith(".localhost", StringComparison.Ordinal) ? null : now,
            }
        );
        var channels = scenario
            .Channels.Select(
                (c, i) =>
                    new Channel
                    {
                        WorkspaceId = workspace.Id,
                        Key = c.Key,
                        Name = c.Name,
                        Source = c.Source,
                        Medium = c.Medium,
                        Signet = c.Signet,
                        Color = c.Color,
                        TextLimit = c.TextLimit,
                        Position = i,
                    }
            )
            .ToDictionary(c => c.Key);
        var campaigns = calendar
            .Select(p => p.Campaign)
            .Concat(scenario.Campaigns)
            .DistinctBy(c => c.Key)
            .ToDictionary(
                c => c.Key,
                c => new Campaign
                {
                    WorkspaceId = workspace.Id,
                    Key = c.Key,
                    Name = c.Name,
                }
            );
        var tags = scenario
            .Workspace.Tags.Select(
                (name, i) =>
                    new Tag
                    {
                        WorkspaceId = workspace.Id,
                        Name = name,
                        Color = (short)(i % 10),
                    }
            )
            .ToDictionary(t => t.Name);
        db.AddRange(domains.Values);
        db.AddRange(channels.Values);
        db.AddRange(campaigns.Values);
        db.AddRange(tags.Values);
        db.AddRange(
            channels
                .Values.Where(c => c.Medium is "social" or "video" or "referral")
                .Select(c => new ReferrerRule
                {
                    WorkspaceId = workspace.Id,
                    Host = $"{c.Key}.localhost",
                    ChannelId = c.Id,
                })
        );
        db.Add(new ReferrerRule { WorkspaceId = workspace.Id, Host = scenario.Workspace.Sites["northmoor"] });

        var pixels = DemoPixels.Add(db, scenario, options, workspace, campaigns, channels, begun);
        var traffic = new DemoTraffic(scenario, zone, now, Seed);
        var slugs = new HashSet<string>();
        var clicks = new List<Click>();
        var messages = new List<(Guid Link, Instant Sent)>();
        var links = new List<Link>();
        foreach (var (day, file, campaign) in calendar)
        {
            var domain = file.Domain is { } name ? domains[name] : domains.Values.Single(d => d.IsDefault);
            var posted = Instant.Min(
                zone.AtLeniently(day.At(new LocalTime(8 + day.Day % 10, day.Day * 2 % 60))).ToInstant(),
                now - Duration.FromHours(1)
            );
            var post = new Post
            {
                Id = Guid.CreateVersion7(posted.ToDateTimeOffset()),
                WorkspaceId = workspace.Id,
                Title = file.Title,
                Destination = Address(scenario, file.Page),
                CampaignId = campaigns[campaign.Key].Id,
                PublishedOn = day,
                CreatedAt = posted,
                CreatedBy = members[file.By].Id,
            };
            var appeal = traffic.Appeal();
            foreach (var (placed, position) in file.Channels.Select((c, i) => (c.Split('/'), i)))
            {
                var channel = channels[placed[0]];
                var link = MakeLink(post, file, channel, placed.ElementAtOrDefault(1), domain, campaign.Key, slugs);
                link.EndsAt = file.EndsDaysAgo is { } days ? zone.AtStartOfDay(now.InZone(zone).Date.PlusDays(-days)).ToInstant() : null;
                link.Fallback = file.Fallback is { } page ? Address(scenario, page) : null;
                link.Tags.AddRange(file.Tags.Select(t => tags[t]));
                post.Placements.Add(
                    new Placement
                    {
                        PostId = post.Id,
                        LinkId = link.Id,
                        Link = link,
                        Variant = placed.ElementAtOrDefault(1),
                        Position = position,
                    }
                );
                links.Add(link);
                if (channel.Medium == "email" && posted < now - Duration.FromHours(3))
                {
                    messages.Add((link.Id, posted));
                }

                int? exactly = file.Clicks is { } numbers
                    ? numbers.TryGetValue(file.Channels[position], out var ofVariant)
                        ? ofVariant
                        : numbers[channel.Key]
                    : null;
                clicks.AddRange(traffic.On(link.Id, scenario.Channels.Single(c => c.Key == channel.Key), posted, appeal, exactly));
            }

            db.Add(post);
        }

        DemoCodes.Add(db, scenario, workspace, links, begun);
        await db.SaveChangesAsync(cancel);
        var scanned = new DemoScanners(scenario, now, Seed).On([.. messages.OrderBy(m => m.Sent)]);
        var inOrder = clicks.Concat(scanned).OrderBy(c => c.At).Select((click, i) => ((long)i + 1, click)).ToList();
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await ClickStore.Store(connection, inOrder, clock, cancel);
        await PixelRollUp.Store(connection, DemoPixels.Reports(pixels, links, clicks, Seed), cancel);
        await transaction.CommitAsync(cancel);
        await db.Database.ExecuteSqlAsync($"analyze", cancel);
        return new Loaded(calendar.Count, links.Count, inOrder.Count);
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
