using Cursus.Data;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Access;

/// <summary>Names for histories.</summary>
internal static class MemberNames
{
    /// <summary>Who belongs to a workspace or has belonged to it, by the member's ID.</summary>
    public static Task<Dictionary<Guid, string>> Of(CursusDb db, CurrentMember member, CancellationToken cancel) =>
        db
            .Everybody.Where(m => m.WorkspaceId == member.WorkspaceId)
            .Select(m => new { m.Id, m.Account!.Name })
            .ToDictionaryAsync(m => m.Id, m => m.Name, cancel);
}
