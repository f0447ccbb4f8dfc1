using System.IO.Compression;
using System.Text;
using Cursus.Core;
using Cursus.Core.Checking;
using Cursus.Core.Codes;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>GET /domains/{id}/redirects: all redirects of a short domain in forms that other servers follow by themselves, so that printed links
/// outlive Cursus.</summary>
public static class RedirectFiles
{
    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/domains/{id:guid}/redirects", Handle)
            .ForViewers()
            .Holding(Held.Download)
            .NotedAsExport("links")
            .WithSummary("All redirects of a short domain, for another server")
            .Produces(200, contentType: "application/octet-stream");

    /// <param name="form"><c>nginx</c> (default), <c>apache</c>, or <c>pages</c> for a ZIP of plain pages.</param>
    private static async Task<IResult> Handle(Guid id, string? form, CurrentMember member, CursusDb db, IClock clock, CancellationToken cancel)
    {
        if (
            await db.Domains.Where(d => d.Id == id && d.WorkspaceId == member.WorkspaceId).Select(d => d.Name).FirstOrDefaultAsync(cancel)
            is not { } domain
        )
        {
            return ApiProblem.NotFound("short domain");
        }

        if (form is not (null or "nginx" or "apache" or "pages"))
        {
            return ApiProblem.Invalid("form", new ValidationError("form", "Choose nginx, apache or pages."));
        }

        var redirects = await Read(id, clock.GetCurrentInstant(), member.Zone, db, cancel);
        return form switch
        {
            "apache" => Text(RedirectList.Apache(domain, redirects), $"{domain}.map"),
            "pages" => TypedResults.File(Pages(redirects), "application/zip", $"{domain}.zip"),
            _ => Text(RedirectList.Nginx(domain, redirects), $"{domain}.conf"),
        };
    }

    /// <summary>Everything that leads somewhere on the domain: links and their earlier addresses, archived ones too. Other servers know no time:
    /// links that are yet to open are open there, and those that have ended lead to their fallback, or are left out.</summary>
    private static async Task<IReadOnlyList<KeptRedirect>> Read(Guid domain, Instant now, DateTimeZone zone, CursusDb db, CancellationToken cancel)
    {
        var own = db.Links.Where(l => l.DomainId == domain && l.DeletedAt == null).Select(l => new { l.Slug, Link = l });
        var earlier = db.LinkAliases.Where(a => a.DomainId == domain && a.Link!.DeletedAt == null).Select(a => new { a.Slug, Link = a.Link! });
        var all = await own.Concat(earlier)
            .Select(l => new
            {
                l.Slug,
                l.Link.Id,
                l.Link.FinalUrl,
                l.Link.Route,
                HasEnded = l.Link.EndsAt <= now,
                OfLink = l.Link.Fallback,
                OfCampaign = l.Link.Campaign!.Fallback,
                OfWorkspace = db.LinkCheckSettings.Where(s => s.WorkspaceId == l.Link.WorkspaceId).Select(s => s.Fallback).FirstOrDefault(),
            })
            .ToListAsync(cancel);
        var codes = (
            await db
                .LinkCodes.Where(c =>
                    db.Links.Any(l => l.Id == c.LinkId && l.DeletedAt == null && (l.DomainId == domain || l.Aliases.Any(a => a.DomainId == domain)))
                )
                .Select(c => new { c.LinkId, c.Number })
                .ToListAsync(cancel)
        ).ToLookup(c => c.LinkId, c => (int)c.Number);
        return
        [
            .. all.Select(l => (Link: l, Fallback: LinkInheritance.Fallback(l.OfLink, l.OfCampaign, l.OfWorkspace)))
                .Where(l => !l.Link.HasEnded || l.Fallback is not null)
                .OrderBy(l => l.Link.Slug, StringComparer.OrdinalIgnoreCase)
                .Select(l => (l.Link, l.Fallback, Route: l.Link.Route is { } text && !l.Link.HasEnded ? RouteText.Read(text) : null))
                .Select(l => new KeptRedirect(
                    l.Link.Slug,
                    l.Link.HasEnded ? FallbackDestination.For(l.Fallback!, l.Link.FinalUrl)
                        : l.Route is not null && RoutePages.OfEveryoneElse(l.Route) is { } page
                            ? FallbackDestination.For(page.Destination, l.Link.FinalUrl)
                        : l.Link.FinalUrl,
                    [ScannedPath.OwnCode, .. codes[l.Link.Id].Where(n => n != ScannedPath.OwnCode).Order()],
                    l.Route is null ? null : RouteWords.Of(l.Route, zone)
                )),
        ];
    }

    private static FileContentHttpResult Text(string text, string name) =>
        TypedResults.File(Encoding.UTF8.GetBytes(text), "text/plain; charset=utf-8", name);

    private static byte[] Pages(IReadOnlyList<KeptRedirect> redirects)
    {
        using var content = new MemoryStream();
        using (var zip = new ZipArchive(content, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var redirect in redirects)
            {
                var page = Encoding.UTF8.GetBytes(RedirectList.Page(redirect));
                foreach (var path in RedirectList.Paths(redirect))
                {
                    using var file = zip.CreateEntry(path).Open();
                    file.Write(page);
                }
            }
        }

        return content.ToArray();
    }
}
