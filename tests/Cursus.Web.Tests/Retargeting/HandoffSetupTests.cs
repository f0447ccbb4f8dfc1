using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using SkiaSharp;

namespace Cursus.Web.Tests.Retargeting;

public sealed class HandoffSetupTests(CursusApp app) : IClassFixture<CursusApp>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("""{ "paper": "#777777", "ink": "#888888" }""", "contrast is")]
    [InlineData("""{ "paper": "plum" }""", "six hex digits")]
    [InlineData("""{ "countries": ["DE", "UK"] }""", "“UK” isn’t an ISO 3166-1 country code")]
    [InlineData("""{ "questions": { "it": "Possiamo?" } }""", "no text in “it”")]
    [InlineData("""{ "privacyPage": "javascript:alert(1)" }""", "address")]
    public async Task What_would_not_work_is_refused_and_nothing_is_saved(string request, string says)
    {
        var world = await World.Make(app);
        var response = await world.Owner.PatchAsJsonAsync("/api/v1/handoff", JsonNode.Parse(request), Cancel);
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        System.Text.RegularExpressions.Regex.Unescape(await response.Content.ReadAsStringAsync(Cancel)).ShouldContain(says);
        ((string)(await world.Get("/api/v1/handoff"))["paper"]!).ShouldBe("#fffdf9");
    }

    [Fact]
    public async Task The_workspaces_own_words_and_look_are_what_visitors_see()
    {
        var world = await World.Make(app);
        await Pixels.SetUp(world);
        (
            await world.Owner.PatchAsJsonAsync(
                "/api/v1/handoff",
                new
                {
                    consent = "everybody",
                    questions = new { en = "Shall {networks} know, for {who}?" },
                    privacyPage = "https://www.northmoor.example/privacy",
                    line = "One <moment>",
                    paper = "#191419",
                    ink = "#efe8e4",
                },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        var page = await world.Viewer.GetStringAsync("/api/v1/handoff/page?language=en", Cancel);
        page.ShouldContain($"Shall Beaconry and Fairlead know, for {world.Workspace.Name}?");
        page.ShouldContain("One &lt;moment&gt;");
        page.ShouldContain("background:#191419;color:#efe8e4");
        page.ShouldContain("href=\"https://www.northmoor.example/privacy\"");
        page.ShouldNotContain("<script");
        (await world.Viewer.GetStringAsync("/api/v1/handoff/page?language=fr", Cancel)).ShouldContain("retenir votre passage");
        (await world.Viewer.GetStringAsync("/api/v1/handoff/page", Cancel)).ShouldNotContain("<form");
    }

    [Fact]
    public async Task A_logo_is_made_so_small_that_the_page_stays_small()
    {
        var world = await World.Make(app);
        using var bitmap = new SKBitmap(900, 600);
        using (var canvas = new SKCanvas(bitmap))
        using (var paint = new SKPaint { Color = SKColors.Purple })
        {
            canvas.Clear(SKColors.White);
            canvas.DrawCircle(450, 300, 240, paint);
        }

        using var png = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        var response = await Put(world, png.ToArray());
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var logo = (string)(await World.Read(response))["logo"]!;
        logo.ShouldStartWith("data:image/webp;base64,");
        using var small = SKBitmap.Decode(Convert.FromBase64String(logo["data:image/webp;base64,".Length..]));
        (small.Width, small.Height).ShouldBe((72, 48));
        (await world.Owner.DeleteAsync("/api/v1/handoff/logo", Cancel)).EnsureSuccessStatusCode();
        (await world.Get("/api/v1/handoff"))["logo"].ShouldBeNull();
    }

    [Fact]
    public async Task What_is_no_picture_or_a_bomb_is_refused()
    {
        var world = await World.Make(app);
        (await Put(world, "<svg onload='alert(1)'/>"u8.ToArray())).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Put(world, new byte[1024 * 1024 + 1])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        // All of one colour: a few kilobytes that unpack to a quarter of a gigabyte.
        using var bitmap = new SKBitmap(8000, 8000);
        using var bomb = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        var refused = await Put(world, bomb.ToArray());
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await refused.Content.ReadAsStringAsync(Cancel)).ShouldContain("8000 by 8000");
    }

    private static Task<HttpResponseMessage> Put(World world, byte[] file)
    {
        var content = new ByteArrayContent(file);
        content.Headers.ContentType = new("image/png");
        return world.Owner.PutAsync("/api/v1/handoff/logo", content, Cancel);
    }
}
