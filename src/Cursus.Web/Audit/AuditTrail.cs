using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Audit;

/// <summary>Adds to the audit log. Entries are saved with whatever else is about to be saved, so that neither is there without the other.</summary>
internal sealed class AuditTrail(CursusDb db, CurrentMember member, IClock clock)
{
    /// <summary>Adds what the member who asks has done.</summary>
    /// <param name="kind">What kind of thing it was done to, as the API's paths name it.</param>
    /// <param name="thing">Which one; null for several, or none.</param>
    /// <param name="name">Its name.</param>
    /// <param name="detail">What changed, in words.</param>
    public void Add(AuditAction action, string kind, object? thing = null, string? name = null, string? detail = null) =>
        Add(member.WorkspaceId, member.Account, action, kind, thing, name, detail, member.Token);

    /// <summary>Adds what somebody has done who isn't known as a member yet, such as by signing in.</summary>
    public void Add(
        Guid workspaceId,
        Account account,
        AuditAction action,
        string kind,
        object? thing = null,
        string? name = null,
        string? detail = null,
        string? token = null
    ) => db.Add(Entry(workspaceId, account.Id, account.Name, token, clock.GetCurrentInstant(), action, kind, thing, name, detail));

    /// <summary>Adds it to the log of each workspace of an account.</summary>
    public async Task AddEverywhere(Account account, AuditAction action, string kind, string? name, string? detail, CancellationToken cancel)
    {
        foreach (var workspace in await Membership.WorkspacesOf(db, account, cancel))
        {
            Add(workspace, account, action, kind, name: name, detail: detail);
        }
    }

    /// <summary>Deletes one thing and notes it, together or not at all; false where there is none, or not any more.</summary>
    /// <param name="found">The one thing, among the workspace's own.</param>
    public Task<bool> Delete<T>(IQueryable<T> found, string kind, object thing, Func<T, string> name, CancellationToken cancel)
        where T : class => Delete(AuditAction.Deleted, found, kind, thing, name, cancel);

    /// <summary>The same, for what has another word for it.</summary>
    public async Task<bool> Delete<T>(
        AuditAction action,
        IQueryable<T> found,
        string kind,
        object? thing,
        Func<T, string> name,
        CancellationToken cancel
    )
        where T : class
    {
        if (await found.SingleOrDefaultAsync(cancel) is not { } row)
        {
            return false;
        }

        db.Remove(row);
        Add(action, kind, thing, name(row));
        try
        {
            await db.SaveChangesAsync(cancel);
            return true;
        }
        catch (DbUpdateConcurrencyException)
        {
            // Somebody else was faster.
            return false;
        }
    }

    /// <summary>An entry for whoever saves by themselves.</summary>
    public static AuditEntry Entry(CurrentMember member, Instant at, AuditAction action, string kind, object? thing, string? name, string? detail) =>
        Entry(member.WorkspaceId, member.Account.Id, member.Account.Name, member.Token, at, action, kind, thing, name, detail);

    /// <summary>The first entry of a new workspace, which the member who asks isn't in yet.</summary>
    /// <param name="like">Name of the workspace that it is set up as; null where it is empty.</param>
    public static AuditEntry Created(CurrentMember by, Guid workspaceId, Instant at, string name, string? like) =>
        Entry(
            workspaceId,
            by.Account.Id,
            by.Account.Name,
            by.Token,
            at,
            AuditAction.WorkspaceCreated,
            "workspace",
            null,
            name,
            like is null ? null : $"set up as “{like}”"
        );

    /// <summary>An entry for what is done on the command line, by whoever runs the installation.</summary>
    public static AuditEntry ByCommand(Guid workspaceId, Instant at, AuditAction action, string kind, string? name, string? detail) =>
        Entry(workspaceId, null, "Command line", null, at, action, kind, null, name, detail);

    private static AuditEntry Entry(
        Guid workspaceId,
        Guid? account,
        string who,
        string? token,
        Instant at,
        AuditAction action,
        string kind,
        object? thing,
        string? name,
        string? detail
    ) =>
        new()
        {
            WorkspaceId = workspaceId,
            At = at,
            Action = action,
            AccountId = account,
            Who = who,
            Token = token,
            Kind = kind,
            Thing = thing?.ToString(),
            Name = Cut(name),
            Detail = Cut(detail),
        };

    private static string? Cut(string? text) => text?.Length > AuditEntry.MaxText ? text[..(AuditEntry.MaxText - 1)] + "…" : text;
}
