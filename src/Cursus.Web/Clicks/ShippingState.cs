using System.Diagnostics.Metrics;
using Cursus.Data.Clicks.Journaling;
using NodaTime;

namespace Cursus.Web.Clicks;

/// <summary>
/// How far the journal's clicks have come on their way into the database: for <c>/readyz</c>, and as metrics of the meter <c>Cursus.Clicks</c>, which
/// any collector of .NET's metrics reads.
/// </summary>
public sealed class ShippingState : IDisposable
{
    private readonly ClickJournal journal;
    private readonly IClock clock;
    private readonly Meter meter = new("Cursus.Clicks");
    private readonly Counter<long> shipped;
    private readonly Histogram<int> batches;
    private long shippedTo;
    private long oldestAt;

    public ShippingState(ClickJournal journal, IClock clock)
    {
        (this.journal, this.clock) = (journal, clock);
        shipped = meter.CreateCounter<long>("cursus.clicks.shipped", "{click}", "Clicks written into the database");
        batches = meter.CreateHistogram<int>("cursus.clicks.batch", "{click}", "Clicks of one batch");
        meter.CreateObservableGauge("cursus.clicks.waiting", () => WaitingBytes, "By", "What waits in the journal");
        meter.CreateObservableGauge(
            "cursus.clicks.oldest",
            () => OldestWaiting.TotalSeconds,
            "s",
            "For how long the oldest click of the next batch has waited"
        );
        meter.CreateObservableCounter("cursus.clicks.lost", () => journal.Lost, "{click}", "Clicks that were answered and could not be written down");
    }

    /// <summary>Bytes of the journal that are not in the database yet.</summary>
    public long WaitingBytes => Math.Max(0, journal.End - Interlocked.Read(ref shippedTo));

    /// <summary>For how long the oldest waiting click that was seen has waited; nothing where none waits.</summary>
    public Duration OldestWaiting =>
        Interlocked.Read(ref oldestAt) is > 0 and var at ? clock.GetCurrentInstant() - Instant.FromUnixTimeMilliseconds(at) : Duration.Zero;

    /// <summary>Clicks of the last batch.</summary>
    public int LastBatch { get; private set; }

    /// <summary>Clicks that this process has written into the database.</summary>
    public long Shipped { get; private set; }

    /// <summary>Where shipping begins.</summary>
    public void Begin(long at) => Interlocked.Exchange(ref shippedTo, at);

    /// <summary>A batch is about to be stored, whose first click was answered at <paramref name="oldest"/>; null where nothing waits.</summary>
    public void Take(Instant? oldest) => Interlocked.Exchange(ref oldestAt, oldest?.ToUnixTimeMilliseconds() ?? 0);

    /// <summary>A batch is in the database.</summary>
    public void Done(int clicks, long upTo)
    {
        Interlocked.Exchange(ref shippedTo, upTo);
        LastBatch = clicks;
        Shipped += clicks;
        shipped.Add(clicks);
        batches.Record(clicks);
    }

    public void Dispose() => meter.Dispose();
}
