using Cursus.Web.Problems;
using Quartz;

namespace Cursus.Web.Checking;

/// <summary>The link check as a job: of all processes of an installation one at a time runs it.</summary>
[DisallowConcurrentExecution]
internal sealed class LinkCheckJob(CheckRound round, CertificateRound certificates, ILogger<LinkCheckJob> log) : IJob
{
    public async ValueTask Execute(IJobExecutionContext context, CancellationToken cancellationToken = default)
    {
        try
        {
            await round.Run(cancellationToken);
            await certificates.Run(cancellationToken);
        }
        catch (Exception e) when (e is Microsoft.EntityFrameworkCore.DbUpdateException || DatabaseTrouble.IsOfDatabase(e))
        {
            log.LogWarning("The link check could not read or write what it knows and tries again in a moment: {Reason}", e.Message);
        }
    }
}
