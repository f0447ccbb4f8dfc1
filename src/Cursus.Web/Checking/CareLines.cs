using System.Globalization;
using Cursus.Core;
using Cursus.Core.Checking;
using Cursus.Data;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Checking;

/// <summary>What needs care, a sentence each, for the digest: certificates that end, then pages, those with the most recent clicks first.</summary>
internal static class CareLines
{
    private const int Most = 100;

    private static readonly LocalDatePattern Day = LocalDatePattern.Create("d MMM uuuu", CultureInfo.GetCultureInfo("en-GB"));

    public static async Task<IReadOnlyList<string>> Of(CursusDb db, Guid workspaceId, DateTimeZone zone, Instant now, CancellationToken cancel)
    {
        var today = now.InZone(zone).Date;
        var certificates = await EndingCertificate.Of(db, workspaceId, now, cancel);
        var pages = await CarePages.ByRecentClicks(db, workspaceId, now, today).AsNoTracking().Take(Most).ToListAsync(cancel);
        var hurt = await CarePages.Hurt(db, workspaceId, [.. pages.Select(p => p.Key)], now, today, cancel);
        return
        [
            .. certificates.Select(c =>
                $"The certificate of {c.Domain} {(c.EndsAt <= now ? "has ended" : "ends")} on {Day.Format(c.EndsAt.InZone(zone).Date)}. After that, browsers warn visitors."
            ),
            .. pages.Select(p => $"{p.Address}: {CareText.Of(p.State)} {Hurting([.. hurt[p.Key]])}"),
        ];
    }

    private static string Hurting(IReadOnlyList<CarePages.ImpactRow> hurt)
    {
        var (clicks, posts) = (hurt.Sum(h => h.RecentClicks), hurt.Where(h => h.Title is not null).ToList());
        var where = posts.Count switch
        {
            0 => hurt.Sum(h => h.Links) is 1 ? "in one link" : $"in {hurt.Sum(h => h.Links)} links",
            1 => $"in “{posts[0].Title}”",
            _ => $"in “{posts[0].Title}” and {posts.Count - 1} more",
        };
        return $"{CountWords.Clicks(clicks)} in 30 days, {where}.";
    }
}
