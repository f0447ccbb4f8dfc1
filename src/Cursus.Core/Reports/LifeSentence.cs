using System.Globalization;

namespace Cursus.Core.Reports;

/// <summary>Says in plain English how long posts live.</summary>
public static class LifeSentence
{
    /// <summary>Which group's posts live longest and which shortest.</summary>
    public static string Of(IReadOnlyCollection<(string Label, PostLife Life)> groups)
    {
        var told = groups
            .Where(g => g.Life.HalfHours is not null)
            .OrderBy(g => g.Life.HalfHours)
            .ThenBy(g => g.Label, StringComparer.Ordinal)
            .ToList();
        return told switch
        {
            [] => "Too few clicks on this period’s posts to work out how long posts stay active.",
            [var (label, life)] =>
                $"{label}: half of the clicks come within {Duration(life.HalfHours!.Value)}, 90% within {Duration(life.MostHours!.Value)}.",
            [var shortest, .., var longest] =>
                $"Longest on {longest.Label}, where half of the clicks come within {Duration(longest.Life.HalfHours!.Value)}; shortest on {shortest.Label}, within {Duration(shortest.Life.HalfHours!.Value)}.",
        };
    }

    /// <summary>Whole hours up to two days, then whole days, upwards.</summary>
    public static string Duration(double hours)
    {
        var (number, unit) = hours <= 48 ? (Math.Max(1, Math.Ceiling(hours)), "hour") : (Math.Ceiling(hours / 24), "day");
        return string.Create(CultureInfo.InvariantCulture, $"{number:0} {unit}{(number == 1 ? "" : "s")}");
    }
}
