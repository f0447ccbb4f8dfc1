using NodaTime;

namespace Cursus.Data.Clicks;

/// <summary>
/// Roll-up: what came of one link in one month of the workspace's calendar that has ended; the sum of its <see cref="LinkDay"/>s, so that a long question reads a
/// thirtieth of them. Written when the month is sealed, and again where a click comes late.
/// </summary>
public sealed class LinkMonth
{
    public Guid LinkId { get; init; }

    /// <summary>The month's first day.</summary>
    public LocalDate Month { get; init; }

    /// <summary>People's clicks.</summary>
    public int Clicks { get; init; }

    public int Team { get; init; }
    public int Machines { get; init; }
    public int Previews { get; init; }
    public int Prefetches { get; init; }
    public int Repeats { get; init; }
    public int Heads { get; init; }

    /// <summary>People, each of them anew on each day.</summary>
    public int Visitors { get; init; }

    /// <summary>People's clicks by hour of the week, 168 numbers from Monday, midnight to one. All of them, so that reports add up columns instead of taking lists apart.</summary>
    public required int[] WeekHours { get; init; }

    public required string[] CountryValues { get; init; }
    public required int[] CountryCounts { get; init; }
    public required string[] DeviceValues { get; init; }
    public required int[] DeviceCounts { get; init; }
    public required string[] BrowserValues { get; init; }
    public required int[] BrowserCounts { get; init; }
    public required string[] OsValues { get; init; }
    public required int[] OsCounts { get; init; }
    public required string[] LanguageValues { get; init; }
    public required int[] LanguageCounts { get; init; }
    public required string[] ReferrerValues { get; init; }
    public required int[] ReferrerCounts { get; init; }
    public required string[] CodeValues { get; init; }
    public required int[] CodeCounts { get; init; }
}

/// <summary>A month that has ended in every time zone and whose days are summed up in <see cref="LinkMonth"/>s; reports may read these instead of the days.</summary>
public sealed class SealedMonth
{
    /// <summary>Its first day.</summary>
    public LocalDate Month { get; init; }
}
