using Cursus.Core.Reports;
using Cursus.Data;
using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Files;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Reports.Answers;

/// <summary>GET /posts/{id}/variants: which variant won, on each channel that carries more than one of a post.</summary>
public static class VariantsReport
{
    /// <param name="Channels">Those with more than one variant, in the post's order.</param>
    public sealed record Response(IReadOnlyList<ChannelVariants> Channels);

    /// <param name="Channel">The channel's key.</param>
    /// <param name="IsSplit">True if the share of readers that saw each variant was set; otherwise all count as shown equally.</param>
    /// <param name="Answer">Which variant won, in one or two sentences.</param>
    /// <param name="Variants">Most clicks per exposure first.</param>
    public sealed record ChannelVariants(string Channel, string Name, bool IsSplit, string Answer, IReadOnlyList<Row> Variants);

    /// <param name="Exposure">The percentage of readers it was shown to; null if no split was set.</param>
    /// <param name="Clicks">People's clicks since the day the post went out.</param>
    /// <param name="Share">Share of the clicks on all variants, 0 to 1.</param>
    /// <param name="ShareLow">Lower bound of the share, 95%.</param>
    /// <param name="ShareHigh">Upper bound of the share, 95%.</param>
    /// <param name="Index">Share of clicks divided by share of exposure: 1 means as good as all variants together; null without clicks.</param>
    public sealed record Row(Guid Link, string Label, int? Exposure, long Clicks, double Share, double ShareLow, double ShareHigh, double? Index);

    /// <summary>What a variant is called that was given no name.</summary>
    private const string Unnamed = "unnamed";

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/posts/{id:guid}/variants", Handle).ForViewers().WithSummary("Which variant of a post won on each channel");
        api.MapGet("/posts/{id:guid}/variants.csv", Csv).ForViewers().WithSummary("The variants of a post, as a CSV file");
        api.MapGet("/posts/{id:guid}/variants.xlsx", Workbook).ForViewers().WithSummary("The variants of a post, as an Excel workbook");
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        Guid id,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    ) => await Compare(id, member, db, counting, clock, cancel) is var (_, response) ? TypedResults.Ok(response) : ApiProblem.NotFound("post");

    /// <param name="bom">Whether the file starts with a byte order mark, by which spreadsheets recognise UTF-8; true if omitted.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Csv(
        Guid id,
        bool? bom,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    ) =>
        await Compare(id, member, db, counting, clock, cancel) is var (title, response)
            ? Table(title, response).Csv(Name(title), bom ?? true)
            : ApiProblem.NotFound("post");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Workbook(
        Guid id,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    ) =>
        await Compare(id, member, db, counting, clock, cancel) is var (title, response)
            ? await Table(title, response).Workbook(Name(title), cancel)
            : ApiProblem.NotFound("post");

    /// <summary>The post's title and its variants; null where there is no such post.</summary>
    private static async Task<(string Title, Response Response)?> Compare(
        Guid id,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    )
    {
        var post = await db
            .Posts.Where(p => p.Id == id && p.WorkspaceId == member.WorkspaceId)
            .Select(p => new
            {
                p.Title,
                p.PublishedOn,
                Placements = p
                    .Placements.Where(x => x.Link!.DeletedAt == null && x.Link.Channel != null)
                    .OrderBy(x => x.Position)
                    .Select(x => new
                    {
                        x.LinkId,
                        x.Variant,
                        x.Exposure,
                        x.Link!.Channel!.Key,
                        x.Link.Channel.Name,
                    })
                    .ToList(),
            })
            .FirstOrDefaultAsync(cancel);
        if (post is null)
        {
            return null;
        }

        var channels = post.Placements.GroupBy(p => (p.Key, p.Name)).Where(c => c.Skip(1).Any()).ToList();
        if (channels.Count == 0)
        {
            return (post.Title, new Response([]));
        }

        var now = clock.GetCurrentInstant();
        var today = now.InZone(member.Zone).Date;
        var question = new Question(
            member.WorkspaceId,
            "link",
            new(post.PublishedOn, LocalDate.Max(post.PublishedOn, today)),
            Comparison.None,
            member.Zone,
            now,
            new Dictionary<string, string[]> { ["post"] = [$"{id}"] },
            ClicksKeptFrom: member.Workspace.ClicksKeptFrom
        );
        var counts = await counting.CountsByKey(question, cancel);
        return (
            post.Title,
            new Response([
                .. channels.Select(channel =>
                {
                    var variants = Variants.Of([.. channel.Select(p => VariantOf(p.LinkId, p.Variant, p.Exposure))]);
                    return new ChannelVariants(
                        channel.Key.Key,
                        channel.Key.Name,
                        variants.IsSplit,
                        variants.Sentence(),
                        [.. variants.Rows.Select(row => Of(row, variants.IsSplit))]
                    );
                }),
            ])
        );

        VariantCount VariantOf(Guid link, string? name, int? exposure)
        {
            var (clicks, visitors) = counts.GetValueOrDefault($"{link}");
            return new($"{link}", name ?? Unnamed, clicks, exposure, visitors);
        }
    }

    private static Row Of(VariantRow row, bool isSplit) =>
        new(
            Guid.Parse(row.Count.Key),
            row.Count.Label,
            isSplit ? row.Count.Exposure : null,
            row.Count.Clicks,
            row.Share,
            row.ShareLow,
            row.ShareHigh,
            row.Index
        );

    private static ReportTable Table(string title, Response response) =>
        new(
            ["channel", "variant", "shown to (%)", "clicks", "share", "share at least", "share at most", "index"],
            [
                .. response.Channels.SelectMany(c =>
                    c.Variants.Select(v => (object?[])[c.Channel, v.Label, v.Exposure, v.Clicks, v.Share, v.ShareLow, v.ShareHigh, v.Index])
                ),
            ],
            [("post", title), .. response.Channels.Select(c => ($"answer, {c.Channel}", (object?)c.Answer))]
        );

    private static string Name(string title) => $"variants of {title}";
}
