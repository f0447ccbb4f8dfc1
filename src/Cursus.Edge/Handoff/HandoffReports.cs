using System.Text;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;
using Cursus.Edge.Routing;
using Microsoft.AspNetCore.WebUtilities;
using NodaTime;

namespace Cursus.Edge.Handoff;

/// <summary>
/// What handoff pages report back: which networks answered, and what a visitor answered. Also takes the question's form from browsers without
/// scripts. A report is believed as far as a click is: whoever wants to make one up could as well follow the link.
/// </summary>
internal sealed class HandoffReports(
    LinkTable links,
    PixelTable pixels,
    HandoffAnswer handoffs,
    VisitReader visits,
    TeamMark team,
    RouteBook routes,
    IClock clock
)
{
    private const int MostBytes = 4096 + HandoffTicket.MaxLength;
    private const string Html = "text/html; charset=utf-8";

    /// <summary>Answers a request on <see cref="HandoffPage.ReportPath"/>.</summary>
    public async Task Answer(Exchange exchange, DomainEntry domain)
    {
        // Pages of other sites must not answer in a visitor's name (Fetch Metadata Request Headers, section 2.3).
        if (exchange.Request.Headers["Sec-Fetch-Site"].ToString() is not ("" or "same-origin"))
        {
            exchange.Response.StatusCode = StatusCodes.Status403Forbidden;
            return;
        }

        if (exchange.IsGet)
        {
            ReportWithoutScript(exchange, domain);
            await exchange.Write(StatusCodes.Status200OK, "image/gif", EdgePages.Picture);
            return;
        }

        if (!HttpMethods.IsPost(exchange.Request.Method) || await ReadForm(exchange) is not { } form)
        {
            exchange.Response.StatusCode = StatusCodes.Status400BadRequest;
            return;
        }

        await Answer(exchange, domain, form);
    }

    private Task Answer(Exchange exchange, DomainEntry domain, Dictionary<string, Microsoft.Extensions.Primitives.StringValues> form)
    {
        string Field(string name) => form.TryGetValue(name, out var value) ? value.ToString() : "";
        var ticket = HandoffTicket.TryParse(Field("ticket"), out var decided) ? decided : HandoffTicket.None;
        var (now, isTeam) = (clock.GetCurrentInstant(), team.IsOn(exchange, domain.WorkspaceId));
        if (Visit(domain, Field("slug"), Field("query"), ticket, now, isTeam) is not { } visit)
        {
            exchange.Response.StatusCode = StatusCodes.Status404NotFound;
            return Task.CompletedTask;
        }

        var visitor = Visitor(exchange, domain, now, isTeam);
        if (Field("came") is { Length: > 0 } came)
        {
            if (came.Length == ticket.Pixels.Count)
            {
                // A pixel that was deleted meanwhile is nobody's any more.
                handoffs.Report(
                    visit,
                    visitor,
                    HandoffAnswer.KindOf(exchange, visitor),
                    [
                        .. ticket
                            .Pixels.Zip(came, (pixel, mark) => new PixelOutcome(pixel, mark == '1' ? HandoffOutcome.Fired : HandoffOutcome.Missed))
                            .Where(o => visit.Pixels.Any(p => p.Id == o.Pixel)),
                    ]
                );
            }
        }
        else if (Field("answer") is "yes" or "no")
        {
            return TakeAnswer(
                exchange,
                visit,
                visitor,
                Field("answer") == "yes" ? ConsentAnswer.Yes : ConsentAnswer.No,
                isByScript: Field("remember").Length > 0
            );
        }

        exchange.Response.StatusCode = StatusCodes.Status204NoContent;
        return Task.CompletedTask;
    }

    private Task TakeAnswer(Exchange exchange, HandoffVisit visit, VisitReader.Visitor visitor, ConsentAnswer answer, bool isByScript)
    {
        handoffs.Remember(exchange.ToHttpContext(), answer);
        if (answer == ConsentAnswer.No)
        {
            handoffs.Report(visit, visitor, HandoffAnswer.KindOf(exchange, visitor), HandoffOutcome.Declined);
        }

        if (isByScript)
        {
            exchange.Response.StatusCode = StatusCodes.Status204NoContent;
            return Task.CompletedTask;
        }

        if (answer == ConsentAnswer.Yes)
        {
            return exchange.Write(handoffs.Page(exchange, visit, visitor, isAsking: false));
        }

        // A redirect would be held back by the page's policy for forms; a page that leads on is not.
        exchange.Response.Headers.ContentSecurityPolicy = EdgePages.OnwardSecurity;
        return exchange.Write(StatusCodes.Status200OK, Html, EdgePages.Onward(visit.Location));
    }

    /// <summary>Pictures are all that fires without scripts, and nothing says whether they came.</summary>
    private void ReportWithoutScript(Exchange exchange, DomainEntry domain)
    {
        var query = QueryHelpers.ParseQuery(exchange.Request.QueryString);
        var (now, isTeam) = (clock.GetCurrentInstant(), team.IsOn(exchange, domain.WorkspaceId));
        if (
            HandoffTicket.TryParse(query.GetValueOrDefault("ticket").ToString(), out var ticket)
            && Visit(domain, query.GetValueOrDefault("slug").ToString(), "", ticket, now, isTeam) is { } visit
        )
        {
            var visitor = Visitor(exchange, domain, now, isTeam);
            handoffs.Report(
                visit,
                visitor,
                HandoffAnswer.KindOf(exchange, visitor),
                [.. visit.Pixels.Select(p => new PixelOutcome(p.Id, p.Fires.Network.Fires.RunsScript ? HandoffOutcome.Missed : HandoffOutcome.Fired))]
            );
        }
    }

    /// <summary>The visit that a page reports on, as it was decided then. Null where the link has gone meanwhile.</summary>
    private HandoffVisit? Visit(DomainEntry domain, string slug, string query, HandoffTicket ticket, Instant now, bool isTeam) =>
        links.TryFind(domain.Number, slug, out var link)
        && LinkDecision.Again(link.Target with { Route = routes.Of(link) }, ticket.Page, now, isTeam) is { LeadsOn: true } decision
        && pixels.Settings(domain) is { } settings
            ? HandoffVisit.Of(domain, link, decision, slug, query, pixels.Of(domain, ticket.Pixels), settings)
            : null;

    private VisitReader.Visitor Visitor(Exchange exchange, DomainEntry domain, Instant now, bool isTeam) =>
        visits.ReadReport(now, VisitorHeaders.Of(exchange.Request), exchange.Connection?.RemoteIpAddress, domain, isTeam);

    /// <summary>The form, or null where it is longer than any that a handoff page sends.</summary>
    private static async Task<Dictionary<string, Microsoft.Extensions.Primitives.StringValues>?> ReadForm(Exchange exchange)
    {
        var bytes = new byte[MostBytes + 1];
        var length = await exchange.Request.Body.ReadAtLeastAsync(bytes, bytes.Length, throwOnEndOfStream: false);
        return length > MostBytes ? null : QueryHelpers.ParseQuery(Encoding.UTF8.GetString(bytes, 0, length));
    }
}
