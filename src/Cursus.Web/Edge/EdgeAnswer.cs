using Cursus.Core.Addresses;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using Cursus.Web.Clicks;
using NodaTime;

namespace Cursus.Web.Edge;

/// <summary>
/// Answers requests on short domains: finds the link in memory, writes the click into the journal, redirects.
/// Nothing here waits for the database.
/// </summary>
internal sealed class EdgeAnswer(LinkTable links, ClickJournal journal, VisitorSalts salts, TeamMark team, IClock clock)
{
    private static readonly byte[] Robots = "User-agent: *\nDisallow:\n"u8.ToArray();

    // A transparent picture of one pixel, the smallest GIF there is.
    private static readonly byte[] Pixel = Convert.FromBase64String("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7");

    public Task Answer(HttpContext context)
    {
        if (links.FindDomain(context.Request.Host.Host) is not { } domain)
        {
            return Write(context, StatusCodes.Status404NotFound, "text/html; charset=utf-8", EdgePages.UnknownSlug);
        }

        if (!HttpMethods.IsGet(context.Request.Method) && !HttpMethods.IsHead(context.Request.Method))
        {
            context.Response.Headers.Allow = "GET, HEAD";
            context.Response.StatusCode = StatusCodes.Status405MethodNotAllowed;
            return Task.CompletedTask;
        }

        var slug = context.Request.Path.Value.AsSpan().Trim('/');
        return LinkTable.Find(domain, slug) switch
        {
            { Location: { } location } link => Follow(context, domain, link, location),
            { } => LeadOrShow(context, domain.EndedPage, StatusCodes.Status410Gone, EdgePages.Ended),
            null => AnswerItself(context, domain, slug),
        };
    }

    private Task Follow(HttpContext context, DomainEntry domain, LinkEntry link, string location)
    {
        var response = context.Response;
        var isTestOpen = IsTestOpen(context, domain);
        var isTeam = isTestOpen || team.IsOn(context.Request, domain.WorkspaceId);
        journal.Append(Read(context.Request, domain, link, isTeam ? ClickKind.Team : KindByRequest(context.Request)));

        var options = link.Options;
        if (options.HideFromSearch)
        {
            response.Headers["X-Robots-Tag"] = "noindex";
        }

        if (options.PassQuery != QueryPassing.Off && context.Request.QueryString.HasValue)
        {
            location = PassedQuery.WriteInto(location, TeamMark.WithoutPass(context.Request.QueryString.Value), options.PassQuery);
        }

        if (options.Referrer != ReferrerPassing.Keep)
        {
            response.Headers["Referrer-Policy"] = "no-referrer";
        }

        if (options.Referrer == ReferrerPassing.HideByPage)
        {
            response.Headers.ContentSecurityPolicy = EdgePages.OnwardSecurity;
            return Write(context, StatusCodes.Status200OK, "text/html; charset=utf-8", EdgePages.Onward(location));
        }

        // 301 and 308 may be kept by caches for ever unless told otherwise (RFC 9110, sections 15.4.2 and 15.4.9). Each visit must reach us
        // again, so that it is counted and a changed destination holds at once (RFC 9111, sections 5.2.2.5 and 5.2.2.7).
        response.Headers.CacheControl = "private, no-store";
        response.Headers.Location = location;
        response.StatusCode = link.Redirect;
        return Task.CompletedTask;
    }

    private bool IsTestOpen(HttpContext context, DomainEntry domain)
    {
        if (team.ReadPass(context.Request, domain.WorkspaceId) is null)
        {
            return false;
        }

        team.SetOn(context, domain.WorkspaceId);
        return true;
    }

    /// <summary>What the request tells that the journal doesn't keep; the user agent is read later, apart from the answer.</summary>
    private static ClickKind KindByRequest(HttpRequest request) => HttpMethods.IsHead(request.Method) ? ClickKind.Head : KindByHeaders(request.Headers);

    private static ClickKind KindByHeaders(IHeaderDictionary headers) =>
        PrefetchSignal.Is(headers["Sec-Purpose"], headers["Purpose"]) || PrefetchSignal.Is(headers["X-Purpose"], headers["X-Moz"]) ? ClickKind.Prefetch : ClickKind.Person;

    private Click Read(HttpRequest request, DomainEntry domain, LinkEntry link, ClickKind kind)
    {
        var agent = request.Headers.UserAgent.ToString();
        if (agent.Length > Click.MaxUserAgent)
        {
            agent = agent[..Click.MaxUserAgent];
        }

        // PostgreSQL takes no zero character in a text; one would hold up every click behind it.
        agent = agent.Replace('\0', ' ');

        var address = request.HttpContext.Connection.RemoteIpAddress?.ToString() ?? "";
        return new Click(
            clock.GetCurrentInstant(),
            link.Id,
            kind,
            VisitorHash.Of(salts.Today, domain.Name, address, agent),
            ReferrerHost.Of(request.Headers.Referer),
            agent,
            PrimaryLanguage.Of(request.Headers.AcceptLanguage));
    }

    private Task AnswerItself(HttpContext context, DomainEntry domain, ReadOnlySpan<char> path)
    {
        switch (path)
        {
            case "":
                return LeadOrShow(context, domain.BarePage, StatusCodes.Status200OK, EdgePages.BareDomain);
            case "robots.txt":
                return Write(context, StatusCodes.Status200OK, "text/plain; charset=utf-8", Robots);
            case "favicon.ico":
                context.Response.StatusCode = StatusCodes.Status204NoContent;
                return Task.CompletedTask;
            case TeamMark.Path when team.ReadPass(context.Request, domain.WorkspaceId) is { Length: > 0 } returnTo:
                team.SetOn(context, domain.WorkspaceId);
                context.Response.Headers.CacheControl = "no-store";
                context.Response.Headers.Location = returnTo;
                context.Response.StatusCode = StatusCodes.Status302Found;
                return Task.CompletedTask;
            case TeamMark.Path:
                return Write(context, StatusCodes.Status200OK, "image/gif", Pixel);
            default:
                return LeadOrShow(context, domain.UnknownPage, StatusCodes.Status404NotFound, EdgePages.UnknownSlug);
        }
    }

    /// <summary>Leads to the page that the domain's owner has chosen, else shows a plain one.</summary>
    private static Task LeadOrShow(HttpContext context, string? page, int status, byte[] plain)
    {
        if (page is null)
        {
            return Write(context, status, "text/html; charset=utf-8", plain);
        }

        context.Response.Headers.CacheControl = "private, no-store";
        context.Response.Headers.Location = page;
        context.Response.StatusCode = StatusCodes.Status302Found;
        return Task.CompletedTask;
    }

    private static Task Write(HttpContext context, int status, string type, byte[] body)
    {
        context.Response.StatusCode = status;
        context.Response.ContentType = type;
        context.Response.ContentLength = body.Length;
        context.Response.Headers.CacheControl = "no-store";
        return HttpMethods.IsHead(context.Request.Method) ? Task.CompletedTask : context.Response.Body.WriteAsync(body).AsTask();
    }
}
