using Cursus.Core.Clicks;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>
/// Finds repeats: a click is one where the same visitor's click before it on the same link, repeat or not, lies less than ten seconds away, so that a
/// row of quick clicks is one click however the batches fall. Remembers the visits of the last seconds; asks the database only at the start, and for
/// what other processes have stored.
/// </summary>
internal sealed class RecentVisits
{
    /// <summary>Visits closer together than this are one; see <see cref="ClickKind.Repeat"/>.</summary>
    public const int RepeatSeconds = 10;

    private static readonly Duration Gap = Duration.FromSeconds(RepeatSeconds);

    private const int FewestToForget = 50_000;

    private readonly Dictionary<(Guid Link, long Visitor), Instant> last = [];
    private int forgetAt = FewestToForget;

    /// <summary>Adds stored clicks of the batch's time to it, in its order, which are not remembered here.</summary>
    /// <param name="except">The journal whose clicks are remembered; null where none is.</param>
    public static async Task AddStored(NpgsqlConnection connection, int? except, List<ReadClick> clicks, CancellationToken cancel)
    {
        if (clicks.Count > 0)
        {
            clicks.AddRange(await Stored(connection, except, clicks.Min(c => c.Click.At) - Gap, clicks.Max(c => c.Click.At) + Gap, cancel));
            clicks.Sort((one, other) => ReadClick.OrderOf(one.Id, one.Click).CompareTo(ReadClick.OrderOf(other.Id, other.Click)));
        }
    }

    /// <summary>Makes those of the clicks repeats that are, and leaves those out that were stored before.</summary>
    /// <param name="clicks">Those of each link in the order of time.</param>
    public void Mark(List<ReadClick> clicks)
    {
        var newest = Instant.MinValue;
        for (var i = 0; i < clicks.Count; i++)
        {
            var click = clicks[i];
            if (click.Told.Kind is not (ClickKind.Person or ClickKind.Repeat))
            {
                continue;
            }

            var (key, at) = ((click.Click.LinkId, click.Told.Visitor), click.Click.At);
            newest = Instant.Max(newest, at);
            if (last.TryGetValue(key, out var before) && !click.IsStored && Abs(at - before) < Gap)
            {
                clicks[i] = click with { Told = click.Told with { Kind = ClickKind.Repeat } };
            }

            last[key] = Instant.Max(at, before);
        }

        Forget(newest);
        clicks.RemoveAll(c => c.IsStored);
    }

    private void Forget(Instant newest)
    {
        if (last.Count < forgetAt)
        {
            return;
        }

        // Visitors are answered side by side, so that clicks stand in the journal a moment out of order.
        var oldest = newest - Gap - Gap;
        foreach (var (key, at) in last)
        {
            if (at < oldest)
            {
                last.Remove(key);
            }
        }

        forgetAt = Math.Max(FewestToForget, 2 * last.Count);
    }

    /// <param name="except">A journal whose clicks are remembered already.</param>
    private static async Task<List<ReadClick>> Stored(NpgsqlConnection connection, int? except, Instant from, Instant to, CancellationToken cancel)
    {
        var stored = new List<ReadClick>();
        await using var command = new NpgsqlCommand(
            $"select id, at, link_id, visitor, kind from clicks where at > $1 and at < $2 and kind in (0, 5) and ($3::int is null or id >> {ClickStore.PositionBits} <> $3)",
            connection
        )
        {
            Parameters =
            {
                new() { Value = from },
                new() { Value = to },
                new() { Value = (object?)except ?? DBNull.Value, NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.Integer },
            },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var kind = (ClickKind)reader.GetInt16(4);
            stored.Add(
                new ReadClick(
                    reader.GetInt64(0),
                    new Click(reader.GetFieldValue<Instant>(1), reader.GetGuid(2), kind, reader.GetInt64(3), default, default, "", "", ""),
                    0,
                    new EnrichedClick(kind, reader.GetInt64(3), "", "", "", "", "", ""),
                    IsStored: true
                )
            );
        }

        return stored;
    }

    private static Duration Abs(Duration duration) => duration < Duration.Zero ? -duration : duration;
}
