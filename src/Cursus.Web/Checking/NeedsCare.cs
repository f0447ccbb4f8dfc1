using Cursus.Core;
using Cursus.Core.Checking;
using Cursus.Data;
using Cursus.Data.Checking;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Checking;

/// <summary>/link-checks: the pages that need care, those whose visitors are most first, and what may be done about each.</summary>
public static class NeedsCare
{
    private const int LongestIgnored = 365;

    /// <summary>A page that links lead to.</summary>
    /// <param name="Address">As in the links, without the fragment.</param>
    /// <param name="IsDead">Whether visitors get no page there.</param>
    /// <param name="Text">What was found, in words.</param>
    /// <param name="Since">Since when.</param>
    /// <param name="LeadsTo">Where its redirects end.</param>
    /// <param name="IsPermanent">Whether they are permanent.</param>
    /// <param name="Links">How many links lead there.</param>
    /// <param name="RecentClicks">People's clicks on them in the last 30 days.</param>
    /// <param name="Hurts">Links that use it, most clicked first; at most twelve.</param>
    /// <param name="HurtsInAll">How many there are.</param>
    /// <param name="Fallbacks">Where visitors go for now; null if they reach the page itself.</param>
    /// <param name="IgnoredUntil">Until when it is ignored.</param>
    public sealed record Response(
        Guid Id,
        string Address,
        PageVerdict Verdict,
        bool IsDead,
        string Text,
        Instant? Since,
        Instant? CheckedAt,
        Instant? NextCheckAt,
        int? Status,
        string? LeadsTo,
        bool IsPermanent,
        int Links,
        long RecentClicks,
        IReadOnlyList<Hurt> Hurts,
        int HurtsInAll,
        IReadOnlyList<string> Fallbacks,
        Instant? IgnoredUntil
    );

    /// <summary>A post, or links of a campaign without one, that lead to a page.</summary>
    /// <param name="Campaign">Key of the campaign.</param>
    public sealed record Hurt(Guid? Post, string? Title, string? Campaign, string? CampaignName, int Links, long RecentClicks);

    /// <summary>How the link check stands.</summary>
    /// <param name="IsOn">Whether destinations are checked.</param>
    /// <param name="Pages">How many pages links lead to, by verdict.</param>
    /// <param name="NeedCare">How many need attention.</param>
    /// <param name="Ignored">How many would need it, but are ignored for now.</param>
    /// <param name="LastCheckedAt">When the page was last checked.</param>
    /// <param name="Certificates">Own short domains whose certificates end within fourteen days, or have ended.</param>
    public sealed record Summary(
        bool IsOn,
        PageCounts Pages,
        int NeedCare,
        int Ignored,
        Instant? LastCheckedAt,
        IReadOnlyList<EndingCertificate> Certificates
    );

    /// <summary>How many pages have each verdict.</summary>
    public sealed record PageCounts(int NotYet, int Fine, int Redirected, int Changed, int Gone, int Failing, int Closed);

    /// <param name="Days">Number of days.</param>
    public sealed record Ignoring(int? Days);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/link-checks", List).ForViewers().WithSummary("Pages that need attention, most recent clicks first");
        api.MapGet("/link-checks/summary", Summarise).ForViewers().WithSummary("Link check status");
        api.MapGet("/link-checks/{id:guid}", Get).ForViewers().WithSummary("One destination page");
        api.MapPost("/link-checks/{id:guid}/again", Again).ForEditors().WithSummary("Check a page now");
        api.MapPost("/link-checks/{id:guid}/accept", Accept).ForEditors().WithSummary("Mark a page as fine");
        api.MapPut("/link-checks/{id:guid}/ignored", Ignore).ForEditors().WithSummary("Ignore a page for some days");
        api.MapDelete("/link-checks/{id:guid}/ignored", Heed).ForEditors().WithSummary("Stop ignoring a page");
    }

    /// <param name="ignored">Those that are ignored, instead.</param>
    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        bool? ignored,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var found = await page.Of(
            CarePages.ByRecentClicks(db, member.WorkspaceId, now, now.InZone(member.Zone).Date, ignored == true).AsNoTracking(),
            p => p,
            cancel
        );
        return TypedResults.Ok(new Page<Response>(await CarePages.Tell(found.Items, db, member, now, cancel), found.NextCursor, found.Total));
    }

    private static async Task<Ok<Summary>> Summarise(CurrentMember member, CursusDb db, IClock clock, CancellationToken cancel)
    {
        var (now, mine) = (clock.GetCurrentInstant(), Mine(db, member));
        var counts = await mine.GroupBy(p => p.Verdict)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        int Count(PageVerdict verdict) => counts.GetValueOrDefault(verdict);
        var today = now.InZone(member.Zone).Date;
        return TypedResults.Ok(
            new Summary(
                await db.LinkCheckSettings.Where(s => s.WorkspaceId == member.WorkspaceId).Select(s => (bool?)s.IsOn).FirstOrDefaultAsync(cancel)
                    ?? true,
                new PageCounts(
                    Count(PageVerdict.NotYet),
                    Count(PageVerdict.Fine),
                    Count(PageVerdict.Redirected),
                    Count(PageVerdict.Changed),
                    Count(PageVerdict.Gone),
                    Count(PageVerdict.Failing),
                    Count(PageVerdict.Closed)
                ),
                await CarePages.ByRecentClicks(db, member.WorkspaceId, now, today).CountAsync(cancel),
                await CarePages.ByRecentClicks(db, member.WorkspaceId, now, today, ignored: true).CountAsync(cancel),
                await mine.MaxAsync(p => p.CheckedAt, cancel),
                await EndingCertificate.Of(db, member.WorkspaceId, now, cancel)
            )
        );
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(
        Guid id,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    ) =>
        await Mine(db, member).AsNoTracking().FirstOrDefaultAsync(p => p.Id == id, cancel) is { } page
            ? TypedResults.Ok((await CarePages.Tell([page], db, member, clock.GetCurrentInstant(), cancel))[0])
            : ApiProblem.NotFound("page");

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Again(
        Guid id,
        CurrentMember member,
        CursusDb db,
        CheckRound round,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (!await Mine(db, member).AnyAsync(p => p.Id == id, cancel))
        {
            return ApiProblem.NotFound("page");
        }

        await round.Check(id, cancel);
        await feed.CatchUp();
        return await Get(id, member, db, clock, cancel);
    }

    private static Task<Results<Ok<Response>, ProblemHttpResult>> Accept(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    ) => Change(id, page => page.State = page.State.Accept(clock.GetCurrentInstant()), member, db, feed, clock, cancel);

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Ignore(
        Guid id,
        Ignoring request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (!await Mine(db, member).AnyAsync(p => p.Id == id, cancel))
        {
            return ApiProblem.NotFound("page");
        }

        return request.Days is >= 1 and <= LongestIgnored and var days
            ? await Change(id, page => page.IgnoredUntil = clock.GetCurrentInstant() + Duration.FromDays(days), member, db, feed, clock, cancel)
            : ApiProblem.Invalid("days", new ValidationError("days", $"Enter the number of days, from 1 to {LongestIgnored}."));
    }

    private static Task<Results<Ok<Response>, ProblemHttpResult>> Heed(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    ) => Change(id, page => page.IgnoredUntil = null, member, db, feed, clock, cancel);

    /// <summary>Changes what a person has said of a page, holding it so that no answer that comes in at the moment is lost.</summary>
    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Action<CheckedPage> change,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (
            await db
                .CheckedPages.FromSql($"select * from checked_pages where id = {id} and workspace_id = {member.WorkspaceId} for update")
                .FirstOrDefaultAsync(cancel)
            is not { } page
        )
        {
            return ApiProblem.NotFound("page");
        }

        change(page);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return await Get(id, member, db, clock, cancel);
    }

    private static IQueryable<CheckedPage> Mine(CursusDb db, CurrentMember member) => db.CheckedPages.Where(p => p.WorkspaceId == member.WorkspaceId);
}
