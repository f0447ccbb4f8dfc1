using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Cursus.Data.Retargeting;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using NodaTime;

namespace Cursus.Web.Demo;

/// <summary>The demo's ad networks and pixels, and what became of them at the visits of the last half year.</summary>
internal static class DemoPixels
{
    private const int Days = 190;

    /// <param name="Pixel">The pixel.</param>
    /// <param name="Campaigns">Campaigns that it is attached to.</param>
    public sealed record Attached(Pixel Pixel, HashSet<Guid> Campaigns, HashSet<Guid> Channels);

    public static IReadOnlyList<Attached> Add(
        CursusDb db,
        DemoScenario scenario,
        CursusOptions options,
        Workspace workspace,
        Dictionary<string, Campaign> campaigns,
        Dictionary<string, Channel> channels,
        Instant begun
    )
    {
        foreach (var network in AdNetworkFile.ReadAll(scenario.AdNetworks))
        {
            var site = $"http://{network.Key}.localhost{(options.StandinsPort is { } port ? $":{port}" : "")}";
            var described = network with
            {
                Fires = network.Fires with { Address = network.Fires.Address!.Replace("{site}", site, StringComparison.Ordinal) },
            };
            db.Add(
                new OwnNetwork
                {
                    WorkspaceId = workspace.Id,
                    Key = network.Key,
                    Description = AdNetworkFile.Write(described),
                }
            );
        }

        return
        [
            .. scenario.Pixels.Select(file =>
            {
                var pixel = new Pixel
                {
                    WorkspaceId = workspace.Id,
                    Name = file.Name,
                    Network = file.Network,
                    Reference = file.Reference,
                    CreatedAt = begun,
                };
                db.Add(pixel);
                var (ofCampaigns, ofChannels) = (
                    (file.Campaigns ?? []).Select(c => campaigns[c]).ToList(),
                    (file.Channels ?? []).Select(c => channels[c]).ToList()
                );
                ofCampaigns.ForEach(c => c.Pixels.Add(pixel));
                ofChannels.ForEach(c => c.Pixels.Add(pixel));
                return new Attached(pixel, [.. ofCampaigns.Select(c => c.Id)], [.. ofChannels.Select(c => c.Id)]);
            }),
        ];
    }

    /// <summary>What became of the pixels at people's clicks: most fired, some visitors declined or opted out, now and then a network was too
    /// slow.</summary>
    public static IEnumerable<HandoffReport> Reports(IReadOnlyList<Attached> pixels, IReadOnlyList<Link> links, IReadOnlyList<Click> clicks, int seed)
    {
        var firing = links.ToDictionary(
            l => l.Id,
            l =>
                pixels
                    .Where(p =>
                        (l.CampaignId is { } campaign && p.Campaigns.Contains(campaign))
                        || (l.ChannelId is { } channel && p.Channels.Contains(channel))
                    )
                    .Select(p => p.Pixel.Id)
                    .ToList()
        );
        var first = clicks.Max(c => c.At) - Duration.FromDays(Days);
        var random = new Random(seed);
        foreach (var click in clicks.Where(c => c.Kind == ClickKind.Person && c.At >= first && firing[c.LinkId].Count > 0))
        {
            var draw = random.Next(100);
            yield return new HandoffReport(
                click.At,
                click.LinkId,
                click.Visitor,
                [
                    .. firing[click.LinkId]
                        .Select(pixel => new PixelOutcome(
                            pixel,
                            draw switch
                            {
                                < 14 => HandoffOutcome.Declined,
                                < 19 => HandoffOutcome.OptedOut,
                                _ => random.Next(100) < 3 ? HandoffOutcome.Missed : HandoffOutcome.Fired,
                            }
                        )),
                ]
            );
        }
    }
}
