using System.Globalization;
using System.Text;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Mail;
using MimeKit;
using NodaTime;
using NodaTime.Text;
using Digest = Cursus.Core.Reports.Digest;

namespace Cursus.Web.Reports.Digests;

/// <summary>Writes a digest as an e-mail, as plain text and as HTML.</summary>
internal sealed class DigestMail(CursusOptions options)
{
    private static readonly LocalDatePattern Day = LocalDatePattern.Create("d MMM uuuu", CultureInfo.GetCultureInfo("en-GB"));

    public MimeMessage Write(Digest digest, LocalDate monday, Workspace workspace, Account to)
    {
        var days = $"{Day.Format(monday)} to {Day.Format(monday.PlusDays(6))}";
        var page = options.AppAddress is { } app
            ? $"{app.TrimEnd('/')}{WorkspaceAddress.PathOf(workspace)}/digest?week={LocalDatePattern.Iso.Format(monday)}"
            : null;
        var message = new MimeMessage
        {
            Subject = $"{workspace.Name}: {digest.Headline}",
            Body = new BodyBuilder { TextBody = Text(digest, days, page), HtmlBody = Html(digest, days, page, workspace.Name) }.ToMessageBody(),
        };
        message.To.Add(new MailboxAddress(to.Name, to.Email!));
        return message;
    }

    private static string Text(Digest digest, string days, string? page)
    {
        var text = new StringBuilder($"The week of {days}\n");
        foreach (var section in digest.Sections)
        {
            text.Append(CultureInfo.InvariantCulture, $"\n{section.Heading}\n");
            section.Lines.ToList().ForEach(line => text.Append(CultureInfo.InvariantCulture, $"- {line.Text}\n"));
        }

        return text.Append(page is null ? "" : $"\nSee the full digest, or turn off this e-mail: {page}\n").ToString();
    }

    private static string Html(Digest digest, string days, string? page, string workspace)
    {
        var sections = string.Concat(
            digest.Sections.Select(s =>
                $"""
                    <h2 style="font-size:17px;margin:22px 0 6px">{MailLayout.Safe(s.Heading)}</h2>
                    <ul style="margin:0;padding-left:20px;line-height:1.5">{string.Concat(
                        s.Lines.Select(l => $"<li>{MailLayout.Safe(l.Text)}</li>")
                    )}</ul>
                    """
            )
        );
        return MailLayout.Html(
            workspace,
            $"What the week of {days} brought",
            sections,
            page is null ? null : ("See the full digest, or turn off this e-mail", page)
        );
    }
}
