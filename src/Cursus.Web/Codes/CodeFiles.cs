using Cursus.Core;
using Cursus.Core.Codes;
using Cursus.Web.Access;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Cursus.Web.Codes;

/// <summary>GET /links/{id}/qr.svg, qr.png and qr.pdf, and POST /codes/file for a style that isn't saved: a link's code as a file. What can't be
/// scanned is not handed out.</summary>
public static class CodeFiles
{
    /// <param name="Size">Width in dots of SVG and PNG, 64 to 4,096; of PDF in millimetres, 10 to 1,000.</param>
    /// <param name="Style">ID of a saved style; if omitted, the link's own, else the workspace's default.</param>
    /// <param name="Code">Number of the code within its link; 1 if omitted.</param>
    /// <param name="Place">Key of a place, for the width in print.</param>
    public sealed record Asked(int? Size, Guid? Style, int? Code, string? Place);

    /// <param name="Format">svg, png or pdf.</param>
    /// <param name="Size">As above.</param>
    public sealed record Request(Guid Link, CodeStyle Style, string Format, int Code = ScannedPath.OwnCode, string? Place = null, int? Size = null);

    public static void Map(IEndpointRouteBuilder api)
    {
        foreach (var format in CodeFormat.All)
        {
            api.MapGet(
                    $"/links/{{id:guid}}/qr.{format.Ending}",
                    (Guid id, [AsParameters] Asked asked, CodesOfWorkspace codes, CancellationToken cancel) => File(id, asked, format, codes, cancel)
                )
                .ForViewers()
                .Produces(StatusCodes.Status200OK, contentType: format.Type)
                .WithSummary($"A link’s QR code as {format.Ending.ToUpperInvariant()}");
        }

        api.MapPost("/codes/file", FileOf)
            .ForViewers()
            .Produces(StatusCodes.Status200OK, contentType: "application/octet-stream")
            .WithSummary("A link’s QR code in a look that isn’t saved, as a file");
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> File(
        Guid id,
        Asked asked,
        CodeFormat format,
        CodesOfWorkspace codes,
        CancellationToken cancel
    )
    {
        if (await codes.FindLink(id, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        var errors = new FieldErrors();
        var style = asked.Style is { } styleId ? await codes.FindStyle(styleId, cancel) : null;
        if (asked.Style is not null && style is null)
        {
            errors.Add("style", new ValidationError("style-unknown", "This workspace has no such style. It may have been deleted."));
        }

        return await Write(link, asked.Code ?? ScannedPath.OwnCode, style, format, asked.Size, asked.Place, errors, codes, cancel);
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> FileOf(
        Request request,
        CodesOfWorkspace codes,
        CancellationToken cancel
    )
    {
        if (await codes.FindLink(request.Link, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        var errors = new FieldErrors();
        await codes.CheckStyle(request.Style, errors, "style", cancel);
        return await Write(
            link,
            request.Code,
            request.Style,
            CodeFormat.Read(request.Format, errors),
            request.Size,
            request.Place,
            errors,
            codes,
            cancel
        );
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Write(
        CodesOfWorkspace.LinkRow link,
        int number,
        CodeStyle? style,
        CodeFormat? format,
        int? size,
        string? placeKey,
        FieldErrors errors,
        CodesOfWorkspace codes,
        CancellationToken cancel
    )
    {
        var place = PreviewCode.ReadPlace(placeKey, errors) ?? PrintPlace.All[0];
        if (!(await codes.NamesOf(link.Id, cancel)).TryGetValue(number, out var name))
        {
            errors.Add("code", CodesOfLink.NoSuchCode(number));
        }

        format?.CheckSize(size, errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var code = await codes.Finish(link, number, style, cancel);
        return Refusal(code, link.Slug) is { } refused
            ? refused
            : TypedResults.File(
                format!.Write(code, size ?? format.UsualSize(place), place),
                format.Type,
                FileNames.Of(NameOf(link, number, name!), format.Ending)
            );
    }

    /// <summary>Why a code can't be handed out; null where it can.</summary>
    internal static ProblemHttpResult? Refusal(FinishedCode code, string slug) =>
        CodeJudgement.Of(code).Findings.FirstOrDefault(f => f.IsRefused) is { } finding
            ? ApiProblem.Invalid(
                "style",
                new ValidationError(
                    finding.Rule,
                    $"The QR code for “{slug}” wouldn’t scan reliably. {finding.Reason}{(finding.FixLabel is { } fix ? $" {fix}." : "")}"
                )
            )
            : null;

    /// <summary>Post, channel and variant; the link's title where it has no post.</summary>
    internal static string NameOf(CodesOfWorkspace.LinkRow link, int number, string code) =>
        string.Join(
            " ",
            new[] { link.Post ?? link.Title, link.Channel, link.Variant, number == ScannedPath.OwnCode ? null : code }.Where(part =>
                !string.IsNullOrWhiteSpace(part)
            )
        );
}
