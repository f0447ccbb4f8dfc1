using Cursus.Data.Clicks.Journaling;
using Cursus.Web.Hosting;

namespace Cursus.Web.Clicks;

/// <summary>Says once a minute in the log how many clicks the journal could not keep: because there was no room, or because its disk has changed
/// them; and how many events only a later version can read.</summary>
internal sealed class JournalWatch(ClickJournal journal, ILogger<JournalWatch> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromMinutes(1);

    private long lostTold;
    private long damagedTold;
    private long unknownTold;

    /// <summary>Says what has come since it was last said; nothing where nothing has.</summary>
    public void Tell()
    {
        var (lost, damaged) = (journal.Lost, journal.Damaged);
        if (lost > lostTold)
        {
            log.LogError(
                "{New} clicks were answered and could not be written down since this was last said, {All} since the start: the disk under the journal is full, or the journal is. Make room; they are kept again as soon as there is some.",
                lost - lostTold,
                lost
            );
            lostTold = lost;
        }

        if (damaged > damagedTold)
        {
            log.LogError(
                "{Count} clicks can’t be read from the journal any more: its disk has changed what was written. All others are counted, and the damaged files are kept beside the journal, in “damaged”.",
                damaged
            );
            damagedTold = damaged;
        }

        if (journal.Unknown is var unknown && unknown > unknownTold)
        {
            log.LogWarning(
                "The journal has {Count} events that a later version of Cursus has written and this one doesn’t know. Their files are kept beside the journal, in “newer”; that version can read them.",
                unknown
            );
            unknownTold = unknown;
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause);
        while (await timer.Next(stoppingToken))
        {
            Tell();
        }
    }
}
