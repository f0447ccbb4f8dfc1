using Cursus.Edge;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;

namespace Cursus.Web.Tests.Edge;

public class EdgeAllocationTests(CursusApp app)
{
    /// <summary>Bytes beside the address: measured are 36, for header values and because sizes are rounded.</summary>
    private const int Most = 40;

    [Fact]
    public async Task A_visit_takes_no_memory_but_for_the_address_that_it_is_led_to()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        var edge = app.Services.GetRequiredService<EdgeAnswer>();
        var context = new DefaultHttpContext();
        (context.Request.Method, context.Request.Path) = ("GET", "/" + slug);
        context.Request.Headers.Host = world.Domain;
        context.Request.Headers.UserAgent = "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/141.0.0.0 Safari/537.36";
        context.Request.Headers.Referer = "http://perch.localhost:5081/feed?who=somebody";
        context.Request.Headers.AcceptLanguage = "en-GB,en;q=0.9,de;q=0.8";
        var total = 0L;
        for (var visit = -200; visit < 1000; visit++)
        {
            var before = GC.GetAllocatedBytesForCurrentThread();
            edge.Answer(context.Features).IsCompletedSuccessfully.ShouldBeTrue();
            total += visit < 0 ? 0 : GC.GetAllocatedBytesForCurrentThread() - before;
        }

        var address = 2 * context.Response.Headers.Location.ToString().Length + 24;
        (total / 1000).ShouldBeLessThan(address + Most);
    }
}
