using System.Diagnostics.CodeAnalysis;
using Cursus.Core.Clicks.Tallies;
using NodaTime;

namespace Cursus.Data.Clicks.Sums;

/// <summary>
/// Days of links as this process has written them last, so that adding to them asks the database nothing. To be thrown away where a batch is not
/// stored after all, or another process has written meanwhile.
/// </summary>
internal sealed class RecentDays
{
    private const int Remembered = 60_000;

    private readonly Dictionary<(Guid Link, LocalDate Day), DayCounts> days = [];

    public bool TryGet((Guid Link, LocalDate Day) day, [NotNullWhen(true)] out DayCounts? counts) => days.TryGetValue(day, out counts);

    /// <summary>Remembers days that are in the database now.</summary>
    public void Remember(IReadOnlyDictionary<(Guid Link, LocalDate Day), DayCounts> written)
    {
        if (days.Count + written.Count > Remembered)
        {
            days.Clear();
        }

        foreach (var (day, counts) in written)
        {
            days[day] = counts;
        }
    }
}
