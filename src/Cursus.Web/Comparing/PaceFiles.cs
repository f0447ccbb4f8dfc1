using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Comparing.Pictures;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Comparing;

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

    /// <param name="bom">Whether the file begins with a byte order mark, by which spreadsheets know UTF-8; true where left out.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Csv(
        Guid id, bool? bom, CurrentMember member, CursusDb db, Counting counting, IClock clock, CancellationToken cancel) =>
        await PaceReport.PostOf(id, member, db, cancel) is { } post
            ? Table(post, await PaceReport.Answer(post, member, counting, clock, cancel)).Csv(Name(post), bom ?? true)
            : ApiProblem.NotFound("post");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Workbook(
        Guid id, CurrentMember member, CursusDb db, Counting counting, IClock clock, CancellationToken cancel) =>
        await PaceReport.PostOf(id, member, db, cancel) is { } post
            ? await Table(post, await PaceReport.Answer(post, member, counting, clock, cancel)).Workbook(Name(post), cancel)
            : ApiProblem.NotFound("post");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Svg(
        Guid id, CurrentMember member, CursusDb db, Counting counting, IClock clock, CancellationToken cancel) =>
        await PaceReport.PostOf(id, member, db, cancel) is { } post
            ? TypedResults.File((await Draw(post, member, db, counting, clock, cancel)).Svg(), Picture.SvgType, $"{Name(post)}.svg")
            : ApiProblem.NotFound("post");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Png(
        Guid id, int? scale, CurrentMember member, CursusDb db, Counting counting, IClock clock, CancellationToken cancel) =>
        await PaceReport.PostOf(id, member, db, cancel) is not { } post ? ApiProblem.NotFound("post")
            : Picture.FlawOf(scale) is { } flaw ? ApiProblem.Invalid("scale", flaw)
            : TypedResults.File((await Draw(post, member, db, counting, clock, cancel)).Png(scale ?? Picture.UsualScale), Picture.PngType, $"{Name(post)}.png");

    private static ReportTable Table(PaceReport.Paced post, PaceReport.Response pace) => new(
        ["channel", "placement", "first click", "hours since", "clicks in that time", "ahead of", "of the last"],
        [.. pace.Placements.Select(p => (object?[])[p.Channel, p.Label, p.StartedAt, p.Hours, p.Clicks, p.Ahead, p.Others])],
        [("post", post.Title), ("time zone", pace.TimeZone)]);

    private static async Task<Picture> Draw(PaceReport.Paced post, CurrentMember member, CursusDb db, Counting counting, IClock clock, CancellationToken cancel) => PacePicture.Of(
        await PaceReport.Answer(post, member, counting, clock, cancel),
        $"How does “{post.Title}” keep pace with the last posts of each channel? · hours since each first click",
        await PictureFiles.ColorsOfChannels(member.WorkspaceId, db, cancel));

    private static string Name(PaceReport.Paced post) => $"pace of {post.Title}";
}
