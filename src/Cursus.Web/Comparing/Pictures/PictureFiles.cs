using Cursus.Core;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Drawing;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using SkiaSharp;

namespace Cursus.Web.Comparing.Pictures;

/// <summary>GET /reports/lanes, /reports/course as .svg or .png, and /reports/page.pdf: an answer to be put into slides, letters and reports.</summary>
public static class PictureFiles
{
    private const float Width = 900;
    private const float Margin = 20;
    private const int MostRows = 50;
    private const int MaxTitle = 120;

    /// <summary>What a picture is drawn from.</summary>
    private sealed record Drawn(Question Question, BreakdownReport.Response Answer, SeriesReport.Response Course, IReadOnlyDictionary<string, SKColor> Colors);

    public static void Map(IEndpointRouteBuilder api)
    {
        foreach (var picture in new[] { "lanes", "course" })
        {
            api.MapGet($"/reports/{picture}.svg", (
                [AsParameters] BreakdownReport.Asked asked, HttpRequest request, CurrentMember member, Counting counting, CursusDb db, IClock clock, CancellationToken cancel) =>
                File(asked, request, member, counting, db, clock, drawn => Svg(drawn, picture), "image/svg+xml", $"{picture}.svg", cancel)).ForViewers().WithSummary($"The {picture} of an answer, as SVG");
            api.MapGet($"/reports/{picture}.png", (
                [AsParameters] BreakdownReport.Asked asked, int? scale, HttpRequest request, CurrentMember member, Counting counting, CursusDb db, IClock clock, CancellationToken cancel) =>
                scale is < 1 or > 4
                    ? Task.FromResult<Results<FileContentHttpResult, ProblemHttpResult>>(ApiProblem.Invalid("scale", new Flaw("scale", "A picture is drawn once to four times as large.")))
                    : File(asked, request, member, counting, db, clock, drawn => Png(drawn, picture, scale ?? 2), "image/png", $"{picture}.png", cancel)).ForViewers().WithSummary($"The {picture} of an answer, as PNG");
        }

        api.MapGet("/reports/page.pdf", (
            [AsParameters] BreakdownReport.Asked asked, string? title, HttpRequest request, CurrentMember member, Counting counting, CursusDb db, IClock clock, CancellationToken cancel) =>
            File(asked, request, member, counting, db, clock, drawn => Pdf(drawn, title, member.Workspace.Name), "application/pdf", "page.pdf", cancel)).ForViewers().WithSummary("An answer on one page, as PDF");
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> File(
        BreakdownReport.Asked asked, HttpRequest request, CurrentMember member, Counting counting, CursusDb db, IClock clock, Func<Drawn, byte[]> draw, string type, string name, CancellationToken cancel)
    {
        var errors = new FieldErrors();
        if (Question.Read(request.Query, member, clock.GetCurrentInstant(), errors)?.Bounded(groups: asked.By!) is not { } question)
        {
            return ApiProblem.Invalid(errors);
        }

        var answer = await BreakdownReport.Answer(question, MostRows, counting, cancel);
        var course = await SeriesReport.Answer(question, SeriesReport.UsualStep(question), counting, cancel);
        var channels = question.By == "channel" ? await db.Channels.Where(c => c.WorkspaceId == member.WorkspaceId).Select(c => new { c.Key, c.Color }).ToListAsync(cancel) : [];
        var drawn = new Drawn(question, answer, course, channels.ToDictionary(c => c.Key, c => Pen.Channels[c.Color % Pen.Channels.Count]));
        return TypedResults.File(draw(drawn), type, question.FileName($"clicks by {question.By}", $" {name}"));
    }

    private static byte[] Svg(Drawn drawn, string picture)
    {
        using var stream = new MemoryStream();
        using (var canvas = SKSvgCanvas.Create(SKRect.Create(Width + 2 * Margin, HeightOf(drawn, picture)), stream))
        {
            Draw(new Pen(canvas, Pen.Leaf, isTextDrawn: true), drawn, picture);
        }

        return stream.ToArray();
    }

    private static byte[] Png(Drawn drawn, string picture, int scale)
    {
        using var surface = SKSurface.Create(new SKImageInfo((int)(scale * (Width + 2 * Margin)), (int)Math.Ceiling(scale * HeightOf(drawn, picture))));
        surface.Canvas.Scale(scale);
        Draw(new Pen(surface.Canvas, Pen.Leaf), drawn, picture);
        using var image = surface.Snapshot();
        using var data = image.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }

    private static byte[] Pdf(Drawn drawn, string? title, string workspace)
    {
        using var stream = new MemoryStream();
        var words = QuestionWords.Of(drawn.Answer);
        var head = title?.Trim() is { Length: > 0 and <= MaxTitle } given ? given : $"Clicks by {QuestionWords.Names.GetValueOrDefault(drawn.Question.By, drawn.Question.By)}";
        ReportPage.Write(stream, head, words, workspace, drawn.Answer, drawn.Course, drawn.Colors, drawn.Question.Now);
        return stream.ToArray();
    }

    private static float HeightOf(Drawn drawn, string picture) => 2 * Margin + 22 + (picture == "lanes" ? LanesPicture.HeightOf(drawn.Answer) : CoursePicture.Height);

    /// <summary>The picture on paper, below the question: a picture that is passed on must say what it shows.</summary>
    private static void Draw(Pen pen, Drawn drawn, string picture)
    {
        pen.Canvas.Clear(pen.Paper);
        pen.Canvas.Translate(Margin, Margin);
        pen.Text($"{QuestionWords.Of(drawn.Answer)} · {drawn.Answer.From:uuuu-MM-dd} to {drawn.Answer.To:uuuu-MM-dd}, {drawn.Answer.TimeZone}", 0, 10, 10, Pen.Dimmed, most: Width);
        pen.Canvas.Translate(0, 22);
        if (picture == "lanes")
        {
            LanesPicture.Draw(pen, drawn.Answer, drawn.Colors, Width);
        }
        else
        {
            CoursePicture.Draw(pen, drawn.Answer, drawn.Course, drawn.Colors, Width);
        }
    }
}
