using System.Net;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.People;

/// <summary>What people do with their own accounts: passwords, addresses, sign-ins, and going.</summary>
public class AccountTests(CursusApp app)
{
    private const string New = "three owls in a barn";

    private readonly Mailing mailing = app.Mailing;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_changed_password_ends_all_other_sign_ins_and_is_told_by_e_mail()
    {
        var (email, here, there) = await TwoBrowsers();
        (await Change(here, "not this one", New)).ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Change(here, World.Password, "short")).ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Change(here, World.Password, email)).ShouldBe(HttpStatusCode.UnprocessableEntity, "their own address");
        (await there.Session()).ShouldNotBeNull();

        (await Change(here, World.Password, New)).ShouldBe(HttpStatusCode.NoContent);
        (await here.Session()).ShouldNotBeNull();
        (await there.Session()).ShouldBeNull();
        (await there.SignIn(email, World.Password)).ShouldBe(HttpStatusCode.Unauthorized);
        (await there.SignIn(email, New)).ShouldBe(HttpStatusCode.NoContent);
        (await mailing.MailsOf(email)).ShouldContain(m => m.Subject == "Your Cursus password was changed");
    }

    [Fact]
    public async Task A_forgotten_password_is_set_anew_once_and_ends_every_sign_in()
    {
        var (email, here, there) = await TwoBrowsers();
        (await there.Post("account/reset", new { email = email.ToUpperInvariant() })).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var secret = Mailing.SecretIn((await mailing.MailsOf(email)).Single(m => m.Subject == "Set a new Cursus password"));
        (await Set(secret, "1234567890")).ShouldBe(HttpStatusCode.UnprocessableEntity, "a common one");
        (await Set(secret, New)).ShouldBe(HttpStatusCode.NoContent);
        (await Set(secret, "another one entirely")).ShouldBe(HttpStatusCode.Conflict, "used");
        (await here.Session()).ShouldBeNull();
        (await mailing.NewBrowser().SignIn(email, New)).ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task Nobody_learns_from_a_forgotten_password_who_has_an_account()
    {
        var (email, here, _) = await TwoBrowsers();
        var (known, unknown) = (
            await here.Post("account/reset", new { email }),
            await here.Post("account/reset", new { email = "nobody-at-all@northmoor.example" })
        );
        (unknown.StatusCode, await unknown.Content.ReadAsStringAsync(Cancel)).ShouldBe(
            (known.StatusCode, await known.Content.ReadAsStringAsync(Cancel))
        );
        (await mailing.MailsOf("nobody-at-all@northmoor.example")).ShouldBeEmpty();

        // The same rows are written for both, so that there is nothing to be measured; the account is looked for when the e-mail is sent.
        await using var db = app.Database();
        foreach (var address in new[] { email, "nobody-at-all@northmoor.example" })
        {
            for (var i = 0; i < 4; i++)
            {
                await here.Post("account/reset", new { email = address });
                await mailing.MailsOf(address);
            }

            var key = address.ToUpperInvariant();
            (await db.OutgoingMails.CountAsync(m => m.Recipient == key && m.Kind == MailKind.PasswordReset, Cancel)).ShouldBe(3, address);
        }
    }

    [Fact]
    public async Task Nobody_is_flooded_with_e_mails_for_a_forgotten_password()
    {
        var (email, here, _) = await TwoBrowsers();
        for (var i = 0; i < 6; i++)
        {
            (await here.Post("account/reset", new { email })).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        }

        (await mailing.MailsOf(email)).Count(m => m.Subject == "Set a new Cursus password").ShouldBe(3);
    }

    [Fact]
    public async Task An_e_mail_address_changes_when_both_have_confirmed_it()
    {
        var (email, here, _) = await TwoBrowsers();
        var other = $"new-{Guid.NewGuid():N}@northmoor.example";
        (await here.Send(HttpMethod.Put, "account/email", new { email = other, password = "wrong" })).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await here.Send(HttpMethod.Put, "account/email", new { email = other, password = World.Password })).StatusCode.ShouldBe(
            HttpStatusCode.NoContent
        );
        ((string)(await here.Get("account"))["newEmail"]!).ShouldBe(other);
        var (fromOld, fromNew) = (await mailing.LastSecret(email), await mailing.LastSecret(other));

        var anybody = mailing.NewBrowser();
        ((bool)(await World.Read(await anybody.Post("account/email/confirm", new { secret = fromNew })))["isChanged"]!).ShouldBeFalse();
        ((bool)(await World.Read(await anybody.Post("account/email/confirm", new { secret = fromNew })))["isChanged"]!).ShouldBeFalse(
            "the same side twice"
        );
        (await mailing.NewBrowser().SignIn(other, World.Password)).ShouldBe(HttpStatusCode.Unauthorized);
        ((bool)(await World.Read(await anybody.Post("account/email/confirm", new { secret = fromOld })))["isChanged"]!).ShouldBeTrue();
        (await mailing.NewBrowser().SignIn(other, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        (await mailing.NewBrowser().SignIn(email, World.Password)).ShouldBe(HttpStatusCode.Unauthorized);
        (await anybody.Post("account/email/confirm", new { secret = fromOld })).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await mailing.MailsOf(email)).ShouldContain(m => m.Subject == "The e-mail address of your Cursus account was changed");
    }

    [Fact]
    public async Task Sign_ins_are_listed_with_device_and_place_and_end_one_by_one_or_all_others()
    {
        var (email, here, there) = await TwoBrowsers();
        var third = mailing.NewBrowser();
        (await third.SignIn(email, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        var list = (await here.Get("account/sign-ins"))["items"]!.AsArray();
        list.Count.ShouldBe(3);
        ((bool)list[0]!["isCurrent"]!, (string)list[0]!["device"]!).ShouldBe((true, "Firefox on Linux"));
        (await mailing.MailsOf(email)).Count(m => m.Subject == "New sign-in to your Cursus account").ShouldBe(3);

        var other = list.First(s => !(bool)s!["isCurrent"]!)!["id"];
        (await here.Send(HttpMethod.Delete, $"account/sign-ins/{other}")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        new[] { await there.Session(), await third.Session() }.Count(s => s is null).ShouldBe(1);
        (await here.Send(HttpMethod.Delete, "account/sign-ins")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await there.Session()).ShouldBeNull();
        (await third.Session()).ShouldBeNull();
        (await here.Session()).ShouldNotBeNull();
        var strangers = (await (await TwoBrowsers()).Here.Get("account/sign-ins"))["items"]![0]!["id"];
        (await here.Send(HttpMethod.Delete, $"account/sign-ins/{strangers}")).StatusCode.ShouldBe(HttpStatusCode.NotFound, "somebody else’s");
    }

    [Fact]
    public async Task A_known_browser_is_told_of_once_only()
    {
        var (email, here, _) = await TwoBrowsers();
        (await here.Send(HttpMethod.Delete, "session")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await here.SignIn(email, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        (await mailing.MailsOf(email)).Count(m => m.Subject == "New sign-in to your Cursus account").ShouldBe(2, "two browsers, three sign-ins");
    }

    /// <summary>Session fixation: OWASP ASVS 5.0, 7.2.4.</summary>
    [Fact]
    public async Task Each_sign_in_begins_a_session_of_its_own()
    {
        var (email, here, _) = await TwoBrowsers();
        var before = (await here.Get("account/sign-ins"))["items"]![0]!["id"]!.ToString();
        (await here.SignIn(email, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        (await here.Get("account/sign-ins"))["items"]![0]!["id"]!.ToString().ShouldNotBe(before);
    }

    [Fact]
    public async Task A_deleted_account_is_nobody_and_its_links_stay()
    {
        var world = await World.Make(app);
        var email = world.OwnerEmail.Replace("owner", "editor", StringComparison.Ordinal);
        var browser = mailing.NewBrowser();
        (await browser.SignIn(email, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        var link = await World.Read(await browser.Post("links", new { destination = "https://www.northmoor.example/visit" }));
        (await browser.Post("account/delete", new { password = "wrong" })).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await browser.Post("account/delete", new { password = World.Password })).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await browser.Session()).ShouldBeNull();
        (await browser.SignIn(email, World.Password)).ShouldBe(HttpStatusCode.Unauthorized);
        ((string)(await world.Get($"/api/v1/links/{link["id"]}"))["createdBy"]!).ShouldBe("Former member");
        await using var db = app.Database();
        var key = email.ToUpperInvariant();
        (await db.Users.AnyAsync(a => a.NormalizedEmail == key, Cancel)).ShouldBeFalse();

        var owner = mailing.NewBrowser();
        (await owner.SignIn(world.OwnerEmail, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        (await owner.Post("account/delete", new { password = World.Password })).StatusCode.ShouldBe(HttpStatusCode.Conflict, "the last owner");
    }

    [Fact]
    public async Task A_person_writes_numbers_their_own_way_and_begins_where_they_like()
    {
        var (_, here, _) = await TwoBrowsers();
        (
            await here.Send(
                HttpMethod.Patch,
                "account",
                new
                {
                    name = "Ines",
                    numberLanguage = "de-DE",
                    startPage = "compare",
                }
            )
        ).StatusCode.ShouldBe(HttpStatusCode.OK);
        var session = (await here.Session())!;
        ((string)session["name"]!, (string)session["numberLanguage"]!, (string)session["startPage"]!).ShouldBe(("Ines", "de-DE", "compare"));
        (await here.Send(HttpMethod.Patch, "account", new { startPage = "moon" })).IsSuccessStatusCode.ShouldBeFalse();
        (await here.Send(HttpMethod.Patch, "account", new { numberLanguage = "" })).StatusCode.ShouldBe(HttpStatusCode.OK);
        ((string)(await here.Session())!["numberLanguage"]!).ShouldBe("en-GB");
    }

    private async Task<(string Email, Browser Here, Browser There)> TwoBrowsers()
    {
        var email = (await World.Make(app)).OwnerEmail;
        var (here, there) = (mailing.NewBrowser(), mailing.NewBrowser());
        (await here.SignIn(email, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        (await there.SignIn(email, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        return (email, here, there);
    }

    private static async Task<HttpStatusCode> Change(Browser browser, string current, string @new) =>
        (await browser.Send(HttpMethod.Put, "account/password", new { current, @new })).StatusCode;

    private async Task<HttpStatusCode> Set(string secret, string password) =>
        (await mailing.NewBrowser().Post("account/reset/confirm", new { secret, password })).StatusCode;
}
