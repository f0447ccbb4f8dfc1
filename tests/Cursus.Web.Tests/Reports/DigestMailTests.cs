using System.Net;
using System.Net.Http.Json;
using Cursus.Core.Reports;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Digests;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;

namespace Cursus.Web.Tests.Reports;

/// <summary>The digest of a week: read on a page, and sent on Mondays to those who asked for it.</summary>
public class DigestMailTests(CursusApp app)
{
    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("2026-11-23T06:59", null)]
    [InlineData("2026-11-23T07:00", "2026-11-23")]
    [InlineData("2026-11-25T23:59", "2026-11-23")]
    [InlineData("2026-11-26T00:00", null)]
    [InlineData("2026-11-29T20:00", null)]
    public void It_is_due_on_Monday_morning_and_until_Wednesday_where_nobody_could_send_it(string local, string? monday)
    {
        var now = NodaTime.Text.LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm").Parse(local).Value.InZoneLeniently(London);
        DigestSending.DueMonday(now).ShouldBe(monday is null ? null : NodaTime.Text.LocalDatePattern.Iso.Parse(monday).Value);
    }

    [Fact]
    public async Task Each_member_who_wants_it_gets_it_once_and_nobody_else_does()
    {
        await using var server = new MailServer();
        var world = await World.Make(app);
        await Wish(world, world.OwnerEmail);
        var sending = Sending(server, Instant.FromUtc(2027, 2, 1, 9, 0));

        await sending.SendDue(Cancel);
        await sending.SendDue(Cancel);

        var letters = server.Letters.Where(l => l.Subject!.StartsWith(world.Workspace.Name + ":", StringComparison.Ordinal)).ToList();
        letters.Select(l => l.To.Mailboxes.Single().Address).ShouldBe([world.OwnerEmail]);
        letters[0].TextBody!.ShouldContain("The week of 25 Jan 2027 to 31 Jan 2027");
        letters[0].HtmlBody!.ShouldContain($"http://localhost:5080/w/{world.Workspace.Key}/digest?week=2027-01-25");
    }

    [Fact]
    public async Task What_the_mail_server_did_not_take_is_sent_later()
    {
        var world = await World.Make(app);
        await Wish(world, world.OwnerEmail);
        var monday = Instant.FromUtc(2027, 3, 1, 9, 0);
        await using (var refusing = new MailServer { Refuses = true })
        {
            await Should.ThrowAsync<MailException>(() => Sending(refusing, monday).SendDue(Cancel));
        }

        await using var server = new MailServer();
        await Sending(server, monday + Duration.FromMinutes(10)).SendDue(Cancel);
        server.Letters.ShouldContain(l => l.Subject!.StartsWith(world.Workspace.Name + ":", StringComparison.Ordinal));
    }

    [Fact]
    public void A_title_cannot_put_markup_into_the_letter()
    {
        var digest = new Digest("led", [new("What led", [new("“<img src=x onerror=alert(1)>” brought 3 clicks.")])]);
        var letter = new DigestMail(new CursusOptions()).Write(
            digest,
            new(2026, 11, 16),
            new Workspace
            {
                Name = "North<b>moor",
                Key = "northmoor",
                TimeZone = "Europe/London",
            },
            new Account { Name = "Maren\r\nBcc: all@northmoor.example", Email = "maren@northmoor.example" }
        );
        letter.HtmlBody!.ShouldNotContain("<img");
        letter.HtmlBody!.ShouldNotContain("<b>");
        letter.HtmlBody!.ShouldContain("&lt;img");
        using var wire = new MemoryStream();
        letter.WriteTo(wire, Cancel);
        wire.Position = 0;
        var arrived = MimeKit.MimeMessage.Load(wire, Cancel);
        arrived.Bcc.ShouldBeEmpty("a name cannot add a header");
        arrived.To.Mailboxes.Single().Address.ShouldBe("maren@northmoor.example");
    }

    [Fact]
    public async Task The_page_tells_of_a_week_that_is_over_and_keeps_the_wish()
    {
        var world = await World.Make(app);
        var digest = await world.Get("/api/v1/reports/digest?week=2026-11-12");
        ((string)digest["from"]!, (string)digest["to"]!, (bool)digest["wantsMail"]!, (bool)digest["canMail"]!).ShouldBe(
            ("2026-11-09", "2026-11-15", false, false)
        );
        (await world.Viewer.PatchAsJsonAsync("/api/v1/reports/digest/mail", new { wantsMail = true }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NoContent
        );
        ((bool)(await world.Get("/api/v1/reports/digest"))["wantsMail"]!).ShouldBeTrue();
        (await world.Viewer.PostAsync("/api/v1/reports/digest/mail", null, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Conflict,
            "no mail server is set up in tests"
        );
    }

    [Theory]
    [InlineData("week=2999-01-01")]
    [InlineData("week=soon")]
    public async Task A_week_that_is_not_over_has_no_digest(string query)
    {
        var world = await World.Make(app);
        var refused = await world.Viewer.GetAsync("/api/v1/reports/digest?" + query, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]!["week"].ShouldNotBeNull();
    }

    private async Task Wish(World world, string email)
    {
        await using var db = app.Database();
        await db
            .Members.Where(m => m.WorkspaceId == world.Workspace.Id && m.Account!.Email == email)
            .ExecuteUpdateAsync(m => m.SetProperty(x => x.WantsDigest, true), Cancel);
    }

    private DigestSending Sending(MailServer server, Instant now)
    {
        var options = new CursusOptions { AppAddress = "http://localhost:5080" };
        var mail = new MailOptions
        {
            Host = "127.0.0.1",
            Port = server.Port,
            Security = MailKit.Security.SecureSocketOptions.None,
        };
        return new(app.Database(), app.Services.GetRequiredService<Counting>(), new MailSender(mail), new DigestMail(options), new StoppedClock(now));
    }
}
