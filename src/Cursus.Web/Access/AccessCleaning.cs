using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>Deletes sign-ins that nobody has used for long, and answers that nobody asks for again.</summary>
internal sealed class AccessCleaning(IServiceScopeFactory scopes, IClock clock, Prepared prepared, ILogger<AccessCleaning> log)
    : RegularWork(TimeSpan.FromMinutes(5), "What has expired could not be deleted", prepared, log)
{
    public async Task Clean(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
        var now = clock.GetCurrentInstant();
        await db.SignIns.Where(s => s.LastUsedAt < now - SignIn.Life).ExecuteDeleteAsync(cancel);
        await db.IdempotentAnswers.Where(a => a.CreatedAt < now - IdempotentAnswer.Life).ExecuteDeleteAsync(cancel);
    }

    protected override Task Work(CancellationToken cancel) => Clean(cancel);
}
