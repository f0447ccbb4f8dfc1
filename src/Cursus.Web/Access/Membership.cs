using Cursus.Data;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Access;

/// <summary>Changes of who belongs to a workspace, one after the other, so that it never loses its last owner to two changes at once.</summary>
internal static class Membership
{
    /// <summary>Begins a change: others of the same workspace wait until the transaction is over.</summary>
    public static Task Hold(CursusDb db, Guid workspace, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"select 1 from workspaces where id = {workspace} for no key update", cancel);

    /// <summary>Whether somebody else would still own the workspace.</summary>
    public static Task<bool> HasOtherOwner(CursusDb db, Member member, CancellationToken cancel) =>
        db.Members.AnyAsync(m => m.WorkspaceId == member.WorkspaceId && m.Role == Role.Owner && m.Id != member.Id, cancel);

    /// <summary>The workspaces that an account is in.</summary>
    public static Task<List<Guid>> WorkspacesOf(CursusDb db, Account account, CancellationToken cancel) =>
        db.Members.Where(m => m.AccountId == account.Id).Select(m => m.WorkspaceId).ToListAsync(cancel);

    /// <summary>Brings an account into a workspace, or back into it.</summary>
    public static async Task<Member> Begin(CursusDb db, Guid workspace, Guid account, Role role, NodaTime.Instant now, CancellationToken cancel)
    {
        var member = await db.Everybody.SingleOrDefaultAsync(m => m.WorkspaceId == workspace && m.AccountId == account, cancel);
        if (member is null)
        {
            member = new Member
            {
                WorkspaceId = workspace,
                AccountId = account,
                CreatedAt = now,
            };
            db.Add(member);
        }

        (member.Role, member.LeftAt) = (role, null);
        return member;
    }

    /// <summary>Takes the person out of the workspace. Their tokens are gone; what they made stays, with their name.</summary>
    public static async Task End(CursusDb db, Member member, NodaTime.Instant now, CancellationToken cancel)
    {
        (member.LeftAt, member.WantsDigest) = (now, false);
        await db.ApiTokens.Where(t => t.MemberId == member.Id).ExecuteDeleteAsync(cancel);
    }
}
