using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.People;

/// <summary>From “Invite” to a colleague's first link, and all that must not work on the way.</summary>
public class InvitationTests(CursusApp app)
{
    private const string Password = "moss on old stones";

    private static int made;
    private readonly Mailing mailing = app.Mailing;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_colleague_is_invited_joins_and_saves_a_first_link()
    {
        var (world, email) = (await World.Make(app), NewEmail());
        await Invite(world, "editor", "We start on Monday.", email);

        var mail = (await mailing.MailsOf(email)).Single();
        mail.Subject.ShouldBe($"Owner invites you to {world.Workspace.Name}");
        mail.TextBody!.ShouldContain("“We start on Monday.”");
        mail.HtmlBody!.ShouldContain("We start on Monday.");
        mail.HtmlBody!.ShouldNotContain("<img");

        var (browser, secret) = (mailing.NewBrowser(), Mailing.SecretIn(mail));
        var seen = await World.Read(await browser.Post("invitations/look", new { secret }));
        ((string)seen["workspace"]!, (string)seen["role"]!, (bool)seen["hasAccount"]!).ShouldBe((world.Workspace.Name, "editor", false));
        var joined = await browser.Post(
            "invitations/accept",
            new
            {
                secret,
                name = "Priya Raman",
                password = Password,
            }
        );
        joined.StatusCode.ShouldBe(HttpStatusCode.OK, await joined.Content.ReadAsStringAsync(Cancel));
        ((string)(await browser.Session())!["workspace"]!).ShouldBe(world.Workspace.Name);
        (await browser.Post("links", new { destination = "https://www.northmoor.example/visit" })).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await browser.Post("invitations", new { emails = new[] { NewEmail() } })).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task A_link_works_once_and_not_after_it_was_sent_again_withdrawn_or_a_week_has_passed()
    {
        var world = await World.Make(app);
        var emails = Enumerable.Range(0, 4).Select(_ => NewEmail()).ToArray();
        var invitations = (await Invite(world, "viewer", null, emails))["invitations"]!.AsArray();
        var secrets = invitations.Select(i => SecretOf((string)i!["path"]!)).ToList();
        var owner = mailing.As(world.Owner);

        (await Accept(secrets[0])).ShouldBe(HttpStatusCode.OK);
        (await Accept(secrets[0])).ShouldBe(HttpStatusCode.Conflict, "used");

        var again = await World.Read(await owner.PostAsync($"/api/v1/invitations/{invitations[1]!["id"]}/resend", null, Cancel));
        (await Accept(secrets[1])).ShouldBe(HttpStatusCode.Conflict, "sent again");
        (await Accept(SecretOf((string)again["invitations"]![0]!["path"]!))).ShouldBe(HttpStatusCode.OK);

        (await owner.DeleteAsync($"/api/v1/invitations/{invitations[2]!["id"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await Accept(secrets[2])).ShouldBe(HttpStatusCode.Conflict, "withdrawn");

        await using var db = app.Database();
        var last = Guid.Parse((string)invitations[3]!["id"]!);
        var over = NodaTime.SystemClock.Instance.GetCurrentInstant() - NodaTime.Duration.FromSeconds(1);
        await db.Invitations.Where(i => i.Id == last).ExecuteUpdateAsync(i => i.SetProperty(x => x.ExpiresAt, over), Cancel);
        (await Accept(secrets[3])).ShouldBe(HttpStatusCode.Conflict, "a week old");
        (await Accept("made-up")).ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task Of_two_who_accept_at_once_one_is_let_in_and_there_is_one_account()
    {
        var (world, email) = (await World.Make(app), NewEmail());
        var secret = SecretOf((string)(await Invite(world, "editor", null, email))["invitations"]![0]!["path"]!);
        var answers = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => Accept(secret)));
        answers.Order().ShouldBe([HttpStatusCode.OK, HttpStatusCode.Conflict, HttpStatusCode.Conflict, HttpStatusCode.Conflict]);
        await using var db = app.Database();
        var key = email.ToUpperInvariant();
        (await db.Users.CountAsync(a => a.NormalizedEmail == key, Cancel)).ShouldBe(1);
    }

    [Fact]
    public async Task Two_workspaces_that_invite_the_same_new_person_at_once_make_one_account_in_both()
    {
        var (here, there, email) = (await World.Make(app), await World.Make(app), NewEmail());
        var secrets = new[]
        {
            SecretOf((string)(await Invite(here, "editor", null, email))["invitations"]![0]!["path"]!),
            SecretOf((string)(await Invite(there, "viewer", null, email))["invitations"]![0]!["path"]!),
        };
        var answers = await Task.WhenAll(secrets.Select(Accept));
        answers.ShouldAllBe(a => a == HttpStatusCode.OK);
        await using var db = app.Database();
        var key = email.ToUpperInvariant();
        (await db.Members.CountAsync(m => m.Account!.NormalizedEmail == key, Cancel)).ShouldBe(2);
    }

    [Fact]
    public async Task Somebody_with_an_account_joins_with_its_password_and_nobody_else_does()
    {
        var (home, other) = (await World.Make(app), await World.Make(app));
        var secret = SecretOf((string)(await Invite(other, "editor", null, home.OwnerEmail))["invitations"]![0]!["path"]!);
        var stranger = mailing.NewBrowser();
        var guess = new
        {
            secret,
            name = "Somebody else",
            password = "a guess at it",
        };
        (await stranger.Post("invitations/accept", guess)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await stranger.Session()).ShouldBeNull();

        var browser = mailing.NewBrowser();
        (await browser.SignIn(home.OwnerEmail, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        var seen = await World.Read(await browser.Post("invitations/look", new { secret }));
        ((bool)seen["hasAccount"]!, (bool)seen["isSignedIn"]!).ShouldBe((true, true));
        (await browser.Post("invitations/accept", new { secret })).StatusCode.ShouldBe(HttpStatusCode.OK);
        await using var db = app.Database();
        (
            await db
                .Members.Where(m => m.WorkspaceId == other.Workspace.Id && m.Account!.Email == home.OwnerEmail)
                .Select(m => m.Role)
                .SingleAsync(Cancel)
        ).ShouldBe(Role.Editor);
    }

    [Fact]
    public async Task A_list_is_invited_whole_or_not_at_all()
    {
        var (world, good) = (await World.Make(app), NewEmail());
        var owner = mailing.As(world.Owner);
        foreach (var wrong in new[] { "no address", world.OwnerEmail.ToUpperInvariant(), "" })
        {
            var answer = await owner.PostAsJsonAsync("/api/v1/invitations", new { emails = new[] { good, wrong } }, Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, wrong);
            (await World.Read(answer))["errors"]!["emails"].ShouldNotBeNull();
        }

        ((int)(await World.Read(await owner.GetAsync("/api/v1/invitations", Cancel)))["total"]!).ShouldBe(0);
        (await mailing.MailsOf(good)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Without_a_mail_server_the_link_is_handed_over_by_oneself()
    {
        var world = await World.Make(app);
        var answer = await world.Owner.PostAsJsonAsync("/api/v1/invitations", new { emails = new[] { NewEmail() } }, Cancel);
        var made = await World.Read(answer);
        ((bool)made["isMailed"]!).ShouldBeFalse();
        (await Accept(SecretOf((string)made["invitations"]![0]!["path"]!))).ShouldBe(HttpStatusCode.OK);
    }

    private static string NewEmail() => $"guest-{Interlocked.Increment(ref made)}-{Guid.NewGuid():N}@harbour.example";

    private static string SecretOf(string path) => path.Split('#')[1];

    private async Task<JsonNode> Invite(World world, string role, string? message, params string[] emails)
    {
        var answer = await mailing
            .As(world.Owner)
            .PostAsJsonAsync(
                "/api/v1/invitations",
                new
                {
                    emails,
                    role,
                    message,
                },
                Cancel
            );
        answer.StatusCode.ShouldBe(HttpStatusCode.Created, await answer.Content.ReadAsStringAsync(Cancel));
        return await World.Read(answer);
    }

    private async Task<HttpStatusCode> Accept(string secret) =>
        (
            await mailing
                .NewBrowser()
                .Post(
                    "invitations/accept",
                    new
                    {
                        secret,
                        name = "Ines Calloway",
                        password = Password,
                    }
                )
        ).StatusCode;
}
