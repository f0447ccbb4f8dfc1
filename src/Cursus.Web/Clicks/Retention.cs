using Cursus.Data.Clicks;
using Cursus.Data.Links;
using Cursus.Web.Hosting;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Clicks;

/// <summary>Every hour deletes what is kept of visitors for a time only: single clicks as long as their workspace wants, the texts of user agents,
/// and by what the first people of rules could be known again.</summary>
internal sealed class Retention(ClickRetention clicks, UserAgentRetention agents, NpgsqlDataSource source, IClock clock) : IRegularWork
{
    public async Task Run(CancellationToken cancel)
    {
        await clicks.Keep(clock.GetCurrentInstant(), cancel);
        await agents.Keep(clock.GetCurrentInstant(), cancel);
        await RulePeople.Forget(source, clock.GetCurrentInstant(), cancel);
    }
}
