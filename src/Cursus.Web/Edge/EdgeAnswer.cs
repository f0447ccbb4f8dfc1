using System.Net;
using System.Text;
using Cursus.Core.Addresses;
using Cursus.Core.Clicks;
using Cursus.Core.Codes;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;
using Cursus.Data.Clicks;
using Microsoft.AspNetCore.Http.Features;
using NodaTime;

namespace Cursus.Web.Edge;

/// <summary>
/// Answers requests on short domains: finds the link in memory, writes the click into the journal, redirects. Works on the server's own
/// features of a request; an <see cref="HttpContext"/> is made only where cookies or passes are read. Waits for the database only for links that aren't loaded yet.
/// </summary>
internal sealed class EdgeAnswer(DomainTable domains, LinkTable links, UnloadedLinks unloaded, ClickJournal journal, VisitReader visits, TeamMark team, PixelTable pixels, HandoffAnswer handoffs, HandoffReports reports, IClock clock)
{
    private static readonly byte[] Robots = "User-agent: *\nDisallow:\n"u8.ToArray();

    /// <summary>Answers one request.</summary>
    public Task Answer(IFeatureCollection features)
    {
        var exchange = new Exchange(features);
        if (domains.Find(EdgeHosts.Name(exchange.Request)) is not { } domain)
        {
            return domains.IsKnown ? exchange.WritePage(StatusCodes.Status404NotFound, EdgePages.UnknownSlug) : AskToComeAgain(exchange);
        }

        var path = exchange.Request.Path.AsSpan().Trim('/');
        if (path is HandoffPage.ReportPath)
        {
            return reports.Answer(exchange, domain);
        }

        if (!exchange.IsGet && !exchange.IsHead)
        {
            exchange.Response.Headers.Allow = "GET, HEAD";
            exchange.Response.StatusCode = StatusCodes.Status405MethodNotAllowed;
            return Task.CompletedTask;
        }

        var scanned = ScannedPath.Read(path);
        return links.TryFind(domain.Number, scanned.Slug, out var link) ? AnswerLink(exchange, domain, link, scanned.Code)
            : unloaded.MayHold(scanned.Slug) ? AnswerUnloaded(exchange, domain, scanned.Slug.ToString(), scanned.Code, path.ToString())
            : AnswerItself(exchange, domain, path);
    }

    /// <summary>Leads a visitor on where the link alone decides how, which is so for nearly all, and writes the click down. False where more must be looked at; then nothing was done.</summary>
    /// <param name="host">As the request names it, without its port.</param>
    /// <param name="query">With its question mark; empty where there is none.</param>
    public bool TryLead(ReadOnlySpan<char> host, ReadOnlySpan<char> path, ReadOnlySpan<char> query, in VisitorHeaders headers, IPAddress? connection, out PlainRedirect redirect)
    {
        redirect = default;
        var trimmed = path.Trim('/');
        if (domains.Find(host) is not { } domain || trimmed is HandoffPage.ReportPath || query.Contains(TeamMark.PassParameter, StringComparison.Ordinal))
        {
            return false;
        }

        var scanned = ScannedPath.Read(trimmed);
        if (!links.TryFind(domain.Number, scanned.Slug, out var link) || link.HasSchedule || link.LeadsNowhere || link.Referrer == ReferrerPassing.HideByPage
            || (query.Length > 0 && link.PassQuery != QueryPassing.Off) || !Ascii.IsValid(link.Utf8Location) || pixels.Of(domain, link) is not null)
        {
            return false;
        }

        visits.Record(headers, connection, domain, link, scanned.Code, null);
        redirect = new()
        {
            Status = link.Redirect,
            Location = link.Utf8Location,
            HidesReferrer = link.Referrer != ReferrerPassing.Keep,
            HidesFromSearch = link.HideFromSearch,
        };
        return true;
    }

    /// <summary>Ends when all that was written down before is as safe as it must be before the answer goes out.</summary>
    public Task WhenSafe() => journal.WhenSafe();

    private async Task AnswerUnloaded(Exchange exchange, DomainEntry domain, string slug, byte code, string path)
    {
        switch (await unloaded.Find(domain, slug))
        {
            case { IsKnown: false }:
                await AskToComeAgain(exchange);
                break;
            case { Record: { } record }:
                await AnswerLink(exchange, domain, new LinkEntry(record), code);
                break;
            default:
                await AnswerItself(exchange, domain, path);
                break;
        }
    }

    private Task AnswerLink(Exchange exchange, DomainEntry domain, in LinkEntry link, byte code)
    {
        // Links without a time, which are nearly all, need no clock.
        var stage = LinkStage.Open;
        var answering = link.HasSchedule ? link.At(clock.GetCurrentInstant(), out stage) : link;
        return stage == LinkStage.Scheduled && IsTeam(exchange, domain) ? Follow(exchange, domain, link, code)
            : !answering.LeadsNowhere ? Follow(exchange, domain, answering, code)
            : stage == LinkStage.Scheduled ? exchange.WritePage(StatusCodes.Status404NotFound, EdgePages.Scheduled)
            : LeadOrShow(exchange, domain.EndedPage, StatusCodes.Status410Gone, EdgePages.Ended);
    }

    private Task Follow(Exchange exchange, DomainEntry domain, in LinkEntry link, byte code)
    {
        var (request, response) = (exchange.Request, exchange.Response);
        var visitor = visits.Record(VisitorHeaders.Of(request), exchange.Connection?.RemoteIpAddress, domain, link, code, IsTeam(exchange, domain) ? ClickKind.Team : null);
        if (link.HideFromSearch)
        {
            response.Headers["X-Robots-Tag"] = PlainRedirect.NoIndex;
        }

        var safe = journal.WhenSafe();
        if (pixels.Of(domain, link) is { } fired
            && handoffs.Decide(exchange, HandoffVisit.Of(domain, link, ScannedPath.Read(request.Path.AsSpan().Trim('/')).Slug.ToString(), request.QueryString, fired), visitor) is { } page)
        {
            return After(safe, exchange, e => e.Write(page));
        }

        var location = link.LocationWith(request.QueryString);
        if (link.Referrer != ReferrerPassing.Keep)
        {
            response.Headers["Referrer-Policy"] = PlainRedirect.NoReferrer;
        }

        if (link.Referrer == ReferrerPassing.HideByPage)
        {
            response.Headers.ContentSecurityPolicy = EdgePages.OnwardSecurity;
            return After(safe, exchange, e => e.WritePage(StatusCodes.Status200OK, EdgePages.Onward(location)));
        }

        response.Headers.CacheControl = PlainRedirect.CacheControl;
        response.Headers.Location = location;
        response.StatusCode = link.Redirect;
        return safe;
    }

    /// <summary>Whether the request is a test-open or of a browser that was marked before.</summary>
    private bool IsTeam(Exchange exchange, DomainEntry domain)
    {
        if (exchange.Request.QueryString.Contains(TeamMark.PassParameter, StringComparison.Ordinal))
        {
            var context = exchange.ToHttpContext();
            if (team.ReadPass(context.Request, domain.WorkspaceId) is not null)
            {
                team.SetOn(context, domain.WorkspaceId);
                return true;
            }
        }

        return team.IsOn(exchange, domain.WorkspaceId);
    }

    private Task AnswerItself(Exchange exchange, DomainEntry domain, ReadOnlySpan<char> path)
    {
        switch (path)
        {
            case "":
                return LeadOrShow(exchange, domain.BarePage, StatusCodes.Status200OK, EdgePages.BareDomain);
            case "robots.txt":
                return exchange.Write(StatusCodes.Status200OK, "text/plain; charset=utf-8", Robots);
            case "favicon.ico":
                exchange.Response.StatusCode = StatusCodes.Status204NoContent;
                return Task.CompletedTask;
            case TeamMark.Path when exchange.ToHttpContext() is var context && team.ReadPass(context.Request, domain.WorkspaceId) is { Length: > 0 } returnTo:
                team.SetOn(context, domain.WorkspaceId);
                return exchange.Lead(returnTo);
            case TeamMark.Path:
                return exchange.Write(StatusCodes.Status200OK, "image/gif", EdgePages.Picture);
            case var _ when path.StartsWith(".well-known/"):
                // Programs ask there (RFC 8615), not people: they get no page to read and are led to none.
                exchange.Response.StatusCode = StatusCodes.Status404NotFound;
                return Task.CompletedTask;
            default:
                return LeadOrShow(exchange, domain.UnknownPage, StatusCodes.Status404NotFound, EdgePages.UnknownSlug);
        }
    }

    /// <summary>Leads to the page that the domain's owner has chosen, else shows a plain one.</summary>
    private static Task LeadOrShow(Exchange exchange, string? page, int status, byte[] plain) =>
        page is null ? exchange.WritePage(status, plain) : exchange.Lead(page);

    private static Task AskToComeAgain(Exchange exchange)
    {
        exchange.Response.Headers.RetryAfter = "2";
        return exchange.WritePage(StatusCodes.Status503ServiceUnavailable, EdgePages.Starting);
    }

    private static async Task After(Task safe, Exchange exchange, Func<Exchange, Task> answer)
    {
        await safe;
        await answer(exchange);
    }
}
