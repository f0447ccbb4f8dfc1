using Cursus.Core.Addresses.Tagging;
using Cursus.Data;
using Cursus.Web.Access;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Addresses;

/// <summary>GET /tag-suspicions: UTM values in use that look like two spellings of one, which split a report in two.</summary>
public static class TagSuspicions
{
    /// <summary>Comparing each with each; a workspace with more values of one field has another problem than spelling.</summary>
    private const int MaxValues = 1000;

    /// <param name="Into">The agreed one of the two; if both or neither are, the one with more clicks.</param>
    public sealed record Response(TagField Field, Use From, Use Into, TagSlipKind Kind);

    /// <param name="Clicks">People's clicks, all time.</param>
    public sealed record Use(string Value, int Links, long Clicks);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/tag-suspicions", List).ForViewers().WithSummary("UTM values that look like duplicates, most clicks first");

    private static async Task<Ok<List<Response>>> List(CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var channels = await db.Channels.Where(c => c.WorkspaceId == member.WorkspaceId).ToListAsync(cancel);
        var words = await TagWords.Load(db, member, channels, [], cancel);
        var links = await db
            .Links.Where(l => l.WorkspaceId == member.WorkspaceId)
            .Select(l => new
            {
                l.Source,
                l.Medium,
                Campaign = l.Campaign!.Key,
                l.Term,
                l.Content,
                Clicks = db.LinkDays.Where(d => d.LinkId == l.Id).Sum(d => (long)d.Clicks),
            })
            .ToListAsync(cancel);
        var pairs = new List<Response>();
        foreach (var field in Enum.GetValues<TagField>())
        {
            var uses = links
                .Select(l =>
                    (
                        Value: field switch
                        {
                            TagField.Source => l.Source,
                            TagField.Medium => l.Medium,
                            TagField.Campaign => l.Campaign,
                            TagField.Term => l.Term,
                            _ => l.Content,
                        },
                        l.Clicks
                    )
                )
                .Where(l => l.Value is not null && words.Merged.Of(field, TagValue.Of(l.Value)).Text == l.Value)
                .GroupBy(l => l.Value!)
                .Select(g => new Use(g.Key, g.Count(), g.Sum(l => l.Clicks)))
                .OrderByDescending(u => words.Agreed(field).Contains(u.Value))
                .ThenByDescending(u => u.Clicks)
                .ThenByDescending(u => u.Links)
                .ThenBy(u => u.Value, StringComparer.Ordinal)
                .Take(MaxValues)
                .ToList();
            for (var i = 0; i < uses.Count; i++)
            {
                pairs.AddRange(
                    uses.Skip(i + 1)
                        .Select(from => (from, Kind: TagLint.Compare(from.Value, uses[i].Value)))
                        .Where(p =>
                            p.Kind is not null && !(words.Agreed(field).Contains(p.from.Value) && words.Agreed(field).Contains(uses[i].Value))
                        )
                        .Select(p => new Response(field, p.from, uses[i], p.Kind!.Value))
                );
            }
        }

        return TypedResults.Ok(pairs.OrderByDescending(p => p.From.Clicks + p.Into.Clicks).ToList());
    }
}
