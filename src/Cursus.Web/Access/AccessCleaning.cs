using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>Deletes sign-ins that nobody has used for long, and answers that nobody asks for again.</summary>
internal sealed class AccessCleaning(CursusDb db, IClock clock) : IRegularWork
{
    public async Task Run(CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        await db.SignIns.Where(s => s.LastUsedAt < now - SignIn.Life).ExecuteDeleteAsync(cancel);
        await db.IdempotentAnswers.Where(a => a.CreatedAt < now - IdempotentAnswer.Life).ExecuteDeleteAsync(cancel);
    }
}
