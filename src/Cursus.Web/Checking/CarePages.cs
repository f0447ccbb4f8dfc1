using Cursus.Core.Checking;
using Cursus.Data;
using Cursus.Data.Checking;
using Cursus.Web.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Checking;

/// <summary>Reads the pages that need care, with what they hurt.</summary>
internal static class CarePages
{
    /// <summary>Pages at which visitors find nothing; see <see cref="PageState.IsDead"/>.</summary>
    public static IQueryable<CheckedPage> Dead(CursusDb db) =>
        db.CheckedPages.Where(p => p.Verdict == PageVerdict.Gone || p.Verdict == PageVerdict.Failing);

    /// <summary>Clicks of so many days count as recent.</summary>
    public const int RecentDays = 30;

    private const int MostHurt = 12;

    /// <summary>Pages that need care and that links lead to which haven't ended, those with the most recent clicks first.</summary>
    public static IQueryable<CheckedPage> ByRecentClicks(CursusDb db, Guid workspaceId, Instant now, LocalDate today, bool ignored = false)
    {
        var links = db.Links.Where(l => l.DeletedAt == null && !(l.EndsAt <= now));
        var since = today.PlusDays(-RecentDays);
        return db
            .CheckedPages.Where(p => p.WorkspaceId == workspaceId && p.NeedsCare && p.IgnoredUntil != null == ignored)
            .Where(p =>
                links.Any(l => l.WorkspaceId == p.WorkspaceId && (l.PageKey == p.Key || l.RoutedPages.Any(r => r.IsUsed && r.PageKey == p.Key)))
            )
            .OrderByDescending(p =>
                db.LinkDays.Where(d =>
                        d.Day > since
                        && links.Any(l =>
                            l.Id == d.LinkId
                            && l.WorkspaceId == p.WorkspaceId
                            && (l.PageKey == p.Key || l.RoutedPages.Any(r => r.IsUsed && r.PageKey == p.Key))
                        )
                    )
                    .Sum(d => (long?)d.Clicks)
                ?? 0
            )
            .ThenBy(p => p.Since)
            .ThenBy(p => p.Id);
    }

    /// <summary>What pages hurt: posts, and links without one by their campaign; of each page those with the most recent clicks first.</summary>
    public static async Task<ILookup<Guid, ImpactRow>> Hurt(
        CursusDb db,
        Guid workspaceId,
        IReadOnlyList<Guid> keys,
        Instant now,
        LocalDate today,
        CancellationToken cancel
    )
    {
        var since = today.PlusDays(-RecentDays);
        var rows = await db
            .Database.SqlQuery<ImpactRow>(
                $"""
                select led.page_key, po.id as post, po.title as title, c.key as campaign, c.name as campaign_name, count(*)::int as links,
                    coalesce(sum(recent.clicks), 0)::bigint as recent_clicks,
                    max(coalesce(l.fallback, c.fallback)) as fallback
                from (
                    select id as link_id, page_key from links where workspace_id = {workspaceId} and page_key = any({keys.ToArray()})
                    union select link_id, page_key from routed_pages where is_used and page_key = any({keys.ToArray()})
                ) led join links l on l.id = led.link_id
                    left join placements pl on pl.link_id = l.id left join posts po on po.id = pl.post_id left join campaigns c on c.id = l.campaign_id
                    left join lateral (select sum(d.clicks) as clicks from days_of_links d where d.link_id = l.id and d.day > {since}) recent on true
                where l.workspace_id = {workspaceId} and l.deleted_at is null and (l.ends_at is null or l.ends_at > {now})
                group by led.page_key, po.id, po.title, c.key, c.name order by recent_clicks desc, links desc, po.id
                """
            )
            .ToListAsync(cancel);
        return rows.ToLookup(r => r.PageKey);
    }

    /// <summary>The pages as they are told.</summary>
    public static async Task<IReadOnlyList<NeedsCare.Response>> Tell(
        IReadOnlyList<CheckedPage> pages,
        CursusDb db,
        CurrentMember member,
        Instant now,
        CancellationToken cancel
    )
    {
        var hurt = await Hurt(db, member.WorkspaceId, [.. pages.Select(p => p.Key)], now, now.InZone(member.Zone).Date, cancel);
        var ofWorkspace = await db
            .LinkCheckSettings.Where(s => s.WorkspaceId == member.WorkspaceId)
            .Select(s => s.Fallback)
            .FirstOrDefaultAsync(cancel);
        return [.. pages.Select(p => Of(p, [.. hurt[p.Key]], ofWorkspace))];
    }

    private static NeedsCare.Response Of(CheckedPage page, IReadOnlyList<ImpactRow> hurt, string? ofWorkspace)
    {
        var state = page.State;
        string[] fallbacks = [.. hurt.Select(h => h.Fallback ?? ofWorkspace).OfType<string>().Distinct()];
        return new(
            page.Id,
            page.Address,
            page.Verdict,
            state.IsDead,
            CareText.Of(state),
            page.Since,
            page.CheckedAt,
            page.NextCheckAt,
            page.Status,
            page.LeadsTo,
            page.IsPermanent,
            hurt.Sum(h => h.Links),
            hurt.Sum(h => h.RecentClicks),
            [.. hurt.Take(MostHurt).Select(h => new NeedsCare.Hurt(h.Post, h.Title, h.Campaign, h.CampaignName, h.Links, h.RecentClicks))],
            hurt.Count,
            state.IsDead && page.IgnoredUntil is null ? fallbacks : [],
            page.IgnoredUntil
        );
    }

    internal sealed record ImpactRow(
        Guid PageKey,
        Guid? Post,
        string? Title,
        string? Campaign,
        string? CampaignName,
        int Links,
        long RecentClicks,
        string? Fallback
    );
}
