using System.Collections.Concurrent;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;

namespace Cursus.Web.Tests.Support;

/// <summary>A web server on the loopback address whose paths misbehave in the ways that other people's sites do.</summary>
public sealed class TestSites : IAsyncDisposable
{
    private readonly WebApplication app;

    private TestSites(WebApplication app) => this.app = app;

    public int Port => new Uri(app.Urls.Single()).Port;

    /// <summary>Pages of one test's own, by host and path.</summary>
    public ConcurrentDictionary<string, Func<HttpContext, Task>> Pages { get; } = new();

    /// <summary>Every request that arrived: method, host and path, and who asked.</summary>
    public ConcurrentQueue<(string What, string Agent)> Log { get; } = new();

    /// <summary>Number of requests that arrived.</summary>
    public int Asked { get; private set; }

    /// <summary>User agent of the last request.</summary>
    public string? Agent { get; private set; }

    public static async Task<TestSites> Start()
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.WebHost.UseUrls("http://127.0.0.1:0");
        var sites = new TestSites(builder.Build());
        sites.app.Run(sites.Answer);
        await sites.app.StartAsync();
        return sites;
    }

    public string At(string path, string host = "site.localhost") => $"http://{host}:{Port}{path}";

    public ValueTask DisposeAsync() => app.DisposeAsync();

    private async Task Answer(HttpContext context)
    {
        Asked++;
        Agent = context.Request.Headers.UserAgent;
        var response = context.Response;
        response.ContentType = "text/html; charset=utf-8";
        Log.Enqueue(($"{context.Request.Method} {context.Request.Host.Host}{context.Request.Path}", $"{Agent}"));
        if (Pages.TryGetValue(context.Request.Host.Host + context.Request.Path, out var page))
        {
            await page(context);
            return;
        }

        switch (context.Request.Path.Value)
        {
            case "/page":
                await response.WriteAsync(
                    """
                    <html><head><title>Plain title</title><meta property="og:title" content="  Geminids
                    night "><meta name="description" content="A hundred meteors"><meta property="og:image" content="/sky.png"></head></html>
                    """
                );
                return;
            case "/bare":
                await response.WriteAsync("<title>Plain &amp; simple</title>");
                return;
            case "/slow":
                await Task.Delay(TimeSpan.FromSeconds(30), context.RequestAborted);
                return;
            case "/gone":
                response.StatusCode = 410;
                return;
            case "/huge":
                await response.WriteAsync("<title>Huge</title>");
                var block = new string('x', 100_000);
                for (var i = 0; i < 100; i++)
                {
                    await response.WriteAsync(block);
                }

                return;
            case "/picture":
                response.ContentType = "image/png";
                await response.WriteAsync("<title>Not a page</title>");
                return;
            case "/to":
                response.StatusCode = 302;
                response.Headers.Location = context.Request.Query["at"].ToString();
                return;
            case "/around":
                response.StatusCode = 302;
                response.Headers.Location = "/around";
                return;
            default:
                response.StatusCode = 404;
                return;
        }
    }
}
