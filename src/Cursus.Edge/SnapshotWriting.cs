using System.Diagnostics;
using System.IO.Hashing;
using System.Text.Json;

namespace Cursus.Edge;

/// <summary>Keeps the edge's knowledge in a <see cref="LinkSnapshot"/>: once a minute where something has changed, less often where writing takes
/// long, and at the end.</summary>
internal sealed class SnapshotWriting(LinkFeed feed, LinkTable links, EdgeOptions options, ILogger<SnapshotWriting> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromMinutes(1);

    /// <summary>Writing takes at most this part of the time.</summary>
    private const int OneIn = 50;

    private readonly Lock writing = new();
    private (long Changes, UInt128 Knowledge)? written;

    /// <summary>Writes a snapshot where the edge knows something else than the last one says.</summary>
    /// <returns>Whether one was written.</returns>
    public bool Write()
    {
        // What a snapshot or half a reading told is no better than the snapshot there is.
        if (!feed.IsLoaded)
        {
            return false;
        }

        lock (writing)
        {
            var (changes, knowledge) = (links.Changes, feed.Knowledge);
            var now = (changes, XxHash128.HashToUInt128(JsonSerializer.SerializeToUtf8Bytes(knowledge)));
            if (written == now)
            {
                return false;
            }

            LinkSnapshot.Write(options.SnapshotFile, knowledge, links.Records);
            written = now;
            return true;
        }
    }

    public override async Task StopAsync(CancellationToken cancellationToken)
    {
        await base.StopAsync(cancellationToken);
        TryWrite();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            var began = Stopwatch.GetTimestamp();
            if (feed.IsLoaded)
            {
                TryWrite();
            }

            // The first one as soon as there is something to write.
            var rest = Stopwatch.GetElapsedTime(began) * OneIn;
            await Task.Delay(
                    !feed.IsLoaded ? TimeSpan.FromSeconds(1)
                        : rest > Pause ? rest
                        : Pause,
                    stoppingToken
                )
                .ContinueWith(_ => { }, TaskScheduler.Default);
        }
    }

    private void TryWrite()
    {
        try
        {
            Write();
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            log.LogWarning(
                "What the edge knows could not be written to {File}, by which it would start without a database; trying again: {Reason}",
                options.SnapshotFile,
                e.Message
            );
        }
    }
}
