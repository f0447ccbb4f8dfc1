using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Drawing;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Answers;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using SkiaSharp;

namespace Cursus.Web.Reports.Pictures;

/// <summary>GET /reports/lanes, course, map, life and pivot as .svg or .png: what the screen draws, to be put into slides, letters and
/// reports.</summary>
public static class PictureFiles
{
    /// <summary>How many groups are asked for; none has room for more.</summary>
    internal const int MostRows = 50;

    public static void Map(IEndpointRouteBuilder api)
    {
        Map(api, "lanes", "Lanes of a report", BreakdownReport.Read, Lanes);
        Map(api, "course", "Trend of a report", BreakdownReport.Read, Course);
        Map(api, "map", "A report by country on a map", ReadByCountry, OnMap);
        Map(api, "life", "Post lifespan", LifeReport.Read, Life);
        api.MapGet(
                "/reports/pivot.svg",
                (
                    AskedQuestion asked,
                    string? across,
                    HttpRequest request,
                    CurrentMember member,
                    Counting counting,
                    IClock clock,
                    CancellationToken cancel
                ) => Svg("pivot", Crossing(asked, across, request, member, counting, clock, cancel))
            )
            .ForViewers()
            .WithSummary("Clicks by two dimensions, as SVG");
        api.MapGet(
                "/reports/pivot.png",
                (
                    AskedQuestion asked,
                    string? across,
                    int? scale,
                    HttpRequest request,
                    CurrentMember member,
                    Counting counting,
                    IClock clock,
                    CancellationToken cancel
                ) => Png("pivot", scale, () => Crossing(asked, across, request, member, counting, clock, cancel))
            )
            .ForViewers()
            .WithSummary("Clicks by two dimensions, as PNG");
    }

    /// <summary>A picture that was asked for, or why it can't be drawn.</summary>
    private readonly record struct Drawn(Question? Question, Picture? Picture, FieldErrors Errors);

    /// <summary>Reads what is asked; null with <paramref name="errors"/> where it can't be drawn.</summary>
    private delegate Question? Reading(HttpRequest request, CurrentMember member, IClock clock, FieldErrors errors);

    private delegate Task<Picture> Drawing(Question question, Counting counting, CursusDb db, CancellationToken cancel);

    private static void Map(IEndpointRouteBuilder api, string name, string what, Reading read, Drawing draw)
    {
        api.MapGet(
                $"/reports/{name}.svg",
                (
                    AskedQuestion asked,
                    HttpRequest request,
                    CurrentMember member,
                    Counting counting,
                    CursusDb db,
                    IClock clock,
                    CancellationToken cancel
                ) => Svg(name, Draw(errors => read(request, member, clock, errors), question => draw(question, counting, db, cancel)))
            )
            .ForViewers()
            .WithSummary($"{what}, as SVG");
        api.MapGet(
                $"/reports/{name}.png",
                (
                    AskedQuestion asked,
                    int? scale,
                    HttpRequest request,
                    CurrentMember member,
                    Counting counting,
                    CursusDb db,
                    IClock clock,
                    CancellationToken cancel
                ) => Png(name, scale, () => Draw(errors => read(request, member, clock, errors), question => draw(question, counting, db, cancel)))
            )
            .ForViewers()
            .WithSummary($"{what}, as PNG");
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Svg(string name, Task<Drawn> drawn) =>
        Of(name, await drawn, "svg", Picture.SvgType, p => p.Svg());

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Png(string name, int? scale, Func<Task<Drawn>> draw) =>
        Picture.ErrorOf(scale) is { } error
            ? ApiProblem.Invalid("scale", error)
            : Of(name, await draw(), "png", Picture.PngType, p => p.Png(scale ?? Picture.UsualScale));

    private static Results<FileContentHttpResult, ProblemHttpResult> Of(
        string name,
        Drawn drawn,
        string ending,
        string type,
        Func<Picture, byte[]> write
    ) =>
        drawn switch
        {
            { Question: { } question, Picture: { } picture } => TypedResults.File(
                write(picture),
                type,
                question.FileName($"clicks by {question.By}", $" {name}.{ending}")
            ),
            _ => ApiProblem.Invalid(drawn.Errors),
        };

    private static async Task<Drawn> Draw(Func<FieldErrors, Question?> read, Func<Question, Task<Picture>> draw)
    {
        var errors = new FieldErrors();
        return read(errors) is { } question ? new(question, await draw(question), errors) : new(null, null, errors);
    }

    private static Question? ReadByCountry(HttpRequest request, CurrentMember member, IClock clock, FieldErrors errors)
    {
        var question = BreakdownReport.Read(request, member, clock, errors);
        if (question is { By: not "country" })
        {
            errors.Add("by", new ValidationError("by-unknown", "Maps show countries. Compare by country."));
        }

        return errors.Any ? null : question;
    }

    private static async Task<Picture> Lanes(Question question, Counting counting, CursusDb db, CancellationToken cancel)
    {
        var answer = await BreakdownReport.Answer(question, MostRows, counting, cancel);
        return LanesPicture.Of(answer, QuestionWords.WithDays(answer), await ColorsOf(question, db, cancel));
    }

    private static async Task<Picture> Course(Question question, Counting counting, CursusDb db, CancellationToken cancel)
    {
        var answer = await BreakdownReport.Answer(question, MostRows, counting, cancel);
        var course = await SeriesReport.Answer(question, SeriesReport.UsualStep(question), counting, cancel);
        var colors = await ColorsOf(question, db, cancel);
        return new Picture(QuestionWords.WithDays(answer), Picture.UsualWidth, CoursePicture.Height, pen =>
            CoursePicture.Draw(pen, answer, course, colors, Picture.UsualWidth)
        );
    }

    private static async Task<Picture> OnMap(Question question, Counting counting, CursusDb db, CancellationToken cancel)
    {
        var answer = await BreakdownReport.Answer(question, int.MaxValue, counting, cancel);
        return MapPicture.Of(answer, QuestionWords.WithDays(answer));
    }

    private static async Task<Picture> Life(Question question, Counting counting, CursusDb db, CancellationToken cancel)
    {
        var life = await LifeReport.Answer(question, counting, cancel);
        var words = QuestionWords.WithDays(
            $"Post lifespan by {QuestionWords.Name(question.By)}",
            await counting.Narrowed(question, cancel),
            life.From,
            life.To,
            life.TimeZone
        );
        return LifePicture.Of(life, words, await ColorsOf(question, db, cancel));
    }

    private static Task<Drawn> Crossing(
        AskedQuestion asked,
        string? across,
        HttpRequest request,
        CurrentMember member,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    ) =>
        Draw(
            errors => PivotReport.Read(asked, across, request, member, clock, errors),
            async question =>
            {
                var pivot = await PivotReport.Answer(question, across!, counting, cancel);
                var words = $"How many clicks came by {QuestionWords.Name(question.By)} and {QuestionWords.Name(across!)}";
                return CrossingPicture.Of(
                    pivot,
                    QuestionWords.WithDays(words, await counting.Narrowed(question, cancel), pivot.From, pivot.To, pivot.TimeZone)
                );
            }
        );

    /// <summary>The colours that groups have on the screen: those of channels.</summary>
    internal static async Task<IReadOnlyDictionary<string, SKColor>> ColorsOf(Question question, CursusDb db, CancellationToken cancel) =>
        question.By == "channel" ? await ColorsOfChannels(question.WorkspaceId, db, cancel) : new Dictionary<string, SKColor>();

    /// <summary>By key of the channel.</summary>
    internal static async Task<IReadOnlyDictionary<string, SKColor>> ColorsOfChannels(Guid workspace, CursusDb db, CancellationToken cancel) =>
        (
            await db
                .Channels.Where(c => c.WorkspaceId == workspace)
                .Select(c => new
                {
                    c.Key,
                    c.Color,
                    c.OwnColor,
                })
                .ToListAsync(cancel)
        ).ToDictionary(c => c.Key, c => c.OwnColor is { } own ? SKColor.Parse(own) : Pen.Channels[c.Color % Pen.Channels.Count]);
}
