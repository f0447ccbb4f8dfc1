using System.ComponentModel.DataAnnotations;
using System.IO.Compression;
using Cursus.Core;
using Cursus.Core.Codes;
using Cursus.Web.Access;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Cursus.Web.Codes;

/// <summary>POST /codes/files and /codes/labels: the codes of many links, as a ZIP of files or as labels on A4 pages.</summary>
public static class CodeBundle
{
    /// <summary>The most links that are done at once.</summary>
    public const int MostLinks = 500;

    // A file's time is part of a ZIP; the same codes make the same bytes.
    private static readonly DateTimeOffset Undated = new(2000, 1, 1, 0, 0, 0, TimeSpan.Zero);

    /// <param name="Format">svg, png or pdf.</param>
    /// <param name="Size">Width in dots of SVG and PNG; in millimetres of PDF.</param>
    /// <param name="Place">Key of a place, for the width in print.</param>
    public sealed record Request(
        [property: MaxLength(MostLinks)] IReadOnlyList<Guid> Links,
        string Format = "svg",
        int? Size = null,
        string? Place = null
    );

    /// <param name="Columns">Columns of labels on a page, 1 to 6.</param>
    /// <param name="Rows">Rows of labels on a page, 1 to 12.</param>
    public sealed record LabelRequest([property: MaxLength(MostLinks)] IReadOnlyList<Guid> Links, int Columns = 3, int Rows = 5);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/codes/files", Files)
            .ForViewers()
            .OnlyReading()
            .Holding(Held.Download)
            .Produces(StatusCodes.Status200OK, contentType: "application/zip")
            .WithSummary("The codes of many links as files in a ZIP, named after post and channel");
        api.MapPost("/codes/labels", Labels)
            .ForViewers()
            .OnlyReading()
            .Holding(Held.Download)
            .Produces(StatusCodes.Status200OK, contentType: "application/pdf")
            .WithSummary("The codes of many links as labels on A4 pages");
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Files(
        Request request,
        CodesOfWorkspace codes,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var place = PreviewCode.ReadPlace(request.Place, errors) ?? PrintPlace.All[0];
        var format = CodeFormat.Read(request.Format, errors);
        format?.CheckSize(request.Size, errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var (finished, problem) = await Finish(request.Links, codes, cancel);
        if (problem is not null)
        {
            return problem;
        }

        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            var names = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
            foreach (var (link, code) in finished!)
            {
                var words = CodeFiles.NameOf(link, ScannedPath.OwnCode, "");
                var times = names[words] = names.GetValueOrDefault(words) + 1;
                var entry = zip.CreateEntry(FileNames.Of(times == 1 ? words : $"{words} {times}", format!.Ending), CompressionLevel.Optimal);
                entry.LastWriteTime = Undated;
                await using var file = await entry.OpenAsync(cancel);
                await file.WriteAsync(format.Write(code, request.Size ?? format.UsualSize(place), place), cancel);
            }
        }

        return TypedResults.File(stream.ToArray(), "application/zip", "QR-codes.zip");
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Labels(
        LabelRequest request,
        CodesOfWorkspace codes,
        CancellationToken cancel
    )
    {
        if (request.Columns is < 1 or > 6 || request.Rows is < 1 or > 12)
        {
            return ApiProblem.Invalid("columns", new ValidationError("labels-grid", "A page holds 1 to 6 labels across and 1 to 12 down."));
        }

        var (finished, problem) = await Finish(request.Links, codes, cancel);
        return problem is not null
            ? problem
            : TypedResults.File(
                LabelSheet.Write([.. finished!.Select(f => (f.Link.Post ?? f.Link.Title, Caption(f.Link), f.Code))], request.Columns, request.Rows),
                "application/pdf",
                "QR-labels.pdf"
            );
    }

    private static string Caption(CodesOfWorkspace.LinkRow link) =>
        string.Join(
            " · ",
            new[] { link.Channel, link.Variant }.Where(part => !string.IsNullOrWhiteSpace(part)).DefaultIfEmpty($"{link.Domain}/{link.Slug}")
        );

    /// <summary>All codes, or why none: not one is left out silently.</summary>
    private static async Task<(List<(CodesOfWorkspace.LinkRow Link, FinishedCode Code)>? Codes, ProblemHttpResult? Problem)> Finish(
        IReadOnlyList<Guid> ids,
        CodesOfWorkspace codes,
        CancellationToken cancel
    )
    {
        if (ids.Count is 0 or > MostLinks)
        {
            return (null, ApiProblem.Invalid("links", new ValidationError("links-count", $"Choose 1 to {MostLinks} links.")));
        }

        var links = await codes.FindLinks(ids, cancel);
        if (links.Count < ids.Distinct().Count())
        {
            return (null, ApiProblem.NotFound("link"));
        }

        var finished = new List<(CodesOfWorkspace.LinkRow, FinishedCode)>();
        foreach (var link in links)
        {
            finished.Add((link, await codes.Finish(link, ScannedPath.OwnCode, null, cancel)));
        }

        return (finished, null);
    }
}
