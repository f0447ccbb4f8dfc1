using System.Globalization;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using MimeKit;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Mail;

/// <summary>Writes the e-mails of accounts and invitations when they go out, as plain text and as HTML.</summary>
internal sealed class MailWriting(CursusDb db, UserManager<Account> accounts, LinkSecret secrets, CursusOptions options, IClock clock)
{
    private static readonly LocalDatePattern Day = LocalDatePattern.Create("d MMMM uuuu", CultureInfo.GetCultureInfo("en-GB"));
    private static readonly ZonedDateTimePattern Moment = ZonedDateTimePattern.CreateWithInvariantCulture(
        "d MMMM uuuu, HH:mm z",
        DateTimeZoneProviders.Tzdb
    );

    /// <summary>The message; null where what it tells of is gone meanwhile, or there is no such account.</summary>
    public async Task<MimeMessage?> Write(OutgoingMail mail, CancellationToken cancel)
    {
        var words = mail.Kind switch
        {
            MailKind.Invitation => await Invitation(mail.About, cancel),
            MailKind.PasswordReset => await Reset(mail.Recipient),
            MailKind.PasswordChanged => new(
                "Your Cursus password was changed",
                "Your password was changed",
                "The password of your account was changed, and all other browsers were signed out. If it wasn’t you, set a new password now.",
                ("Set a new password", App("forgotten-password"))
            ),
            MailKind.TwoStepChanged => new(
                "Two-step sign-in to your Cursus account was changed",
                "Two-step sign-in was changed",
                $"{mail.Detail}\nIf it wasn’t you, set a new password now, and look at how you sign in.",
                ("See how you sign in", App("account"))
            ),
            MailKind.NewSignIn => await NewSignIn(mail, cancel),
            MailKind.ConfirmOldEmail or MailKind.ConfirmNewEmail => await EmailChange(mail.Kind, mail.About, cancel),
            MailKind.EmailChanged => new(
                "The e-mail address of your Cursus account was changed",
                "Your e-mail address was changed",
                "You now sign in with another e-mail address; this one is no longer used. If it wasn’t you, ask an owner of your workspace for help.",
                null
            ),
            _ => null,
        };
        return words is null ? null : Message(words, words.To ?? mail.Recipient);
    }

    private static MimeMessage Message(Words words, string to)
    {
        var paragraphs = words.Text.Split('\n');
        var html = string.Concat(paragraphs.Select(p => $"""<p style="margin:14px 0 0">{MailLayout.Safe(p)}</p>"""));
        var message = new MimeMessage
        {
            Subject = words.Subject,
            Body = new BodyBuilder
            {
                TextBody = string.Join("\n\n", paragraphs) + (words.Onward is { } link ? $"\n\n{link.Text}: {link.Address}\n" : "\n"),
                HtmlBody = MailLayout.Html("Cursus", words.Heading, html, words.Onward),
            }.ToMessageBody(),
        };
        message.To.Add(new MailboxAddress("", to));
        return message;
    }

    private async Task<Words?> Invitation(Guid? id, CancellationToken cancel)
    {
        var found = await db
            .Invitations.Where(i => i.Id == id)
            .Select(i => new
            {
                Invitation = i,
                Workspace = i.Workspace!.Name,
                Zone = i.Workspace.TimeZone,
                By = db.Members.Where(m => m.Id == i.InvitedBy).Select(m => m.Account!.Name).FirstOrDefault(),
            })
            .SingleOrDefaultAsync(cancel);
        if (found is null)
        {
            return null;
        }

        var (invitation, by) = (found.Invitation, found.By ?? "Somebody");
        var until = Day.Format(invitation.ExpiresAt.InZone(DateTimeZoneProviders.Tzdb[found.Zone]).Date);
        return new(
            $"{by} invites you to {found.Workspace}",
            $"Join {found.Workspace}",
            $"{by} has invited you to work in “{found.Workspace}” on Cursus, where its team makes short links and sees which channels bring people. You would join as {RolePolicies.NameWithArticle(invitation.Role)}."
                + (invitation.Message is { } message ? $"\n“{message}”" : "")
                + $"\nThe link works once, until {until}. If you don’t know what this is about, ignore this e-mail.",
            ("Accept the invitation", App(secrets.PathOf(invitation)))
        );
    }

    private async Task<Words?> Reset(string email)
    {
        if (await accounts.FindByEmailAsync(email) is not { } account)
        {
            return null;
        }

        var token = await accounts.GeneratePasswordResetTokenAsync(account);
        return new(
            "Set a new Cursus password",
            "Set a new password",
            "Somebody, most likely you, asked for a new password for your account.\nThe link works once, within an hour. If you didn’t ask for it, ignore this e-mail: your password stays as it is.",
            ("Set a new password", App($"new-password#{secrets.Make(LinkPurpose.PasswordReset, $"{account.Id} {token}")}")),
            // To the address on record: one that only looks alike may be somebody else's.
            account.Email
        );
    }

    private async Task<Words> NewSignIn(OutgoingMail mail, CancellationToken cancel)
    {
        var zone = await db.Members.Where(m => m.AccountId == mail.About).Select(m => m.Workspace!.TimeZone).FirstOrDefaultAsync(cancel);
        var at = Moment.Format(mail.CreatedAt.InZone(DateTimeZoneProviders.Tzdb[zone ?? "Etc/UTC"]));
        return new(
            "New sign-in to your Cursus account",
            "You signed in in a new browser",
            $"Your account was used to sign in on {at}, in {mail.Detail}.\nIf it was you, there is nothing to do. If not, end that sign-in and change your password.",
            ("See where you are signed in", App("account"))
        );
    }

    private async Task<Words?> EmailChange(MailKind kind, Guid? id, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        if (await db.EmailChanges.SingleOrDefaultAsync(c => c.Id == id && c.ExpiresAt > now, cancel) is not { } change)
        {
            return null;
        }

        var side = kind == MailKind.ConfirmOldEmail ? "old" : "new";
        return new(
            "Confirm the new e-mail address of your Cursus account",
            "Confirm your new e-mail address",
            $"Your account is to use the e-mail address {change.NewEmail}. It is changed once you have confirmed it at both addresses.\nThe link works for a day. If you didn’t ask for this, don’t confirm it, and change your password.",
            ("Confirm the change", App($"confirm-email#{secrets.Make(LinkPurpose.EmailChange, $"{change.Id} {side}")}"))
        );
    }

    private string App(string path) => $"{options.AppAddress!.TrimEnd('/')}/{path}";

    /// <param name="To">Where it goes, if not where it was asked to.</param>
    private sealed record Words(string Subject, string Heading, string Text, (string Text, string Address)? Onward, string? To = null);
}
