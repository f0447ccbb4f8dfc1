using System.Security.Cryptography;
using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Edge;

/// <summary>The keys of visitor hashes in one time zone: today's, and tomorrow's shortly before midnight. A key that has passed is wiped from
/// memory.</summary>
public sealed class ZoneSalts(DateTimeZone zone)
{
    private readonly Lock changing = new();
    private volatile DaySalt? today;
    private DaySalt? tomorrow;

    /// <summary>The key of one day, until its end.</summary>
    internal sealed record DaySalt(LocalDate Day, Instant End, byte[] Salt);

    public DateTimeZone Zone { get; } = zone;

    /// <summary>Today's key, of <see cref="SipHash.KeySize"/> bytes. Where none was given for the day, because the database is away, one is drawn
    /// that this process alone knows.</summary>
    public ReadOnlySpan<byte> At(Instant now) => today is { } salt && now < salt.End ? salt.Salt : Turn(now).Salt;

    /// <summary>The keys in use, to be kept for the next process.</summary>
    internal IReadOnlyList<DaySalt> Known
    {
        get
        {
            lock (changing)
            {
                return [.. new[] { today, tomorrow }.OfType<DaySalt>()];
            }
        }
    }

    /// <summary>What to propose for the day that <paramref name="now"/> falls into: the key in use, which a database that had to recover has lost,
    /// else a fresh one.</summary>
    internal DaySalt Offer(Instant now)
    {
        var day = now.InZone(Zone).Date;
        return Known.FirstOrDefault(s => s.Day == day) ?? Draw(now);
    }

    private DaySalt Draw(Instant now)
    {
        var day = now.InZone(Zone).Date;
        return new DaySalt(day, Zone.AtStartOfDay(day.PlusDays(1)).ToInstant(), RandomNumberGenerator.GetBytes(SipHash.KeySize));
    }

    /// <summary>Takes the key that all processes use on that day.</summary>
    internal void Take(DaySalt salt, Instant now)
    {
        lock (changing)
        {
            if (salt.Day == now.InZone(Zone).Date)
            {
                today = salt;
            }
            else
            {
                tomorrow = salt;
            }
        }
    }

    private DaySalt Turn(Instant now)
    {
        lock (changing)
        {
            if (today is { } current && now < current.End)
            {
                return current;
            }

            // Others may be reading the key in this moment; they get the hash of nobody, and the key is gone.
            CryptographicOperations.ZeroMemory(today?.Salt);
            var next = tomorrow is { } prepared && now < prepared.End ? prepared : Draw(now);
            tomorrow = null;
            today = next;
            return next;
        }
    }
}
