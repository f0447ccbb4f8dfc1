using System.Diagnostics;
using Cursus.Core.Checking;
using Cursus.Data;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Checking;

/// <summary>One round of the link check: asks the pages that are due, those of one site one after the other with a pause between, and writes down
/// what each answered.</summary>
internal sealed class CheckRound(IServiceScopeFactory scopes, PageCheck check, LinkCheckOptions options, IClock clock, ILogger<CheckRound> log)
{
    /// <summary>Sites that are asked at the same time.</summary>
    private const int SitesAtOnce = 8;

    /// <summary>Pages of one site in one round, so that a large site doesn't keep others waiting.</summary>
    private const int PagesOfSite = 30;

    private const int PagesInAll = 400;

    private static readonly Duration WhileAsking = Duration.FromMinutes(10);
    private static readonly Duration AfterBreaking = Duration.FromDays(1);

    /// <summary>No page is begun with after so long.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(20);

    /// <summary>Returns how many pages were due.</summary>
    public async Task<int> Run(CancellationToken cancel)
    {
        var began = Stopwatch.GetTimestamp();
        var due = await Due(cancel);
        await Parallel.ForEachAsync(
            due.GroupBy(p => p.Site),
            new ParallelOptions { MaxDegreeOfParallelism = SitesAtOnce, CancellationToken = cancel },
            async (site, stop) =>
            {
                // What is not come to stays due: where a site as a whole doesn't answer its other pages would be waited for in vain, and new links
                // wait for the next round.
                foreach (var page in site)
                {
                    if (
                        await TryCheck(page.Id, stop)
                            is { Trouble: PageTrouble.Silent or PageTrouble.TooSlow or PageTrouble.UnknownHost or PageTrouble.Insecure }
                        || Stopwatch.GetElapsedTime(began) > Longest
                    )
                    {
                        break;
                    }

                    await Task.Delay(options.Pause, stop);
                }
            }
        );
        return due.Count;
    }

    /// <summary>Asks one page; where that fails for what nobody foresaw, it goes to the end of the queue, and all others are asked as if nothing had
    /// happened.</summary>
    private async Task<PageAnswer?> TryCheck(Guid pageId, CancellationToken cancel)
    {
        try
        {
            return await Check(pageId, cancel);
        }
        catch (Exception e) when (e is not (OperationCanceledException or NpgsqlException or DbUpdateException) && !DatabaseTrouble.IsAway(e))
        {
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
            await PutOff(db, pageId, clock.GetCurrentInstant() + AfterBreaking, cancel);
            var address = await db.CheckedPages.Where(p => p.Id == pageId).Select(p => p.Address).FirstOrDefaultAsync(cancel);
            log.LogError(e, "{Address} breaks the link check; it is left alone for a day, and what is known of it stays.", address);
            return null;
        }
    }

    private static Task<int> PutOff(CursusDb db, Guid pageId, Instant until, CancellationToken cancel) =>
        db.CheckedPages.Where(p => p.Id == pageId).ExecuteUpdateAsync(p => p.SetProperty(x => x.NextCheckAt, until), cancel);

    /// <summary>Asks one page now and writes down what it answered. Null where there is none.</summary>
    public async Task<PageAnswer?> Check(Guid pageId, CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
        if (await db.CheckedPages.AsNoTracking().FirstOrDefaultAsync(p => p.Id == pageId, cancel) is not { } known)
        {
            return null;
        }

        // Should asking take the whole process down, the page is not the first again when it comes back.
        await PutOff(db, pageId, clock.GetCurrentInstant() + WhileAsking, cancel);
        var own = await db.Domains.Where(d => d.WorkspaceId == known.WorkspaceId).Select(d => d.Name).ToListAsync(cancel);
        var words = await db.LinkCheckSettings.Where(s => s.WorkspaceId == known.WorkspaceId).Select(s => s.GoneWords).FirstOrDefaultAsync(cancel);
        var answer = await check.Ask(known.Address, known.State, own.Contains, cancel);

        // Somebody may have accepted or ignored the page while it was being asked, so the row is read anew and held.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var page = await db.CheckedPages.FromSql($"select * from checked_pages where id = {pageId} for update").FirstOrDefaultAsync(cancel);
        if (page is not null)
        {
            page.State = PageJudgement.After(page.State, answer, new GoneWords(words ?? [.. GoneWords.Defaults]), clock.GetCurrentInstant());
            await db.SaveChangesAsync(cancel);
        }

        await transaction.CommitAsync(cancel);
        return answer;
    }

    private async Task<List<DuePage>> Due(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
        var now = clock.GetCurrentInstant();
        await db.Database.ExecuteSqlAsync(
            $"""
            delete from checked_pages p where next_check_at <= {now}
                and not exists (select 1 from links l where l.workspace_id = p.workspace_id and l.page_key = p.key and l.deleted_at is null
                    and (l.ends_at is null or l.ends_at > {now}))
                and not exists (select 1 from routed_pages r join links l on l.id = r.link_id where r.page_key = p.key and r.is_used
                    and l.workspace_id = p.workspace_id and l.deleted_at is null and (l.ends_at is null or l.ends_at > {now}))
            """,
            cancel
        );
        await db.CheckedPages.Where(p => p.IgnoredUntil <= now).ExecuteUpdateAsync(p => p.SetProperty(x => x.IgnoredUntil, (Instant?)null), cancel);

        // Pages of links that are yet to open wait for that: they may not be there before.
        // Pages in trouble come first, then new ones, what was made last before the rest of a long list: somebody may be waiting for it. The others
        // wait in the order in which they became due.
        return await db
            .Database.SqlQuery<DuePage>(
                $"""
                select id, site from (
                    select p.id, p.site, row_number() over (partition by p.site order by
                        p.tries > 0 desc, p.checked_at is null desc, case when p.checked_at is null then p.next_check_at end desc, p.next_check_at) as place
                    from checked_pages p left join link_check_settings s on s.workspace_id = p.workspace_id
                    where p.next_check_at <= {now} and s.is_on is not false
                        and (exists (select 1 from links l where l.workspace_id = p.workspace_id and l.page_key = p.key and l.deleted_at is null and (l.opens_at is null or l.opens_at <= {now}))
                            or exists (select 1 from routed_pages r join links l on l.id = r.link_id where r.page_key = p.key and r.is_used
                                and l.workspace_id = p.workspace_id and l.deleted_at is null and (l.opens_at is null or l.opens_at <= {now})))
                ) due where place <= {PagesOfSite} order by place, site limit {PagesInAll}
                """
            )
            .ToListAsync(cancel);
    }

    internal sealed record DuePage(Guid Id, string Site);
}
