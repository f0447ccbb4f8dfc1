using System.Net;
using System.Net.Http.Json;
using System.Text;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.People;

/// <summary>Two-step sign-in: codes of an app, recovery codes, and workspaces that ask for it. Passkeys are tried in a browser.</summary>
public class TwoStepTests(CursusApp app)
{
    private readonly Mailing mailing = app.Mailing;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>RFC 6238, appendix B, for SHA-1.</summary>
    [Theory]
    [InlineData(59, "94287082")]
    [InlineData(1111111109, "07081804")]
    [InlineData(20000000000, "65353130")]
    public void The_phone_of_these_tests_makes_codes_as_the_standard_says(long seconds, string code) =>
        AuthenticatorCode.At(Encoding.ASCII.GetBytes("12345678901234567890"), seconds / 30, 8).ShouldBe(code);

    [Fact]
    public async Task With_an_authenticator_app_the_password_alone_is_not_enough_and_a_code_counts_once()
    {
        var (email, here, there) = await TwoBrowsers();
        var (key, recovery) = await SetUp(here);
        recovery.Length.ShouldBe(10);
        (await here.Session()).ShouldNotBeNull();
        (await there.Session()).ShouldBeNull("it was signed in with the password alone");

        (await Code(there, email, null)).ShouldBe("second-step");
        (await Code(there, email, "000000")).ShouldBe("wrong-code");
        // Two browsers send the same code at once; apps' clocks may be a step ahead.
        var (code, others) = (AuthenticatorCode.Now(key, 1), new[] { mailing.NewBrowser(), mailing.NewBrowser() });
        var answers = await Task.WhenAll(others.Select(b => Code(b, email, code)));
        answers.Order().ShouldBe(["signed in", "wrong-code"]);
        (await Code(mailing.NewBrowser(), email, code)).ShouldBe("wrong-code", "used");
        (await Code(mailing.NewBrowser(), email, $"0{code}")).ShouldBe("wrong-code", "the same number");
        (await Code(mailing.NewBrowser(), email, code.TrimStart('0'))).ShouldBe("wrong-code", "the same number");
        (await mailing.MailsOf(email)).ShouldContain(m => m.Subject == "Two-step sign-in to your Cursus account was changed");
    }

    [Fact]
    public async Task A_recovery_code_signs_in_once_however_it_is_typed_and_new_ones_replace_the_old()
    {
        var (email, here, there) = await TwoBrowsers();
        var (_, recovery) = await SetUp(here);
        (await Code(there, email, $" {recovery[0].ToLowerInvariant().Replace('-', ' ')} ")).ShouldBe("signed in");
        (await Code(mailing.NewBrowser(), email, recovery[0])).ShouldBe("wrong-code");
        ((int)(await here.Get("account/two-step"))["recoveryCodesLeft"]!).ShouldBe(9);

        var fresh = await World.Read(await here.Post("account/recovery-codes", new { password = World.Password }));
        (await Code(mailing.NewBrowser(), email, recovery[1])).ShouldBe("wrong-code");
        (await Code(mailing.NewBrowser(), email, (string)fresh["recoveryCodes"]![9]!)).ShouldBe("signed in");
    }

    [Fact]
    public async Task Guessing_codes_is_slowed_down_like_guessing_passwords()
    {
        var (email, here, there) = await TwoBrowsers();
        var (_, recovery) = await SetUp(here);
        for (var i = 0; i < 5; i++)
        {
            (await Code(there, email, $"{i:000000}")).ShouldBe("wrong-code");
        }

        (await Code(there, email, recovery[0])).ShouldBe("too-many");
    }

    [Fact]
    public async Task Setting_up_and_removing_ask_for_the_password_and_without_any_way_the_password_is_enough_again()
    {
        var (email, here, there) = await TwoBrowsers();
        (await here.Post("account/authenticator", new { password = "not this one" })).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await here.Send(HttpMethod.Put, "account/authenticator", new { code = "123456" })).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await here.Post("account/recovery-codes", new { password = World.Password })).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await SetUp(here);
        (await here.Post("account/authenticator", new { password = World.Password })).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await here.Post("account/authenticator/remove", new { password = "not this one" })).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await here.Post("account/authenticator/remove", new { password = World.Password })).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await Code(there, email, null)).ShouldBe("signed in");
    }

    [Fact]
    public async Task A_backup_of_the_database_holds_no_secret_that_makes_codes()
    {
        var (email, here, _) = await TwoBrowsers();
        var (key, recovery) = await SetUp(here);
        await using var db = app.Database();
        var tokens = await db
            .UserTokens.Where(t => db.Users.Any(a => a.Id == t.UserId && a.Email == email))
            .Select(t => t.Value!)
            .ToListAsync(Cancel);
        tokens.Count.ShouldBe(2);
        foreach (var secret in recovery.Append(key.Replace(" ", "", StringComparison.Ordinal)))
        {
            tokens.ShouldAllBe(t => !t.Contains(secret, StringComparison.OrdinalIgnoreCase));
        }
    }

    [Fact]
    public async Task A_workspace_can_ask_owners_or_everybody_and_opens_once_it_is_set_up()
    {
        var world = await World.Make(app);
        var (owner, editor) = (mailing.NewBrowser(), mailing.NewBrowser());
        await owner.SignIn(world.OwnerEmail, World.Password);
        await editor.SignIn(world.OwnerEmail.Replace("owner", "editor", StringComparison.Ordinal), World.Password);
        (await Require(owner, "everybody")).ShouldBe(HttpStatusCode.UnprocessableEntity, "it would shut themselves out");
        await SetUp(owner);

        (await Require(owner, "owners")).ShouldBe(HttpStatusCode.OK);
        (await editor.Send(HttpMethod.Get, "links")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Require(owner, "everybody")).ShouldBe(HttpStatusCode.OK);
        var refused = await editor.Send(HttpMethod.Get, "links");
        refused.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        ((string)(await World.Read(refused))["code"]!).ShouldBe("two-step");
        ((bool)(await editor.Session())!["needsTwoSteps"]!).ShouldBeTrue();
        (await world.Editor.GetAsync("/api/v1/links", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK, "tokens work as before");
        (await World.Read(await world.Editor.GetAsync("/api/v1/members", Cancel)))["items"]![0]!["hasTwoSteps"].ShouldBeNull();

        await SetUp(editor);
        (await editor.Send(HttpMethod.Get, "links")).StatusCode.ShouldBe(HttpStatusCode.OK);
        var members = (await owner.Get("members"))["items"]!.AsArray();
        members.Count(m => (bool?)m!["hasTwoSteps"] == true).ShouldBe(2);
        await using var db = app.Database();
        (await db.AuditEntries.CountAsync(e => e.Action == AuditAction.TwoStepChanged && e.WorkspaceId == world.Workspace.Id, Cancel)).ShouldBe(2);
    }

    [Fact]
    public async Task An_invitation_is_accepted_with_both_steps_by_whoever_has_set_them_up()
    {
        var (email, here, there) = await TwoBrowsers();
        var (key, _) = await SetUp(here);
        var client = await World.Make(app);
        var invited = await mailing
            .As(client.Owner)
            .PostAsJsonAsync("/api/v1/invitations", new { emails = new[] { email }, role = "viewer" }, Cancel);
        var secret = ((string)(await World.Read(invited))["invitations"]![0]!["path"]!).Split('#')[1];

        (await Accept(null)).ShouldBe(HttpStatusCode.Unauthorized);
        (await there.Session()).ShouldBeNull();
        (await Accept(AuthenticatorCode.Now(key, 1))).ShouldBe(HttpStatusCode.OK);
        (await there.Session())!["workspaces"]!.AsArray().Count.ShouldBe(2);

        async Task<HttpStatusCode> Accept(string? code) =>
            (
                await there.Post(
                    "invitations/accept",
                    new
                    {
                        secret,
                        password = World.Password,
                        code,
                    }
                )
            ).StatusCode;
    }

    [Fact]
    public async Task Nonsense_in_place_of_a_passkey_lets_nobody_in()
    {
        var browser = mailing.NewBrowser();
        (await browser.Post("session/passkey", new { })).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await browser.Post("session/passkey", new { credential = new { id = "x" } })).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await browser.Post("session/passkey/begin", new { })).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await browser.Post("session/passkey", new { credential = new { id = "x" } })).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await browser.Session()).ShouldBeNull();
    }

    private static async Task<(string Key, string[] Recovery)> SetUp(Browser browser)
    {
        var key = (string)(await World.Read(await browser.Post("account/authenticator", new { password = World.Password })))["key"]!;
        var answer = await World.Read(await browser.Send(HttpMethod.Put, "account/authenticator", new { code = AuthenticatorCode.Now(key) }));
        return (key, [.. answer["recoveryCodes"]!.AsArray().Select(c => (string)c!)]);
    }

    /// <summary>What comes of signing in with the right password and this code.</summary>
    private static async Task<string> Code(Browser browser, string email, string? code)
    {
        var answer = await browser.Post(
            "session",
            new
            {
                email,
                password = World.Password,
                code,
            }
        );
        return answer.IsSuccessStatusCode ? "signed in" : (string)(await World.Read(answer))["code"]!;
    }

    private static async Task<HttpStatusCode> Require(Browser owner, string of) =>
        (await owner.Send(HttpMethod.Patch, "workspace", new { twoStepOf = of })).StatusCode;

    private async Task<(string Email, Browser Here, Browser There)> TwoBrowsers()
    {
        var world = await World.Make(app);
        var (here, there) = (mailing.NewBrowser(), mailing.NewBrowser());
        await here.SignIn(world.OwnerEmail, World.Password);
        await there.SignIn(world.OwnerEmail, World.Password);
        return (world.OwnerEmail, here, there);
    }
}
