using System.Net;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;

namespace Cursus.Web.Tests.Access;

/// <summary>Who gets in, who is kept out, and what is worth nothing afterwards.</summary>
public partial class SignInTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_cookie_that_was_copied_is_worth_nothing_after_signing_out_and_other_browsers_stay_signed_in()
    {
        var world = await World.Make(app);
        var (stolen, other) = (await SignIn(world.OwnerEmail), await SignIn(world.OwnerEmail));
        (await Session(stolen)).StatusCode.ShouldBe(HttpStatusCode.OK);
        var csrf = (string)(await World.Read(await Session(stolen)))["csrfToken"]!;

        using var browser = app.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = false });
        var token = (await Session(stolen))
            .Headers.GetValues("Set-Cookie")
            .Single(c => c.StartsWith("cursus-csrf=", StringComparison.Ordinal))
            .Split(';')[0];
        csrf = (string)(await World.Read(await Session($"{stolen}; {token}")))["csrfToken"]!;
        var leave = new HttpRequestMessage(HttpMethod.Delete, "/api/v1/session")
        {
            Headers = { { "Cookie", $"{stolen}; {token}" }, { "X-CSRF-Token", csrf } },
        };
        (await browser.SendAsync(leave, Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);

        (await Session(stolen)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (
            await (
                await browser.SendAsync(
                    new HttpRequestMessage(HttpMethod.Get, "/readyz") { Headers = { { "Cookie", stolen }, { "X-Forwarded-For", "203.0.113.9" } } },
                    Cancel
                )
            ).Content.ReadAsStringAsync(Cancel)
        ).ShouldNotContain("waitingBytes");
        (await Session(other)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task A_browser_that_nobody_has_used_for_a_month_is_signed_out()
    {
        var world = await World.Make(app);
        var cookie = await SignIn(world.OwnerEmail);
        await using var db = app.Database();
        var longAgo = NodaTime.SystemClock.Instance.GetCurrentInstant() - Cursus.Data.Workspaces.SignIn.Life;
        var account = await db.Users.SingleAsync(a => a.Email == world.OwnerEmail, Cancel);
        await db.SignIns.Where(s => s.AccountId == account.Id).ExecuteUpdateAsync(s => s.SetProperty(x => x.LastUsedAt, longAgo), Cancel);
        (await Session(cookie)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        await new AccessCleaning(db, NodaTime.SystemClock.Instance).Run(Cancel);
        (await db.SignIns.CountAsync(s => s.AccountId == account.Id, Cancel)).ShouldBe(0);
    }

    [Fact]
    public async Task A_browser_that_signed_in_half_a_year_ago_signs_in_anew_however_much_it_is_used()
    {
        var world = await World.Make(app);
        var cookie = await SignIn(world.OwnerEmail);
        await using var db = app.Database();
        var longAgo = NodaTime.SystemClock.Instance.GetCurrentInstant() - Cursus.Data.Workspaces.SignIn.LongestLife;
        var account = await db.Users.SingleAsync(a => a.Email == world.OwnerEmail, Cancel);
        await db.SignIns.Where(s => s.AccountId == account.Id).ExecuteUpdateAsync(s => s.SetProperty(x => x.CreatedAt, longAgo), Cancel);
        (await Session(cookie)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        await new AccessCleaning(db, NodaTime.SystemClock.Instance).Run(Cancel);
        (await db.SignIns.CountAsync(s => s.AccountId == account.Id, Cancel)).ShouldBe(0);
    }

    [Fact]
    public async Task Guessing_is_slowed_down_by_network_and_keeps_nobody_out_of_their_own_browser()
    {
        var world = await World.Make(app);
        var known = await KnownBrowser(world.OwnerEmail);
        for (var i = 0; i < 5; i++)
        {
            (await Try(world.OwnerEmail, "wrong", $"2001:db8:7:7::{i + 1}")).ShouldBe(HttpStatusCode.Unauthorized);
        }

        (await Try(world.OwnerEmail, World.Password, "2001:db8:7:7:ffff::1")).ShouldBe(
            HttpStatusCode.TooManyRequests,
            "another address of the same network"
        );
        (await Try(world.OwnerEmail, World.Password, "2001:db8:7:8::1")).ShouldBe(HttpStatusCode.NoContent, "another network");
        (await Try(world.OwnerEmail, World.Password, "2001:db8:7:7::1", known)).ShouldBe(
            HttpStatusCode.NoContent,
            "a browser that the account was signed in in before"
        );
        (await Try(world.OwnerEmail.Replace("owner", "editor", StringComparison.Ordinal), World.Password, "2001:db8:7:7::1")).ShouldBe(
            HttpStatusCode.NoContent,
            "another account"
        );
    }

    [Fact]
    public async Task Guessing_from_many_networks_ends_too_except_for_known_browsers()
    {
        var world = await World.Make(app);
        var known = await KnownBrowser(world.OwnerEmail);
        for (var i = 0; i < 50; i++)
        {
            (await Try(world.OwnerEmail, "wrong", $"203.0.113.{i}")).ShouldBe(HttpStatusCode.Unauthorized);
        }

        (await Try(world.OwnerEmail, World.Password, "198.51.100.1")).ShouldBe(HttpStatusCode.TooManyRequests);
        (await Try(world.OwnerEmail, World.Password, "198.51.100.1", known)).ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task An_unknown_address_is_answered_as_a_known_one_is_and_costs_as_much_work()
    {
        var world = await World.Make(app);
        var hasher = new CountingHasher(app.Services.GetRequiredService<IOptions<PasswordHasherOptions>>());
        await using var counted = app.WithWebHostBuilder(builder =>
            builder
                .UseSetting("Cursus:JournalFolder", app.Folder("journal-sign-in"))
                .UseSetting("Cursus:SnapshotFile", app.Folder("sign-in.snapshot"))
                .ConfigureServices(services => services.AddSingleton<IPasswordHasher<Account>>(hasher))
        );
        using var client = World.FromAnyNetwork(counted.CreateClient());
        var (known, knownWork) = await Ask(world.OwnerEmail);
        var (unknown, unknownWork) = await Ask("nobody@northmoor.example");
        unknown.ShouldBe(known);
        unknownWork.ShouldBe(knownWork);

        async Task<(string Answer, int Verified)> Ask(string email)
        {
            var before = hasher.Verified;
            var response = await client.PostAsJsonAsync("/api/v1/session", new { email, password = "wrong" }, Cancel);
            var problem = (await World.Read(response)).AsObject();
            problem.Remove("traceId");
            return ($"{(int)response.StatusCode} {problem.ToJsonString()}", hasher.Verified - before);
        }
    }

    /// <summary>OWASP Password Storage Cheat Sheet: PBKDF2-HMAC-SHA512 with 210,000 iterations.</summary>
    [Fact]
    public void Passwords_are_hashed_at_the_recommended_cost()
    {
        var hash = Convert.FromBase64String(
            app.Services.GetRequiredService<IPasswordHasher<Account>>().HashPassword(new Account { Name = "" }, "northern-lights")
        );
        // Identity's third format: a one, the function (2 is HMAC-SHA512), the iterations, all big endian.
        (
            hash[0],
            System.Buffers.Binary.BinaryPrimitives.ReadInt32BigEndian(hash.AsSpan(1)),
            System.Buffers.Binary.BinaryPrimitives.ReadInt32BigEndian(hash.AsSpan(5))
        ).ShouldBe(((byte)1, 2, 210_000));
    }

    [Theory]
    [InlineData("https://cursus.northmoor.example", "__Host-cursus-session", true)]
    [InlineData("http://localhost:5080", "cursus-session", false)]
    [InlineData(null, "cursus-session", false)]
    public void Over_HTTPS_browsers_take_the_cookies_from_this_host_alone(string? address, string session, bool isSecure)
    {
        var cookies = new AccessCookies(new CursusOptions { AppAddress = address });
        (cookies.Session, cookies.IsSecure).ShouldBe((session, isSecure));
    }

    [Fact]
    public void The_set_up_code_may_be_typed_with_and_without_hyphens()
    {
        var code = new SetupCode(new CursusOptions { SetupCode = "k7qm-2xfp-9tdr" });
        (code.Is("K7QM 2xfp9tdr"), code.Is("k7qm-2xfp-9tdx"), code.Is(null), code.Is("")).ShouldBe((true, false, false, false));
        var (drawn, another) = (new SetupCode(new CursusOptions()), new SetupCode(new CursusOptions()));
        drawn.Is("").ShouldBeFalse();
        drawn.Text.ShouldNotBe(another.Text);
    }

    [Fact]
    public async Task An_empty_installation_belongs_to_nobody_who_comes_without_the_set_up_code()
    {
        await using var empty = new CursusApp();
        await empty.InitializeAsync();
        using var client = empty.CreateClient();
        var owner = new
        {
            name = "Ines",
            email = "ines@harbour.example",
            password = "long enough",
            workspace = "Harbour",
            timeZone = "Europe/London",
            setupCode = "guessed",
        };
        var refused = await client.PostAsJsonAsync("/api/v1/installation", owner, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]!["setupCode"].ShouldNotBeNull();
        var made = await client.PostAsJsonAsync(
            "/api/v1/installation",
            owner with
            {
                setupCode = empty.Services.GetRequiredService<SetupCode>().Text,
            },
            Cancel
        );
        made.StatusCode.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task What_readyz_tells_strangers_is_whether_all_is_well()
    {
        var world = await World.Make(app);
        var stranger = new HttpRequestMessage(HttpMethod.Get, "/readyz") { Headers = { { "X-Forwarded-For", "203.0.113.9" } } };
        (await World.Read(await app.CreateClient().SendAsync(stranger, Cancel))).AsObject().Select(f => f.Key).ShouldBe(["database", "edge"]);
        (await World.Read(await world.Viewer.GetAsync("/readyz", Cancel)))["waitingBytes"].ShouldNotBeNull();
    }

    [Fact]
    public async Task The_API_reference_is_as_well_kept_as_the_rest()
    {
        var page = await app.CreateClient().GetAsync("/api/reference/", Cancel);
        var policy = page.Headers.GetValues("Content-Security-Policy").Single();
        policy.ShouldContain("frame-ancestors 'none'");
        var inline = InlineScript().Matches(await page.Content.ReadAsStringAsync(Cancel)).Select(m => m.Groups[1].Value).Single();
        policy.ShouldContain(
            $"'sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(inline)))}'",
            Case.Sensitive,
            "the page's one script changed with its package: put its new hash into the policy"
        );
    }

    private async Task<HttpResponseMessage> Session(string cookie)
    {
        using var browser = app.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = false });
        return await browser.SendAsync(new HttpRequestMessage(HttpMethod.Get, "/api/v1/session") { Headers = { { "Cookie", cookie } } }, Cancel);
    }

    private async Task<string> SignIn(string email) => (await Cookies(email)).Single(c => c.StartsWith("cursus-session=", StringComparison.Ordinal));

    private async Task<string> KnownBrowser(string email) =>
        (await Cookies(email)).Single(c => c.StartsWith("cursus-browser=", StringComparison.Ordinal));

    private async Task<List<string>> Cookies(string email)
    {
        using var browser = World.FromAnyNetwork(app.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = false }));
        var response = await browser.PostAsJsonAsync("/api/v1/session", new { email, password = World.Password }, Cancel);
        response.StatusCode.ShouldBe(HttpStatusCode.NoContent);
        return [.. response.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0])];
    }

    private async Task<HttpStatusCode> Try(string email, string password, string from, string? cookie = null)
    {
        using var browser = app.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = false });
        var request = new HttpRequestMessage(HttpMethod.Post, "/api/v1/session")
        {
            Content = JsonContent.Create(new { email, password }),
            Headers = { { "X-Forwarded-For", from } },
        };
        if (cookie is not null)
        {
            request.Headers.Add("Cookie", cookie);
        }

        return (await browser.SendAsync(request, Cancel)).StatusCode;
    }

    private sealed class CountingHasher(IOptions<PasswordHasherOptions> options) : PasswordHasher<Account>(options)
    {
        public int Verified { get; private set; }

        public override PasswordVerificationResult VerifyHashedPassword(Account user, string hashedPassword, string providedPassword)
        {
            Verified++;
            return base.VerifyHashedPassword(user, hashedPassword, providedPassword);
        }
    }

    [GeneratedRegex("<script type=\"module\">(.*?)</script>", RegexOptions.Singleline)]
    private static partial Regex InlineScript();
}
