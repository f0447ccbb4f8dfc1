using System.Globalization;
using NodaTime;

namespace Cursus.Web.Demo;

/// <summary>Lays the scenario's posts out on the days before today.</summary>
internal static class DemoCalendar
{
    private const int Days = 400;

    /// <summary>How well the posts of a series do one after the other, so that they differ, and what the story rests on is the same on whatever
    /// day it is loaded.</summary>
    private static readonly double[] Moods = [1, 0.8, 1.15, 0.9, 1.2, 0.85];

    /// <summary>One post on its day, with the campaign it belongs to.</summary>
    public sealed record DatedPost(LocalDate Day, DemoScenario.PostFile Post, DemoScenario.CampaignFile Campaign);

    /// <summary>All posts, oldest first: the single ones and those of the series.</summary>
    public static IReadOnlyList<DatedPost> Of(DemoScenario scenario, LocalDate today)
    {
        var campaigns = scenario.Campaigns.ToDictionary(c => c.Key);
        var single = scenario.Posts.Select(p => new DatedPost(today.PlusDays(-p.DaysAgo), p, campaigns[p.Campaign]));
        return
        [
            .. single.Concat(scenario.Series.SelectMany(s => Repeat(s, today))).OrderBy(p => p.Day).ThenBy(p => p.Post.Title, StringComparer.Ordinal),
        ];
    }

    private static IEnumerable<DatedPost> Repeat(DemoScenario.SeriesFile series, LocalDate today)
    {
        var earliest = today.PlusDays(-Days);
        var day = series.EveryMonth
            ? today.With(DateAdjusters.StartOfMonth).PlusDays(2)
            : today.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday));
        for (var i = 0; day >= earliest; i++, day = series.EveryMonth ? day.PlusMonths(-1) : day.PlusWeeks(-1))
        {
            if (day > today)
            {
                continue;
            }

            var mood = Moods[i % Moods.Length];
            string Fill(string text) =>
                text.Replace("{month}", day.ToString("MMMM uuuu", CultureInfo.InvariantCulture), StringComparison.Ordinal)
                    .Replace("{yyyy-mm}", day.ToString("uuuu-MM", CultureInfo.InvariantCulture), StringComparison.Ordinal)
                    .Replace("{yyyy-mm-dd}", day.ToString("uuuu-MM-dd", CultureInfo.InvariantCulture), StringComparison.Ordinal)
                    .Replace("{topic}", series.Topics is { } topics ? topics[i % topics.Count] : "", StringComparison.Ordinal);
            var campaign = new DemoScenario.CampaignFile(Fill(series.CampaignKey), Fill(series.CampaignName));
            yield return new DatedPost(
                day,
                new DemoScenario.PostFile(
                    0,
                    Fill(series.Title),
                    Fill(series.Page),
                    campaign.Key,
                    series.Channels,
                    series.Tags,
                    series.By,
                    Clicks: series.Clicks?.ToDictionary(c => c.Key, c => (int)(c.Value * mood))
                ),
                campaign
            );
        }
    }
}
