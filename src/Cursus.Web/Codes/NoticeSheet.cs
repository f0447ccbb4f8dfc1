using Cursus.Core;
using Cursus.Core.Codes;
using Cursus.Web.Access;
using Cursus.Web.Drawing;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using SkiaSharp;

namespace Cursus.Web.Codes;

/// <summary>GET /links/{id}/notice.pdf: an A4 sheet for the notice board, with headline, text, code and the short address in words for those who
/// don't scan.</summary>
public static class NoticeSheet
{
    private const int MaxHeadline = 80;
    private const int MaxText = 400;
    private const float PageWidth = 210;
    private const float PageHeight = 297;
    private const float Margin = 22;
    private const float CodeWidth = 100;

    /// <param name="Headline">If omitted, the link's title.</param>
    /// <param name="Text">A note for people; optional.</param>
    /// <param name="Code">Number of the code within its link; 1 if omitted.</param>
    public sealed record Asked(string? Headline, string? Text, int? Code);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/links/{id:guid}/notice.pdf", Handle)
            .ForViewers()
            .Produces(StatusCodes.Status200OK, contentType: "application/pdf")
            .WithSummary("A sheet for the notice board, ready to print");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Handle(
        Guid id,
        [AsParameters] Asked asked,
        CodesOfWorkspace codes,
        CancellationToken cancel
    )
    {
        if (await codes.FindLink(id, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        var errors = new FieldErrors();
        var headline = asked.Headline?.Trim() is { Length: > 0 } given ? given : link.Post ?? link.Title;
        if (headline.Length > MaxHeadline)
        {
            errors.Add("headline", new ValidationError("headline-long", $"The headline can have at most {MaxHeadline} characters. Shorten it."));
        }

        if (asked.Text?.Length > MaxText)
        {
            errors.Add("text", new ValidationError("text-long", $"The text can have at most {MaxText} characters. Shorten it."));
        }

        var number = asked.Code ?? ScannedPath.OwnCode;
        if (!(await codes.NamesOf(id, cancel)).ContainsKey(number))
        {
            errors.Add("code", CodesOfLink.NoSuchCode(number));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var code = await codes.Finish(link, number, null, cancel);
        return CodeFiles.Refusal(code, link.Slug) is { } refused
            ? refused
            : TypedResults.File(
                Write(headline, asked.Text?.Trim() ?? "", codes.ShortUrl(link).Split("://")[1], code),
                "application/pdf",
                FileNames.Of($"{headline} notice", "pdf")
            );
    }

    /// <param name="address">The short address as people type it, without its scheme.</param>
    internal static byte[] Write(string headline, string text, string address, FinishedCode code) =>
        CodePictures.Pdf(headline, PageWidth * CodePictures.PointsPerMm, PageHeight * CodePictures.PointsPerMm, 1, (canvas, _) =>
        {
            canvas.Scale(CodePictures.PointsPerMm);
            var pen = new Pen(canvas, SKColors.White, isTextDrawn: true);
            const float width = PageWidth - 2 * Margin;
            var y = pen.Paragraph(headline, Margin, Margin + 14, width, headline.Length > 40 ? 12 : 15, isBold: true);
            foreach (var paragraph in text.Split('\n', StringSplitOptions.RemoveEmptyEntries))
            {
                y = pen.Paragraph(paragraph, Margin, y + 12, width, 6.4f);
            }

            var drawing = code.Draw();
            var scale = CodeWidth / (float)drawing.Width;
            var top = Math.Max(y + 14, PageHeight - Margin - 22 - scale * (float)drawing.Height);
            canvas.Save();
            canvas.Translate((PageWidth - CodeWidth) / 2, top);
            CodeCanvas.Draw(canvas, drawing, code.Logo, scale);
            canvas.Restore();
            pen.Text("Scan the code, or type", PageWidth / 2, PageHeight - Margin - 9, 5, Pen.Dimmed, align: Align.Middle);
            pen.Text(address, PageWidth / 2, PageHeight - Margin, 8, isBold: true, align: Align.Middle, most: width);
        });
}
