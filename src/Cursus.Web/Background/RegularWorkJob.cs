using Cursus.Data;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;
using Quartz;

namespace Cursus.Web.Background;

/// <summary>Any <see cref="RegularWork"/> as a job of the scheduler, which keeps in the database when each ran and what came of it.</summary>
[DisallowConcurrentExecution]
internal sealed class RegularWorkJob(IEnumerable<RegularWork> all, IServiceScopeFactory scopes, ILogger<RegularWorkJob> log) : IJob
{
    public async ValueTask Execute(IJobExecutionContext context, CancellationToken cancellationToken = default)
    {
        if (all.FirstOrDefault(w => w.Key == context.JobDetail.Key.Name) is not { } work)
        {
            return;
        }

        try
        {
            await using var scope = scopes.CreateAsyncScope();
            await ((IRegularWork)scope.ServiceProvider.GetRequiredService(work.Type)).Run(cancellationToken);
        }
        catch (Exception e) when (e is not OperationCanceledException || !cancellationToken.IsCancellationRequested)
        {
            log.LogWarning("{Work} failed and is tried again in {Every}: {Reason}", work.Name, work.Every, e.Message);
            throw new JobExecutionException(ReasonOf(e), e);
        }
    }

    /// <summary>What an owner reads of it; details are in the log.</summary>
    private static string ReasonOf(Exception exception) =>
        exception switch
        {
            MailException => "The mail server didn’t take a message. The log says why.",
            TooManyRequestsException => "Too much was being counted at once.",
            DbUpdateException => "The database refused a change. The log says which.",
            _ when DatabaseTrouble.IsOfDatabase(exception) => "The database didn’t respond as it should. The log says how.",
            _ => "Something unexpected happened. The log says what.",
        };
}
