using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Reports;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Answers;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Reports.Views;

/// <summary>GET /shared/{secret}: a saved view, as somebody without an account reads it. It tells the answer and nothing else of the
/// workspace.</summary>
public static class SharedView
{
    private const int MostRows = 50;

    /// <param name="Name">The view's name.</param>
    /// <param name="Workspace">Public name of the workspace it belongs to.</param>
    /// <param name="Logo">Its logo as a data address; null for none.</param>
    /// <param name="NumberLanguage">How numbers are written, as a language tag.</param>
    /// <param name="Question">As a query string.</param>
    /// <param name="Words">The question as a sentence.</param>
    /// <param name="Channels">Those named in the report, for their colours.</param>
    public sealed record Response(
        string Name,
        string Workspace,
        string? Logo,
        string NumberLanguage,
        string Question,
        string Words,
        Instant AnsweredAt,
        Instant? ExpiresAt,
        IReadOnlyList<SharedChannel> Channels,
        BreakdownReport.Response Answer,
        SeriesReport.Response Course
    );

    public sealed record SharedChannel(string Key, string Name, string Signet, int Color, string? OwnColor);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/shared/{secret}", Handle)
            .ForAnybody()
            .RequireRateLimiting(AccessSetup.SharedLimit)
            .WithSummary("A shared view, for anyone with its link");

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        string secret,
        CursusDb db,
        Counting counting,
        IClock clock,
        HttpContext context,
        CancellationToken cancel
    )
    {
        context.Response.Headers.CacheControl = "no-store";
        var (now, hash) = (clock.GetCurrentInstant(), ViewShare.HashOf(secret));
        var share = await db
            .ViewShares.Include(s => s.View)
            .FirstOrDefaultAsync(s => s.Hash == hash && (s.ExpiresAt == null || s.ExpiresAt > now), cancel);
        if (share?.View is not { } view)
        {
            return Gone();
        }

        var workspace = await db.Workspaces.SingleAsync(w => w.Id == view.WorkspaceId, cancel);
        NumberLanguage.Use(workspace.NumberLanguage);
        var errors = new FieldErrors();
        if (QuestionReader.Read(view.Question, workspace, now, errors) is not { } question)
        {
            return Gone();
        }

        var step = SeriesReport.UsualStep(question);
        if (question.Bounded(errors, groups: question.By) is not { } bounded || question.Bounded(errors, step, question.By) is not { } overTime)
        {
            return ApiProblem.Invalid(errors);
        }

        var answer = await BreakdownReport.Answer(bounded, MostRows, counting, cancel);
        var course = await SeriesReport.Answer(overTime, step, counting, cancel);
        string[] named = question.By == "channel" ? [.. answer.Rows.Select(r => r.Key)] : [];
        var channels = await db
            .Channels.Where(c => c.WorkspaceId == view.WorkspaceId && named.Contains(c.Key))
            .Select(c => new SharedChannel(c.Key, c.Name, c.Signet, c.Color, c.OwnColor))
            .ToListAsync(cancel);
        if (share.LastSeenAt is null || now - share.LastSeenAt > Duration.FromHours(1))
        {
            share.LastSeenAt = now;
            await db.SaveChangesAsync(cancel);
        }

        var logo = await db.HandoffSettings.Where(s => s.WorkspaceId == workspace.Id).Select(s => s.Logo).FirstOrDefaultAsync(cancel);
        return TypedResults.Ok(
            new Response(
                view.Name,
                workspace.ShownName,
                logo,
                workspace.NumberLanguage,
                view.Question,
                QuestionWords.Of(answer),
                now,
                share.ExpiresAt,
                channels,
                answer,
                course
            )
        );
    }

    /// <summary>The same for an address that never was, so that nobody learns which ones there were.</summary>
    private static ProblemHttpResult Gone() =>
        ApiProblem.Of(
            404,
            "share-ended",
            "This link doesn’t work: it was revoked, it has expired, or the address is wrong. Ask whoever sent it for a new one."
        );
}
