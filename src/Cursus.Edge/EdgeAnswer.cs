using System.Net;
using System.Text;
using Cursus.Core.Addresses;
using Cursus.Core.Clicks;
using Cursus.Core.Codes;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;
using Cursus.Core.Routing;
using Cursus.Data.Clicks.Journaling;
using Cursus.Edge.Handoff;
using Cursus.Edge.Routing;
using Microsoft.AspNetCore.Http.Features;
using NodaTime;

namespace Cursus.Edge;

/// <summary>
/// Answers requests on short domains: finds the link in memory, writes the click into the journal, redirects. Works on the server's own
/// features of a request; an <see cref="HttpContext"/> is made only where cookies or passes are read. Waits for the database only for links that
/// aren't loaded yet.
/// </summary>
internal sealed class EdgeAnswer(
    DomainTable domains,
    LinkTable links,
    UnloadedLinks unloaded,
    ClickJournal journal,
    VisitReader visits,
    TeamMark team,
    PixelTable pixels,
    HandoffAnswer handoffs,
    HandoffReports reports,
    RouteBook routes,
    AgentBook agents,
    FirstPeople people,
    EdgeOptions options,
    IClock clock
)
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

    /// <summary>Leads a visitor on where the link alone decides how, which is so for nearly all, and writes the click down. False where more must be
    /// looked at; then nothing was done.</summary>
    /// <param name="host">As the request names it, without its port.</param>
    /// <param name="query">With its question mark; empty where there is none.</param>
    public bool TryLead(
        ReadOnlySpan<char> host,
        ReadOnlySpan<char> path,
        ReadOnlySpan<char> query,
        in VisitorHeaders headers,
        IPAddress? connection,
        out PlainRedirect redirect
    )
    {
        redirect = default;
        var trimmed = path.Trim('/');
        if (
            domains.Find(host) is not { } domain
            || trimmed is HandoffPage.ReportPath
            || query.Contains(TeamMark.PassParameter, StringComparison.Ordinal)
        )
        {
            return false;
        }

        var scanned = ScannedPath.Read(trimmed);
        if (!links.TryFind(domain.Number, scanned.Slug, out var link))
        {
            return false;
        }

        var target = link.Target;
        if (!target.Schedule.IsAlways || link.HasRoute)
        {
            return false;
        }

        // No cookie comes with such a request and no pass, so that it is nobody's of the team.
        var now = clock.GetCurrentInstant();
        var decision = LinkDecision.Of(target, now, isTeam: false);
        if (
            decision.Kind != LinkResponseKind.Redirect
            || (query.Length > 0 && decision.PassQuery != QueryPassing.Off)
            || !Ascii.IsValid(decision.Address)
            || pixels.Of(domain, link) is not null
        )
        {
            return false;
        }

        visits.Record(visits.Read(now, headers, connection, domain, isTeam: false), headers, link.Id, scanned.Code, decision.Page);
        redirect = new()
        {
            Status = decision.Status,
            Location = decision.Address,
            HidesReferrer = decision.HidesReferrer,
            HidesFromSearch = decision.HidesFromSearch,
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

    /// <summary>Decides, writes down what was decided, and responds.</summary>
    private Task AnswerLink(Exchange exchange, DomainEntry domain, in LinkEntry link, byte code)
    {
        var (now, isTeam) = (clock.GetCurrentInstant(), IsTeam(exchange, domain));
        var headers = VisitorHeaders.Of(exchange.Request);
        var visitor = visits.Read(now, headers, exchange.Connection?.RemoteIpAddress, domain, isTeam);
        var decision = routes.Of(link) is { } route
            ? Route(exchange, domain, link, route, visitor, headers)
            : LinkDecision.Of(link.Target, now, isTeam);
        if (!decision.LeadsOn)
        {
            return decision.Kind switch
            {
                LinkResponseKind.ScheduledPage => exchange.WritePage(StatusCodes.Status404NotFound, EdgePages.Scheduled),
                LinkResponseKind.ClosedPage => exchange.WritePage(StatusCodes.Status403Forbidden, EdgePages.ClosedWith(decision.ClosedText)),
                _ when link.EndedText is { } text => exchange.WritePage(StatusCodes.Status410Gone, EdgePages.EndedWith(text)),
                _ => LeadOrShow(exchange, domain.EndedPage, StatusCodes.Status410Gone, EdgePages.Ended),
            };
        }

        visits.Record(visitor, headers, link.Id, code, decision.Page, decision.RouteRule);
        if (pixels.Of(domain, link) is not { } fired)
        {
            return exchange.LeadOn(decision, journal.WhenSafe());
        }

        var slug = ScannedPath.Read(exchange.Request.Path.AsSpan().Trim('/')).Slug.ToString();
        var visit = HandoffVisit.Of(domain, link, decision, slug, exchange.Request.QueryString, fired.Pixels, fired.Settings);
        var handoff = handoffs.Decide(exchange, visit, visitor);
        decision = decision.With(handoff);
        return decision.Kind == LinkResponseKind.HandoffPage
            ? exchange.Write(handoffs.Page(exchange, visit, visitor, handoff == HandoffCourse.Ask), decision, journal.WhenSafe())
            : exchange.LeadOn(decision, journal.WhenSafe());
    }

    /// <summary>Asks the rules of a link. The team sees what others would.</summary>
    private LinkDecision Route(
        Exchange exchange,
        DomainEntry domain,
        in LinkEntry link,
        FinishedRoute route,
        VisitReader.Visitor visitor,
        in VisitorHeaders headers
    )
    {
        var key =
            route.Route.Remember == RouteMemory.ThirtyDays ? VisitorCookie.Of(exchange, options.PublicScheme == Uri.UriSchemeHttps) : visitor.Hash;
        var visit = new RoutedVisit(link.Id, visitor, headers, key, exchange.Request.QueryString, agents, people);
        var isAsked = visitor.Kind == ClickKind.Team || visit.Kind is ClickKind.Person;
        return LinkDecision.OfRoute(
            link.Target with
            {
                Route = route,
            },
            link.Id,
            domain.Salts.Zone,
            visitor.Kind == ClickKind.Team,
            isAsked,
            ref visit
        );
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
            case TeamMark.Path
                when exchange.ToHttpContext() is var context && team.ReadPass(context.Request, domain.WorkspaceId) is { Length: > 0 } returnTo:
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
}
