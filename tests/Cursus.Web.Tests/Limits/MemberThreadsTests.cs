using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;

namespace Cursus.Web.Tests.Limits;

public class MemberThreadsTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>However many requests of members compute at once, most of the pool's work is not theirs, so that a visitor is not behind
    /// them.</summary>
    [Fact]
    public async Task Members_compute_on_as_many_threads_as_there_are_processors_and_whoever_waits_gives_his_to_the_next()
    {
        var (computing, most, requests) = (0, 0, 6 * Environment.ProcessorCount);
        var together = new TaskCompletionSource();
        var waiting = 0;
        await using var services = new ServiceCollection().BuildServiceProvider();
        var app = new ApplicationBuilder(services);
        app.UseMemberThreads();
        app.Run(async _ =>
        {
            // All of them wait for the last one at once: who waits holds no thread.
            if (Interlocked.Increment(ref waiting) == requests)
            {
                together.SetResult();
            }

            await together.Task;
            var now = Interlocked.Increment(ref computing);
            for (
                var seen = Volatile.Read(ref most);
                now > seen && Interlocked.CompareExchange(ref most, now, seen) != seen;
                seen = Volatile.Read(ref most)
            ) { }

            Thread.Sleep(5);
            Interlocked.Decrement(ref computing);
        });
        var pipeline = app.Build();
        await Task.WhenAll(
            Enumerable.Range(0, requests).Select(_ => Task.Run(() => pipeline(new DefaultHttpContext { RequestServices = services }), Cancel))
        );

        most.ShouldBeInRange(1, Environment.ProcessorCount);
    }

    [Fact]
    public async Task What_a_request_throws_reaches_whoever_handles_it()
    {
        await using var services = new ServiceCollection().BuildServiceProvider();
        var app = new ApplicationBuilder(services);
        app.UseMemberThreads();
        app.Run(_ => throw new InvalidOperationException("broken"));
        (
            await Should.ThrowAsync<InvalidOperationException>(() => app.Build()(new DefaultHttpContext { RequestServices = services }))
        ).Message.ShouldBe("broken");
    }
}
