using Cursus.Core;
using Cursus.Core.Reports;
using Cursus.Data;
using Cursus.Data.Reports.Questions;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Checking;
using Cursus.Web.Outgoing;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using NodaTime.Text;
using Digest = Cursus.Core.Reports.Digest;

namespace Cursus.Web.Reports.Digests;

/// <summary>/reports/digest: what a week brought, in a minute; read on a page, and sent by e-mail on Mondays to those who want it.</summary>
public static class DigestReport
{
    /// <param name="From">First day of the week.</param>
    /// <param name="To">Its last.</param>
    /// <param name="Sections">Those with findings.</param>
    /// <param name="CanMail">False if no mail server is configured.</param>
    /// <param name="WantsMail">Whether the signed-in member receives it by e-mail.</param>
    public sealed record Response(
        LocalDate From,
        LocalDate To,
        string TimeZone,
        string Headline,
        IReadOnlyList<DigestSection> Sections,
        bool CanMail,
        bool WantsMail
    );

    /// <param name="WantsMail">Whether the digest should come by e-mail on Mondays.</param>
    public sealed record MailRequest(bool? WantsMail);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/reports/digest", Get).ForViewers().WithSummary("Weekly digest");
        api.MapPost("/reports/digest/read", Read).ForViewers().WhileArchived().WithSummary("Note that you have read last week’s digest");
        api.MapPatch("/reports/digest/mail", Switch).ForViewers().WithSummary("Turn your weekly digest e-mail on or off");
        api.MapPost("/reports/digest/mail", SendNow).ForViewers().WithSummary("Send yourself last week’s digest now");
    }

    /// <summary>The digest of the week that begins on a day; what needs care now is told with the last week that is over.</summary>
    internal static async Task<Digest> Of(Workspace workspace, LocalDate week, Instant now, Counting counting, CursusDb db, CancellationToken cancel)
    {
        var zone = DateTimeZoneProviders.Tzdb[workspace.TimeZone];
        Question About(string by) =>
            new(workspace.Id, by, new(week, week.PlusDays(6)), Comparison.PeriodBefore, zone, now, new Dictionary<string, string[]>());
        var (channels, changes) = await counting.AnswerWithChanges(About("channel"), cancel);
        var (_, posts) = await counting.Answer(About("post"), int.MaxValue, cancel);
        var care = week == LastWeek(now.InZone(zone).Date, workspace) ? await CareLines.Of(db, workspace.Id, zone, now, cancel) : [];
        return Digest.Of(channels, posts, changes, care);
    }

    /// <summary>First day of the last week that is over.</summary>
    internal static LocalDate LastWeek(LocalDate today, Workspace workspace) => NamedPeriod.WeekOf(today, workspace.WeekStart).PlusWeeks(-1);

    /// <param name="week">Any day of the week; the last week that is over if omitted.</param>
    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(
        string? week,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        MailSender mail,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var last = LastWeek(now.InZone(member.Zone).Date, member.Workspace);
        var day = week is null ? null : LocalDatePattern.Iso.Parse(week);
        if (day is { Success: false })
        {
            return ApiProblem.Invalid("week", new ValidationError("day", $"“{week}” is no day. Write it as year-month-day, such as 2026-11-23."));
        }

        var first = day is null ? last : NamedPeriod.WeekOf(day.Value, member.Workspace.WeekStart);
        if (first > last || first.Year < 2000)
        {
            return ApiProblem.Invalid("week", new ValidationError("week-not-over", "The digest covers complete weeks. Choose an earlier date."));
        }

        var digest = await Of(member.Workspace, first, now, counting, db, cancel);
        return TypedResults.Ok(
            new Response(first, first.PlusDays(6), member.Zone.Id, digest.Headline, digest.Sections, mail.IsSetUp, member.WantsDigest)
        );
    }

    private static async Task<NoContent> Read(CurrentMember member, CursusDb db, IClock clock, CancellationToken cancel)
    {
        var week = LastWeek(clock.GetCurrentInstant().InZone(member.Zone).Date, member.Workspace);
        await db.Members.Where(m => m.Id == member.Id).ExecuteUpdateAsync(m => m.SetProperty(x => x.DigestReadFor, week), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Switch(
        MailRequest request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (request.WantsMail is not { } wants)
        {
            return ApiProblem.Invalid("wantsMail", new ValidationError("wants-mail", "Set whether the digest comes by e-mail: true or false."));
        }

        var self = await db.Members.FindAsync([member.Id], cancel);
        self!.WantsDigest = wants;
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SendNow(
        CurrentMember member,
        CursusDb db,
        Counting counting,
        MailSender mail,
        DigestMail letters,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (!mail.IsSetUp)
        {
            return ApiProblem.Conflict(
                "no-mail-server",
                "No mail server is set up, so nothing can be sent. Whoever runs this installation can set one under Cursus:Mail."
            );
        }

        var now = clock.GetCurrentInstant();
        var week = LastWeek(now.InZone(member.Zone).Date, member.Workspace);
        var digest = await Of(member.Workspace, week, now, counting, db, cancel);
        try
        {
            await mail.Send(letters.Write(digest, week, member.Workspace, member.Account), cancel);
        }
        catch (MailException e)
        {
            return ApiProblem.Of(502, "mail-not-taken", $"The mail server rejected the digest: {e.Message}. Nothing was sent. Try again later.");
        }

        return TypedResults.NoContent();
    }
}
