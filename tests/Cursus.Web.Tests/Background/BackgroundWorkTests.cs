using System.Text.Json.Nodes;
using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.Extensions.DependencyInjection.Extensions;

namespace Cursus.Web.Tests.Background;

/// <summary>What runs in the background runs in one process at a time, and owners see how it went.</summary>
public class BackgroundWorkTests(CursusApp app)
{
    private static int runs;
    private static int atOnce;
    private static int mostAtOnce;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Of_two_processes_one_at_a_time_does_the_work_and_owners_see_when_and_what_failed()
    {
        var world = await World.Make(app);
        await using var one = Process();
        await using var two = Process();
        _ = two.Server;
        var owner = one.CreateClient();
        owner.DefaultRequestHeaders.Authorization = world.Owner.DefaultRequestHeaders.Authorization;

        var (steady, failing) = await Until(owner, items => Runs(items, "steady") && Failures(items, "failing") >= 2);

        ((string)steady["name"]!).ShouldBe("Steady work");
        steady["failure"].ShouldBeNull();
        ((int)steady["failedTimes"]!).ShouldBe(0);
        steady["nextAt"].ShouldNotBeNull();
        ((long)steady["tookMilliseconds"]!).ShouldBeGreaterThanOrEqualTo(100);
        ((string)failing["failure"]!).ShouldBe("Something unexpected happened. The log says what.");
        failing["lastSucceededAt"].ShouldBeNull();
        mostAtOnce.ShouldBe(1, "both processes have the work in their plan");
    }

    [Fact]
    public async Task A_process_that_takes_no_part_says_so()
    {
        var world = await World.Make(app);
        var answer = await World.Read(await world.Owner.GetAsync("/api/v1/background-work", Cancel));
        ((bool)answer["isOn"]!).ShouldBeFalse();
        answer["items"]!.AsArray().ShouldBeEmpty();
    }

    private static bool Runs(JsonArray items, string key) => Of(items, key)["lastSucceededAt"] is not null && Volatile.Read(ref runs) > 2;

    private static int Failures(JsonArray items, string key) => (int)Of(items, key)["failedTimes"]!;

    private static JsonNode Of(JsonArray items, string key) => items.Single(i => (string)i!["key"]! == key)!;

    private static async Task<(JsonNode Steady, JsonNode Failing)> Until(HttpClient owner, Func<JsonArray, bool> isSo)
    {
        for (var tries = 0; ; tries++)
        {
            var items = (await World.Read(await owner.GetAsync("/api/v1/background-work", Cancel)))["items"]!.AsArray();
            if (isSo(items))
            {
                return (Of(items, "steady"), Of(items, "failing"));
            }

            (tries < 600).ShouldBeTrue($"It did not come to pass in a minute: {items}");
            await Task.Delay(100, Cancel);
        }
    }

    private WebApplicationFactory<Program> Process() =>
        app.WithWebHostBuilder(web =>
            web.UseSetting("Cursus:Background:IsOn", "true")
                .UseSetting("Cursus:JournalFolder", Directory.CreateTempSubdirectory("cursus-test-").FullName)
                .ConfigureServices(services =>
                {
                    services.RemoveAll<RegularWork>();
                    services.AddRegularWork<Steady>("steady", "Steady work", "Counts.", TimeSpan.FromMilliseconds(500));
                    services.AddRegularWork<Failing>("failing", "Failing work", "Fails.", TimeSpan.FromMilliseconds(500));
                })
        );

    private sealed class Steady : IRegularWork
    {
        public async Task Run(CancellationToken cancel)
        {
            var now = Interlocked.Increment(ref atOnce);
            mostAtOnce = Math.Max(mostAtOnce, now);
            await Task.Delay(150, cancel);
            Interlocked.Decrement(ref atOnce);
            Interlocked.Increment(ref runs);
        }
    }

    private sealed class Failing : IRegularWork
    {
        public Task Run(CancellationToken cancel) => throw new InvalidOperationException("Secrets of the machine.");
    }
}
