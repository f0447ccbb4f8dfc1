using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;

namespace Cursus.Web.Tests.Limits;

public class ReportGateTests
{
    private static readonly Guid Busy = Guid.NewGuid();
    private static readonly Guid Other = Guid.NewGuid();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_workspace_that_asks_for_many_reports_does_not_keep_another_from_its_turn()
    {
        using var gate = Gate(waiting: 10);
        var turns = new List<string>();
        var running = await gate.Enter(Busy, Cancel);
        var waiting = new List<Task> { Take("busy"), Take("busy"), Take("busy"), Take("other") };
        running.Dispose();
        await Task.WhenAll(waiting);
        turns.ShouldBe(["busy", "other", "busy", "busy"]);

        async Task Take(string who)
        {
            using var turn = await gate.Enter(who == "busy" ? Busy : Other, Cancel);
            turns.Add(who);
            await Task.Yield();
        }
    }

    [Fact]
    public async Task Who_would_wait_too_long_is_told_so_at_once_and_who_has_gone_waits_no_more()
    {
        using var gate = Gate(waiting: 1);
        using var gone = new CancellationTokenSource();
        var first = await gate.Enter(Busy, Cancel);
        var second = gate.Enter(Busy, Cancel);
        var third = gate.Enter(Busy, gone.Token);
        (await Should.ThrowAsync<TooManyRequestsException>(() => gate.Enter(Busy, Cancel))).Code.ShouldBe("too-many-reports");

        await gone.CancelAsync();
        await Should.ThrowAsync<OperationCanceledException>(() => third);
        var fourth = gate.Enter(Busy, Cancel);
        first.Dispose();
        (await second).Dispose();
        (await fourth).Dispose();
    }

    private static ReportGate Gate(int waiting) =>
        new(
            new CursusOptions
            {
                Limits = new LimitOptions
                {
                    Reports = 1,
                    ReportsOfWorkspace = 2,
                    ReportsWaiting = waiting,
                },
            }
        );
}
