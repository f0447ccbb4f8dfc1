using System.Threading.RateLimiting;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;

namespace Cursus.Web.Reports.Counts;

/// <summary>Lets a few reports be counted at a time, so that visitors and colleagues have the rest of the machine. Others wait in the order in which
/// they came; no workspace has more than a few turns before the next one gets its own.</summary>
internal sealed class ReportGate(CursusOptions options) : IDisposable
{
    private readonly PartitionedRateLimiter<Guid> turns = PartitionedRateLimiter.CreateChained(
        PartitionedRateLimiter.Create<Guid, Guid>(workspace =>
            RateLimitPartition.GetConcurrencyLimiter(workspace, _ => Of(options.Limits.ReportsOfWorkspace, options.Limits.ReportsWaiting))
        ),
        PartitionedRateLimiter.Create<Guid, string>(_ =>
            RateLimitPartition.GetConcurrencyLimiter("all", _ => Of(options.Limits.ReportsAtOnce, options.Limits.ReportsWaitingInAll))
        )
    );

    public void Dispose() => turns.Dispose();

    /// <summary>Waits for a turn, which ends when the lease is disposed of.</summary>
    /// <exception cref="TooManyRequestsException">So many wait already that this one would wait too long.</exception>
    public async Task<IDisposable> Enter(Guid workspaceId, CancellationToken cancel)
    {
        var lease = await turns.AcquireAsync(workspaceId, 1, cancel);
        if (lease.IsAcquired)
        {
            return lease;
        }

        lease.Dispose();
        throw new TooManyRequestsException(
            "too-many-reports",
            "This workspace already has too many reports waiting. Try again in a few seconds.",
            seconds: 5
        );
    }

    private static ConcurrencyLimiterOptions Of(int atOnce, int waiting) =>
        new()
        {
            PermitLimit = atOnce,
            QueueLimit = waiting,
            QueueProcessingOrder = QueueProcessingOrder.OldestFirst,
        };
}
