using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>Deletes what is over: sign-ins that nobody uses, unanswered invitations, old entries of the audit log, stored answers.</summary>
internal sealed class AccessCleaning(CursusDb db, IClock clock) : IRegularWork
{
    public async Task Run(CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        await db.SignIns.Where(s => s.LastUsedAt < now - SignIn.Life || s.CreatedAt < now - SignIn.LongestLife).ExecuteDeleteAsync(cancel);
        await db.UsedCodes.Where(c => c.UsedAt < now - UsedCode.Life).ExecuteDeleteAsync(cancel);
        await db.Invitations.Where(i => i.ExpiresAt < now - Invitation.Life).ExecuteDeleteAsync(cancel);
        await db.EmailChanges.Where(c => c.ExpiresAt < now).ExecuteDeleteAsync(cancel);
        await db.AuditEntries.Where(e => e.At < now - AuditEntry.Life).ExecuteDeleteAsync(cancel);
        await db.IdempotentAnswers.Where(a => a.CreatedAt < now - IdempotentAnswer.Life).ExecuteDeleteAsync(cancel);
    }
}
