using Cursus.Core.Clicks.Requests;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;
using Microsoft.AspNetCore.Http.Features;

namespace Cursus.Edge;

/// <summary>One request on a short domain with its response, as the web server holds them.</summary>
internal readonly struct Exchange(IFeatureCollection features)
{
    public IHttpRequestFeature Request { get; } = features.GetRequiredFeature<IHttpRequestFeature>();

    public IHttpResponseFeature Response { get; } = features.GetRequiredFeature<IHttpResponseFeature>();

    public IHttpConnectionFeature? Connection => features.Get<IHttpConnectionFeature>();

    public bool IsGet => HttpMethods.IsGet(Request.Method);

    public bool IsHead => HttpMethods.IsHead(Request.Method);

    /// <summary>The same in ASP.NET Core's form, for cookies and query parameters.</summary>
    public HttpContext ToHttpContext() => new DefaultHttpContext(features);

    /// <summary>Leads to a page that is no link's, so that it isn't counted.</summary>
    public Task Lead(string location)
    {
        Response.Headers.CacheControl = PlainRedirect.CacheControl;
        Response.Headers.Location = location;
        Response.StatusCode = StatusCodes.Status302Found;
        return Task.CompletedTask;
    }

    /// <summary>Answers with a page. Browsers are asked here what they are, since a page may cost what a redirect must not.</summary>
    public Task WritePage(int status, byte[] html)
    {
        Response.Headers["Accept-CH"] = ClientHints.Asked;
        return Write(status, "text/html; charset=utf-8", html);
    }

    /// <summary>Answers with a text or picture that browsers don't keep.</summary>
    public Task Write(int status, string type, byte[] body)
    {
        Response.StatusCode = status;
        Response.Headers.ContentType = type;
        Response.Headers.ContentLength = body.Length;
        Response.Headers.CacheControl = "no-store";
        return IsHead ? Task.CompletedTask : features.GetRequiredFeature<IHttpResponseBodyFeature>().Stream.WriteAsync(body).AsTask();
    }

    /// <summary>Leads a visitor of a link on: by a redirect, or by a page that hides where they came from.</summary>
    /// <param name="safe">Ends when the click is as safe as it must be before the answer goes out.</param>
    public Task LeadOn(in LinkDecision decision, Task safe)
    {
        HideFromSearch(decision);
        var location = TeamMark.Location(decision, Request.QueryString);
        if (decision.HidesReferrer)
        {
            Response.Headers["Referrer-Policy"] = PlainRedirect.NoReferrer;
        }

        if (decision.Kind == LinkResponseKind.OnwardPage)
        {
            Response.Headers.ContentSecurityPolicy = EdgePages.OnwardSecurity;
            return After(safe, e => e.WritePage(StatusCodes.Status200OK, EdgePages.Onward(location)));
        }

        Response.Headers.CacheControl = PlainRedirect.CacheControl;
        Response.Headers.Location = location;
        Response.StatusCode = decision.Status;
        return safe;
    }

    /// <summary>Answers a visitor of a link with a handoff page.</summary>
    public Task Write(HandoffPage page, in LinkDecision decision, Task safe)
    {
        HideFromSearch(decision);
        return After(safe, e => e.Write(page));
    }

    /// <summary>Answers with a handoff page.</summary>
    public Task Write(HandoffPage page)
    {
        var isPacked = Request.Headers.AcceptEncoding.ToString().Contains("gzip", StringComparison.OrdinalIgnoreCase);
        var (html, contentSecurity) = isPacked ? page.WritePacked() : page.Write();
        if (isPacked)
        {
            Response.Headers.ContentEncoding = "gzip";
        }

        Response.Headers.ContentSecurityPolicy = contentSecurity;
        Response.Headers["Referrer-Policy"] = page.ReferrerPolicy;
        return WritePage(StatusCodes.Status200OK, html);
    }

    private void HideFromSearch(in LinkDecision decision)
    {
        if (decision.HidesFromSearch)
        {
            Response.Headers["X-Robots-Tag"] = PlainRedirect.NoIndex;
        }
    }

    private async Task After(Task safe, Func<Exchange, Task> answer)
    {
        await safe;
        await answer(this);
    }
}
