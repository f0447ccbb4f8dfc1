using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Answers;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Reports.Pictures;

/// <summary>GET /reports/page.pdf: an answer on one page.</summary>
public static class PageFile
{
    private const int MaxTitle = 120;

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/reports/page.pdf", Handle).ForViewers().WithSummary("A report on one page, as PDF");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Handle(
        AskedQuestion asked,
        string? title,
        HttpRequest request,
        CurrentMember member,
        Counting counting,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        _ = asked;
        var errors = new FieldErrors();
        if (BreakdownReport.Read(request, member, clock, errors) is not { } question)
        {
            return ApiProblem.Invalid(errors);
        }

        var answer = await BreakdownReport.Answer(question, PictureFiles.MostRows, counting, cancel);
        var course = await SeriesReport.Answer(question, SeriesReport.UsualStep(question), counting, cancel);
        var colors = await PictureFiles.ColorsOf(question, db, cancel);
        var head = title?.Trim() is { Length: > 0 and <= MaxTitle } given ? given : $"Clicks by {QuestionWords.Name(question.By)}";
        using var stream = new MemoryStream();
        ReportPage.Write(stream, head, QuestionWords.Of(answer), member.Workspace.ShownName, answer, course, colors, question.Now);
        return TypedResults.File(stream.ToArray(), "application/pdf", question.FileName($"clicks by {question.By}", " page.pdf"));
    }
}
