using System.Net;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Mvc.Testing;

namespace Cursus.Web.Tests.Limits;

public class MemberLimitsTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_program_that_asks_too_fast_is_told_when_to_ask_again_and_nobody_else_is()
    {
        var world = await World.Make(app);
        await using var strict = With("RequestsAtOnce", 3, ("RequestsEachSecond", 1));
        using var editor = As(strict, world.Editor);
        var answers = await Task.WhenAll(Enumerable.Range(0, 30).Select(_ => editor.GetAsync("/api/v1/session", Cancel)));
        answers.Count(a => a.StatusCode == HttpStatusCode.OK).ShouldBeGreaterThanOrEqualTo(3);
        await ShouldBeTooMany(answers.First(a => a.StatusCode != HttpStatusCode.OK), "too-many-requests");
        using var viewer = As(strict, world.Viewer);
        (await viewer.GetAsync("/api/v1/session", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task An_account_watches_a_few_live_views_and_gets_another_when_it_leaves_one()
    {
        var world = await World.Make(app);
        await using var strict = With("StreamsOfAccount", 1);
        using var editor = As(strict, world.Editor);
        using (var watched = await editor.GetAsync("/api/v1/clicks/live", HttpCompletionOption.ResponseHeadersRead, Cancel))
        {
            watched.StatusCode.ShouldBe(HttpStatusCode.OK);
            await ShouldBeTooMany(await editor.GetAsync("/api/v1/clicks/live", HttpCompletionOption.ResponseHeadersRead, Cancel), "too-many-at-once");
            using var viewer = As(strict, world.Viewer);
            using var other = await viewer.GetAsync("/api/v1/clicks/live", HttpCompletionOption.ResponseHeadersRead, Cancel);
            other.StatusCode.ShouldBe(HttpStatusCode.OK);
        }

        for (var tries = 0; ; tries++)
        {
            using var again = await editor.GetAsync("/api/v1/clicks/live", HttpCompletionOption.ResponseHeadersRead, Cancel);
            if (again.StatusCode == HttpStatusCode.OK)
            {
                break;
            }

            tries.ShouldBeLessThan(200, "a view that was left must make room");
            await Task.Delay(50, Cancel);
        }
    }

    [Fact]
    public async Task The_documented_numbers_are_the_ones_that_hold()
    {
        var limits = new LimitOptions();
        var document = await File.ReadAllTextAsync(Repository.Of("docs", "limits.md"), Cancel);
        foreach (
            var (setting, number) in new (string, int)[]
            {
                ("ReportsOfWorkspace", limits.ReportsOfWorkspace),
                ("ReportsWaiting", limits.ReportsWaiting),
                ("ReportsWaitingInAll", limits.ReportsWaitingInAll),
                ("ReportSeconds", limits.ReportSeconds),
                ("StreamsOfAccount", limits.StreamsOfAccount),
                ("Streams", limits.Streams),
                ("DownloadsOfWorkspace", limits.DownloadsOfWorkspace),
                ("Downloads", limits.Downloads),
                ("Connections", limits.Connections),
                ("EdgeConnections", limits.EdgeConnections),
                ("ShippingConnections", limits.ShippingConnections),
                ("CheckConnections", limits.CheckConnections),
            }
        )
        {
            document.ShouldContain($"| {number} | `{setting}` |");
        }

        document.ShouldContain($"at most {RequestLimits.Text:N0} characters and lists {RequestLimits.Items:N0} entries");
        document.ShouldContain($"| a burst of {limits.RequestsAtOnce}, then {limits.RequestsEachSecond} a second |");
    }

    private static async Task ShouldBeTooMany(HttpResponseMessage response, string code)
    {
        response.StatusCode.ShouldBe(HttpStatusCode.TooManyRequests);
        response.Headers.RetryAfter!.Delta!.Value.ShouldBeGreaterThan(TimeSpan.Zero);
        ((string?)(await World.Read(response))["code"]).ShouldBe(code);
    }

    private WebApplicationFactory<Program> With(string setting, int number, params (string Setting, int Number)[] more) =>
        app.WithWebHostBuilder(builder =>
        {
            builder
                .UseSetting("Cursus:JournalFolder", app.Folder($"journal-{setting}"))
                .UseSetting("Cursus:SnapshotFile", app.Folder($"{setting}.snapshot"));
            foreach (var (name, value) in more.Append((setting, number)))
            {
                builder.UseSetting($"Cursus:Limits:{name}", $"{value}");
            }
        });

    private static HttpClient As(WebApplicationFactory<Program> at, HttpClient who)
    {
        var client = at.CreateClient();
        client.DefaultRequestHeaders.Authorization = who.DefaultRequestHeaders.Authorization;
        return client;
    }
}
