using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>Deletes sign-ins that nobody has used for long, and answers that nobody asks for again.</summary>
internal sealed class AccessCleaning(IServiceScopeFactory scopes, IClock clock, Prepared prepared, ILogger<AccessCleaning> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromMinutes(5);

    public async Task Clean(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
        var now = clock.GetCurrentInstant();
        await db.SignIns.Where(s => s.LastUsedAt < now - SignIn.Life).ExecuteDeleteAsync(cancel);
        await db.IdempotentAnswers.Where(a => a.CreatedAt < now - IdempotentAnswer.Life).ExecuteDeleteAsync(cancel);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause);
        do
        {
            try
            {
                await prepared.WhenDone(stoppingToken);
                await Clean(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (e is Npgsql.NpgsqlException || DatabaseTrouble.IsAway(e))
            {
                log.LogWarning("What has expired could not be deleted; trying again in five minutes: {Reason}", e.Message);
            }
        }
        while (await timer.Next(stoppingToken));
    }
}
