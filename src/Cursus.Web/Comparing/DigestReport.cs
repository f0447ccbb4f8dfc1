using Cursus.Core;
using Cursus.Core.Comparing;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Checking;
using Cursus.Web.Outgoing;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using NodaTime.Text;
using Digest = Cursus.Core.Comparing.Digest;

namespace Cursus.Web.Comparing;

/// <summary>/reports/digest: what a week brought, in a minute; read on a page, and sent by e-mail on Mondays to those who want it.</summary>
public static class DigestReport
{
    /// <param name="From">Monday of the week.</param>
    /// <param name="To">Its Sunday.</param>
    /// <param name="Sections">Those that have something to say.</param>
    /// <param name="CanMail">False where no mail server is set up.</param>
    /// <param name="WantsMail">Whether it comes to the signed-in member by e-mail.</param>
    public sealed record Response(
        LocalDate From, LocalDate To, string TimeZone, string Headline, IReadOnlyList<DigestSection> Sections, bool CanMail, bool WantsMail);

    /// <param name="WantsMail">Whether the digest should come by e-mail on Mondays.</param>
    public sealed record MailRequest(bool? WantsMail);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/reports/digest", Get).ForViewers().WithSummary("Weekly digest");
        api.MapPatch("/reports/digest/mail", Switch).ForViewers().WithSummary("Turn your weekly digest e-mail on or off");
        api.MapPost("/reports/digest/mail", SendNow).ForViewers().WithSummary("Send yourself last week’s digest now");
    }

    /// <summary>The digest of the week that begins on a Monday; what needs care now is told with the last week that is over.</summary>
    internal static async Task<Digest> Of(Guid workspace, DateTimeZone zone, LocalDate monday, Instant now, Counting counting, CursusDb db, CancellationToken cancel)
    {
        Question About(string by) => new(workspace, by, new(monday, monday.PlusDays(6)), Comparison.PeriodBefore, zone, now, new Dictionary<string, string[]>());
        var (channels, changes) = await counting.AnswerWithChanges(About("channel"), cancel);
        var (_, posts) = await counting.Answer(About("post"), int.MaxValue, cancel);
        var care = monday == LastWeek(now.InZone(zone).Date) ? await CareLines.Of(db, workspace, zone, now, cancel) : [];
        return Digest.Of(channels, posts, changes, care);
    }

    /// <summary>Monday of the last week that is over.</summary>
    internal static LocalDate LastWeek(LocalDate today) => MondayOf(today).PlusWeeks(-1);

    /// <param name="week">Any day of the week; the last week that is over where left out.</param>
    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(
        string? week, CurrentMember member, CursusDb db, Counting counting, MailSender mail, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var last = LastWeek(now.InZone(member.Zone).Date);
        var day = week is null ? null : LocalDatePattern.Iso.Parse(week);
        if (day is { Success: false })
        {
            return ApiProblem.Invalid("week", new Flaw("day", $"“{week}” is no day. Write it as year-month-day, such as 2026-11-23."));
        }

        var monday = day is null ? last : MondayOf(day.Value);
        if (monday > last || monday.Year < 2000)
        {
            return ApiProblem.Invalid("week", new Flaw("week-not-over", "The digest covers complete weeks. Choose an earlier date."));
        }

        var digest = await Of(member.WorkspaceId, member.Zone, monday, now, counting, db, cancel);
        return TypedResults.Ok(new Response(monday, monday.PlusDays(6), member.Zone.Id, digest.Headline, digest.Sections, mail.IsSetUp, member.WantsDigest));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Switch(MailRequest request, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        if (request.WantsMail is not { } wants)
        {
            return ApiProblem.Invalid("wantsMail", new Flaw("wants-mail", "Set whether the digest comes by e-mail: true or false."));
        }

        var self = await db.Members.FindAsync([member.Id], cancel);
        self!.WantsDigest = wants;
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SendNow(
        CurrentMember member, CursusDb db, Counting counting, MailSender mail, DigestMail letters, IClock clock, CancellationToken cancel)
    {
        if (!mail.IsSetUp)
        {
            return ApiProblem.Conflict("no-mail-server", "No mail server is set up, so nothing can be sent. Whoever runs this installation can set one under Cursus:Mail.");
        }

        var now = clock.GetCurrentInstant();
        var monday = LastWeek(now.InZone(member.Zone).Date);
        var digest = await Of(member.WorkspaceId, member.Zone, monday, now, counting, db, cancel);
        try
        {
            await mail.Send(letters.Write(digest, monday, member.Workspace.Name, member.Account), cancel);
        }
        catch (MailException e)
        {
            return ApiProblem.Of(502, "mail-not-taken", $"The mail server rejected the digest: {e.Message}. Nothing was sent. Try again later.");
        }

        return TypedResults.NoContent();
    }

    /// <summary>The Monday of the week that a day lies in.</summary>
    internal static LocalDate MondayOf(LocalDate day) => day.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday));
}
