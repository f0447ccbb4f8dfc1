using System.Text;
using Cursus.Core.Clicks;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;
using Microsoft.AspNetCore.WebUtilities;
using NodaTime;

namespace Cursus.Web.Edge;

/// <summary>
/// What handoff pages report back: which networks answered, and what a visitor answered. Also takes the question's form from browsers without scripts. A report is believed as
/// far as a click is: whoever wants to make one up could as well follow the link.
/// </summary>
internal sealed class HandoffReports(LinkTable links, PixelTable pixels, HandoffAnswer handoffs, VisitReader visits, TeamMark team, IClock clock)
{
    private const int MostBytes = 4096;
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
        if (Visit(exchange, domain, Field("slug"), Field("query")) is not { } visit)
        {
            exchange.Response.StatusCode = StatusCodes.Status404NotFound;
            return Task.CompletedTask;
        }

        var visitor = Visitor(exchange, domain);
        if (Field("came") is { Length: > 0 } came)
        {
            if (came.Length == visit.Pixels.Count)
            {
                handoffs.Report(visit, visitor, HandoffAnswer.KindOf(exchange, visitor),
                    [.. visit.Pixels.Zip(came, (pixel, mark) => new PixelOutcome(pixel.Id, mark == '1' ? HandoffOutcome.Fired : HandoffOutcome.Missed))]);
            }
        }
        else if (Field("answer") is "yes" or "no")
        {
            return TakeAnswer(exchange, visit, visitor, Field("answer") == "yes" ? ConsentAnswer.Yes : ConsentAnswer.No, isByScript: Field("remember").Length > 0);
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
            return exchange.Write(handoffs.Fire(exchange, visit, visitor));
        }

        // A redirect would be held back by the page's policy for forms; a page that leads on is not.
        exchange.Response.Headers.ContentSecurityPolicy = EdgePages.OnwardSecurity;
        return exchange.Write(StatusCodes.Status200OK, Html, EdgePages.Onward(visit.Location));
    }

    /// <summary>Pictures are all that fires without scripts, and nothing says whether they came.</summary>
    private void ReportWithoutScript(Exchange exchange, DomainEntry domain)
    {
        var slug = QueryHelpers.ParseQuery(exchange.Request.QueryString).GetValueOrDefault("slug").ToString();
        if (Visit(exchange, domain, slug, "") is { } visit)
        {
            var visitor = Visitor(exchange, domain);
            handoffs.Report(visit, visitor, HandoffAnswer.KindOf(exchange, visitor), [.. visit.Pixels.Select(p =>
                new PixelOutcome(p.Id, p.Fires.Network.Fires.RunsScript ? HandoffOutcome.Missed : HandoffOutcome.Fired))]);
        }
    }

    private HandoffVisit? Visit(Exchange exchange, DomainEntry domain, string slug, string query)
    {
        if (!links.TryFind(domain.Number, slug, out var link))
        {
            return null;
        }

        var answering = link.At(clock.GetCurrentInstant(), out var stage);
        answering = stage == LinkStage.Scheduled && team.IsOn(exchange, domain.WorkspaceId) ? link : answering;
        return !answering.LeadsNowhere && pixels.Of(domain, answering) is { } fired ? HandoffVisit.Of(domain, answering, slug, query, fired) : null;
    }

    private VisitReader.Visitor Visitor(Exchange exchange, DomainEntry domain) =>
        visits.Read(VisitorHeaders.Of(exchange.Request), exchange.Connection?.RemoteIpAddress, domain, team.IsOn(exchange, domain.WorkspaceId) ? ClickKind.Team : null);

    /// <summary>The form, or null where it is longer than any that a handoff page sends.</summary>
    private static async Task<Dictionary<string, Microsoft.Extensions.Primitives.StringValues>?> ReadForm(Exchange exchange)
    {
        var bytes = new byte[MostBytes + 1];
        var length = await exchange.Request.Body.ReadAtLeastAsync(bytes, bytes.Length, throwOnEndOfStream: false);
        return length > MostBytes ? null : QueryHelpers.ParseQuery(Encoding.UTF8.GetString(bytes, 0, length));
    }
}
