using NodaTime;

namespace Cursus.Core.Clicks;

/// <summary>
/// How storing clicks holds back for the visitors who are being answered at the same time: clicks can wait in the journal, an answer can't. Between
/// batches it rests while the processors are busy, and within a batch it offers its processor to others every few clicks. Common practice, no source;
/// the numbers are choices.
/// </summary>
public static class Backpressure
{
    /// <summary>From this share of the processors' time on they are taken to be needed for answers.</summary>
    public const double Busy = 0.7;

    /// <summary>So long clicks wait altogether while the processors are busy.</summary>
    public static readonly Duration Patience = Duration.FromSeconds(5);

    /// <summary>How long to look before deciding anew.</summary>
    public static readonly Duration Look = Duration.FromMilliseconds(50);

    /// <summary>How many looks are remembered: a machine that stands still for a moment has not become idle.</summary>
    public const int Looks = 5;

    /// <summary>How many times as long as the last batch took the next one waits: three quarters of busy processors stay with the visitors.</summary>
    public const int Restraint = 3;

    /// <summary>Clicks of one batch at most. Generous, since each day of a link costs the same to change for one click as for many; bounded by the
    /// memory that a batch takes.</summary>
    public const int LargestBatch = 120_000;

    /// <summary>Clicks that any batch may have.</summary>
    public const int SmallestBatch = 2_000;

    /// <summary>No batch should take longer: everybody else's clicks wait behind it.</summary>
    public static readonly Duration LongestBatch = Duration.FromSeconds(5);

    private const int ClicksBetweenYields = 64;

    private static readonly Duration Late = Duration.FromMinutes(5);

    /// <summary>
    /// Lets others go first, every few clicks: a thread that computes keeps its processor for some milliseconds, since schedulers change rarely, and
    /// visitors who are answered on the same one would wait as long. Costs nothing where nobody wants it.
    /// </summary>
    /// <param name="done">How many clicks of a batch have been worked on.</param>
    public static void YieldAfter(int done)
    {
        if (done % ClicksBetweenYields == 0)
        {
            Thread.Yield();
        }
    }

    /// <summary>How busy the last looks say that the processors are: their median, the higher one of the middle two.</summary>
    /// <param name="looks">At least one; each a share of the processors' time, 0 to 1.</param>
    public static double BusyBy(IReadOnlyCollection<double> looks) => looks.Order().ElementAt(looks.Count / 2);

    /// <summary>How many clicks the next batch may have: fewer after one that took too long, as clicks do that are made up to take time, and again
    /// more when they don't any more.</summary>
    /// <param name="size">What the last one might have.</param>
    /// <param name="took">How long it took.</param>
    public static int NextSize(int size, Duration took) => took > LongestBatch ? Math.Max(size / 2, SmallestBatch) : Math.Min(size * 2, LargestBatch);

    /// <summary>How long to rest, all in all, before the next batch is shipped; <see cref="Duration.MaxValue"/> until something changes.</summary>
    /// <param name="busy">Share of the processors' time that the process took while it shipped nothing, 0 to 1; see <see cref="BusyBy"/>.</param>
    /// <param name="waited">For how long the oldest click has waited.</param>
    /// <param name="fullness">Part of the journal that is taken, 0 to 1: room must never run out for the sake of speed.</param>
    /// <param name="lastBatch">How long the last batch took.</param>
    public static Duration Rest(double busy, Duration waited, double fullness, Duration lastBatch) =>
        busy < Busy || fullness > 0.5 ? Duration.Zero
        : waited < Patience ? Duration.MaxValue
        : waited < Late ? lastBatch * Restraint
        : Duration.Zero;
}
