using Cursus.Core;
using Cursus.Core.Accounts;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Mail;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.People;

/// <summary>/invitations: people who are asked to join, by e-mail or by a link that is handed to them.</summary>
public static class Invitations
{
    private const int MostAtOnce = 50;

    /// <summary>So many may wait for an answer in one workspace, so that nobody sends the whole world e-mails from here.</summary>
    private const int MostPending = 200;

    /// <param name="Emails">At most 50 e-mail addresses.</param>
    /// <param name="Role">viewer, editor or owner; editor if omitted.</param>
    /// <param name="Message">A line of your own for the e-mail.</param>
    public sealed record Request(IReadOnlyList<string>? Emails, Role? Role = null, string? Message = null);

    /// <param name="InvitedBy">Name of the member who sent it last.</param>
    /// <param name="IsExpired">Whether its link no longer works; send it again.</param>
    /// <param name="MailedAt">When the mail server took the e-mail; null if it hasn’t, or none is sent.</param>
    /// <param name="MailFailure">What the mail server said, if it rejected the e-mail.</param>
    public sealed record Response(
        Guid Id,
        string Email,
        string Role,
        string? Message,
        string? InvitedBy,
        Instant CreatedAt,
        Instant ExpiresAt,
        bool IsExpired,
        Instant? MailedAt,
        string? MailFailure
    );

    /// <param name="Path">Path of the page where it can be accepted, with its secret. Shown this once.</param>
    public sealed record Made(Guid Id, string Email, string Path);

    /// <param name="IsMailed">Whether e-mails are on their way; else hand the links over yourself.</param>
    public sealed record MadeAll(bool IsMailed, IReadOnlyList<Made> Invitations);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/invitations", List).ForOwners().WithSummary("Invitations that wait for an answer");
        api.MapPost("/invitations", Invite).ForOwners().WithSecretAnswer().WithSummary("Invite people by their e-mail addresses");
        api.MapPost("/invitations/{id:guid}/resend", Resend)
            .ForOwners()
            .WithSecretAnswer()
            .WithSummary("Send an invitation again, with a new link; the earlier one no longer works");
        api.MapDelete("/invitations/{id:guid}", Withdraw).ForOwners().WithSummary("Withdraw an invitation");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var rows = db
            .Invitations.Where(i => i.WorkspaceId == member.WorkspaceId)
            .OrderByDescending(i => i.CreatedAt)
            .ThenBy(i => i.Email)
            .Select(i => new
            {
                Invitation = i,
                By = db.Members.Where(m => m.Id == i.InvitedBy).Select(m => m.Account!.Name).FirstOrDefault(),
                Mail = db.OutgoingMails.Where(m => m.About == i.Id).OrderByDescending(m => m.CreatedAt).FirstOrDefault(),
            });
        return TypedResults.Ok(
            await page.Of(
                rows,
                r => new Response(
                    r.Invitation.Id,
                    r.Invitation.Email,
                    RolePolicies.Name(r.Invitation.Role),
                    r.Invitation.Message,
                    r.By,
                    r.Invitation.CreatedAt,
                    r.Invitation.ExpiresAt,
                    r.Invitation.ExpiresAt < now,
                    r.Mail == null ? null : r.Mail.SentAt,
                    r.Mail == null ? null : r.Mail.Failure
                ),
                cancel
            )
        );
    }

    private static async Task<Results<Created<MadeAll>, ProblemHttpResult>> Invite(
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkSecret secrets,
        MailQueue mails,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var emails = ReadEmails(request.Emails ?? [], errors);
        if (request.Message?.Trim().Length > Invitation.MaxMessage)
        {
            errors.Add("message", new ValidationError("message", $"Write at most {Invitation.MaxMessage} characters."));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Membership.Hold(db, member.WorkspaceId, cancel);
        var normalized = emails.ConvertAll(e => e.ToUpperInvariant());
        var here = await db
            .Members.Where(m => m.WorkspaceId == member.WorkspaceId && normalized.Contains(m.Account!.NormalizedEmail!))
            .Select(m => m.Account!.Email!)
            .ToListAsync(cancel);
        var pending = await db.Invitations.Where(i => i.WorkspaceId == member.WorkspaceId).ToListAsync(cancel);
        if (here.Count > 0)
        {
            errors.Add("emails", new ValidationError("member-already", $"Already in this workspace: {string.Join(", ", here)}."));
        }

        if (pending.Count + emails.Count > MostPending)
        {
            errors.Add(
                "emails",
                new ValidationError("invitations-many", $"At most {MostPending} invitations can wait for an answer. Withdraw some first.")
            );
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var made = new List<Invitation>();
        foreach (var (email, key) in emails.Zip(normalized))
        {
            var invitation = pending.Find(i => i.NormalizedEmail == key);
            if (invitation is null)
            {
                invitation = new Invitation
                {
                    WorkspaceId = member.WorkspaceId,
                    Email = email,
                    NormalizedEmail = key,
                    CreatedAt = clock.GetCurrentInstant(),
                };
                db.Add(invitation);
            }
            else
            {
                invitation.Version++;
            }

            (invitation.Role, invitation.Message) = (request.Role ?? Role.Editor, NullIfBlank(request.Message));
            Send(invitation, member, mails, audit, clock);
            made.Add(invitation);
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Created(
            "/api/v1/invitations",
            new MadeAll(mails.IsSetUp, [.. made.Select(i => new Made(i.Id, i.Email, "/" + secrets.PathOf(i)))])
        );
    }

    private static async Task<Results<Ok<MadeAll>, ProblemHttpResult>> Resend(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LinkSecret secrets,
        MailQueue mails,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member, id).SingleOrDefaultAsync(cancel) is not { } invitation)
        {
            return ApiProblem.NotFound("invitation");
        }

        invitation.Version++;
        Send(invitation, member, mails, audit, clock);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new MadeAll(mails.IsSetUp, [new Made(invitation.Id, invitation.Email, "/" + secrets.PathOf(invitation))]));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Withdraw(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(AuditAction.InvitationWithdrawn, Mine(db, member, id), "invitations", null, i => i.Email, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("invitation");

    private static void Send(Invitation invitation, CurrentMember member, MailQueue mails, AuditTrail audit, IClock clock)
    {
        (invitation.InvitedBy, invitation.ExpiresAt) = (member.Id, clock.GetCurrentInstant() + Invitation.Life);
        mails.Add(MailKind.Invitation, invitation.Email, invitation.Id);
        audit.Add(AuditAction.Invited, "invitations", name: invitation.Email, detail: RolePolicies.Name(invitation.Role));
    }

    private static IQueryable<Invitation> Mine(CursusDb db, CurrentMember member, Guid id) =>
        db.Invitations.Where(i => i.Id == id && i.WorkspaceId == member.WorkspaceId);

    private static List<string> ReadEmails(IReadOnlyList<string> typed, FieldErrors errors)
    {
        var emails = new List<string>();
        foreach (var one in typed)
        {
            if (EmailAddress.TryRead(one, out var email))
            {
                emails.Add(email);
            }
            else
            {
                errors.Add("emails", EmailAddress.Error(one));
            }
        }

        emails = [.. emails.DistinctBy(e => e.ToUpperInvariant())];
        if (typed.Count == 0)
        {
            errors.Add("emails", EmailAddress.Error(null));
        }
        else if (emails.Count > MostAtOnce)
        {
            errors.Add("emails", new ValidationError("invitations-many", $"Invite at most {MostAtOnce} people at once."));
        }

        return emails;
    }

    private static string? NullIfBlank(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}
