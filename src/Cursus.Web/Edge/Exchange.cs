using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;
using Microsoft.AspNetCore.Http.Features;

namespace Cursus.Web.Edge;

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
}
