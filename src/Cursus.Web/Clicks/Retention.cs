using Cursus.Data.Clicks;
using Cursus.Web.Hosting;
using NodaTime;

namespace Cursus.Web.Clicks;

/// <summary>Every hour deletes what is kept of visitors for a time only: single clicks as long as their workspace wants, and the texts of user
/// agents.</summary>
internal sealed class Retention(ClickRetention clicks, UserAgentRetention agents, IClock clock) : IRegularWork
{
    public async Task Run(CancellationToken cancel)
    {
        await clicks.Keep(clock.GetCurrentInstant(), cancel);
        await agents.Keep(clock.GetCurrentInstant(), cancel);
    }
}
