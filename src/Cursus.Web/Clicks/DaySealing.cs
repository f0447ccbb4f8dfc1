using Cursus.Data.Clicks.Sums;
using Cursus.Web.Hosting;
using NodaTime;

namespace Cursus.Web.Clicks;

/// <summary>Puts each day of each link into its month once it has ended in every time zone, so that long questions read months instead of days. Until
/// then reports read the days.</summary>
internal sealed class DaySealing(RollUps rollUps, IClock clock) : IRegularWork
{
    public Task Run(CancellationToken cancel) => rollUps.SealDays(clock.GetCurrentInstant(), cancel);
}
