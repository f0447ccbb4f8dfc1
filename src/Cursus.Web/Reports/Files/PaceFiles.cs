using Cursus.Core;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Answers;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Pictures;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Reports.Files;

/// <summary>GET /posts/{id}/pace.csv, .xlsx, .svg and .png: a post against the usual course of its channels, to take away.</summary>
public static class PaceFiles
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/posts/{id:guid}/pace.csv", Csv).ForViewers().WithSummary("The pace of a post, as a CSV file");
        api.MapGet("/posts/{id:guid}/pace.xlsx", Workbook).ForViewers().WithSummary("The pace of a post, as an Excel workbook");
        api.MapGet("/posts/{id:guid}/pace.svg", Svg).ForViewers().WithSummary("The pace of a post, as SVG");
        api.MapGet("/posts/{id:guid}/pace.png", Png).ForViewers().WithSummary("The pace of a post, as PNG");
    }

    /// <param name="bom">Whether the file starts with a byte order mark, by which spreadsheets recognise UTF-8; true if omitted.</param>
    private static Task<Results<FileContentHttpResult, ProblemHttpResult>> Csv(
        Guid id,
        bool? bom,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    ) => Take(id, member, db, counting, clock, (post, pace) => Task.FromResult(Table(post, pace).Csv(Name(post), bom ?? true)), cancel);

    private static Task<Results<FileContentHttpResult, ProblemHttpResult>> Workbook(
        Guid id,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    ) => Take(id, member, db, counting, clock, (post, pace) => Table(post, pace).Workbook(Name(post), cancel), cancel);

    private static Task<Results<FileContentHttpResult, ProblemHttpResult>> Svg(
        Guid id,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    ) =>
        Take(
            id,
            member,
            db,
            counting,
            clock,
            async (post, pace) => TypedResults.File((await Draw(post, pace, member, db, cancel)).Svg(), Picture.SvgType, $"{Name(post)}.svg"),
            cancel
        );

    private static Task<Results<FileContentHttpResult, ProblemHttpResult>> Png(
        Guid id,
        int? scale,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    ) =>
        Take(
            id,
            member,
            db,
            counting,
            clock,
            async (post, pace) =>
                TypedResults.File(
                    (await Draw(post, pace, member, db, cancel)).Png(scale ?? Picture.UsualScale),
                    Picture.PngType,
                    $"{Name(post)}.png"
                ),
            cancel,
            Picture.ErrorOf(scale)
        );

    /// <summary>Writes a post's pace into a file, where there is such a post.</summary>
    /// <param name="flawOfScale">Why it can't be written so large; null where it can.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Take(
        Guid id,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        IClock clock,
        Func<PaceReport.Paced, PaceReport.Response, Task<FileContentHttpResult>> write,
        CancellationToken cancel,
        ValidationError? flawOfScale = null
    ) =>
        await PaceReport.PostOf(id, member, db, cancel) is not { } post ? ApiProblem.NotFound("post")
        : flawOfScale is not null ? ApiProblem.Invalid("scale", flawOfScale)
        : await write(post, await PaceReport.Answer(post, member, counting, clock, cancel));

    private static ReportTable Table(PaceReport.Paced post, PaceReport.Response pace) =>
        new(
            ["channel", "placement", "went out", "hours since", "clicks so far", "ahead of", "of the last"],
            [.. pace.Placements.Select(p => (object?[])[p.Channel, p.Label, p.StartedAt, p.Hours, p.Clicks, p.Ahead, p.Others])],
            [("post", post.Title), ("time zone", pace.TimeZone)]
        );

    private static async Task<Picture> Draw(
        PaceReport.Paced post,
        PaceReport.Response pace,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) =>
        PacePicture.Of(
            pace,
            $"How does “{post.Title}” compare with recent posts on each channel? · hours since publishing",
            await PictureFiles.ColorsOfChannels(member.WorkspaceId, db, cancel)
        );

    private static string Name(PaceReport.Paced post) => $"pace of {post.Title}";
}
