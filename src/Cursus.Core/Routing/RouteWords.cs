using System.Globalization;
using Cursus.Core.Clicks;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Core.Routing;

/// <summary>Conditions as people say them.</summary>
public static class RouteWords
{
    private static readonly CultureInfo English = CultureInfo.GetCultureInfo("en-GB");
    private static readonly LocalDateTimePattern ToTheMinute = LocalDateTimePattern.Create("d MMM uuuu, HH:mm", English);
    private static readonly RouteQuestion[] InOrder =
    [
        RouteQuestion.Device,
        RouteQuestion.System,
        RouteQuestion.Country,
        RouteQuestion.Language,
        RouteQuestion.Network,
        RouteQuestion.Week,
        RouteQuestion.Time,
        RouteQuestion.Query,
        RouteQuestion.First,
    ];

    private static readonly string[] Weekdays = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

    /// <summary>A whole route in one line, such as “on a phone: northmoor.example/app; everyone else: 50% northmoor.example/a, 50%
    /// northmoor.example/b”.</summary>
    public static string Of(Route route, DateTimeZone zone)
    {
        ArgumentNullException.ThrowIfNull(route);
        var rules = route.Rules.Select(r => $"{r.Name ?? Of(r.When, zone)}{(r.IsOff ? " (off)" : "")}: {Of(r.To)}");
        return string.Join("; ", route.Otherwise is { } otherwise ? rules.Append($"everyone else: {Of(otherwise)}") : rules);
    }

    /// <summary>What visitors get, in words.</summary>
    public static string Of(RouteOutcome outcome)
    {
        ArgumentNullException.ThrowIfNull(outcome);
        return outcome.IsClosed
            ? outcome.Pages.Count == 0
                ? "closed"
                : $"closed, leads to {Short(outcome.Pages[0])}"
            : outcome.IsSplit
                ? string.Join(", ", outcome.Pages.Select(p => $"{p.Weight}% {Short(p)}"))
                : Short(outcome.Pages[0]);
    }

    /// <summary>All conditions in one line, such as “on a phone, in Germany or Austria, Mon–Fri 08:00–18:00”.</summary>
    /// <param name="zone">By whose clock times are told.</param>
    public static string Of(RouteConditions when, DateTimeZone zone)
    {
        ArgumentNullException.ThrowIfNull(when);
        return string.Join(", ", InOrder.Select(q => Of(q, when, zone)).OfType<string>());
    }

    /// <summary>One condition; null where the rule doesn't ask that.</summary>
    public static string? Of(RouteQuestion question, RouteConditions when, DateTimeZone zone)
    {
        ArgumentNullException.ThrowIfNull(when);
        ArgumentNullException.ThrowIfNull(zone);
        return question switch
        {
            RouteQuestion.Device when when.Devices.Count > 0 => Or(when.Devices.Select(Device)),
            RouteQuestion.System when when.Systems.Count > 0 => $"with {Or(when.Systems)}",
            RouteQuestion.Country when when.Countries.Count + when.NotCountries.Count > 0 => Countries(when),
            RouteQuestion.Language when when.Languages.Count > 0 => $"reading {Or(when.Languages.Select(Language))}",
            RouteQuestion.Network when when.Networks.Count > 0 => $"coming from {Or(when.Networks)}",
            RouteQuestion.Time when (when.From ?? when.Until) is not null => Time(when, zone),
            RouteQuestion.Week when when.Week is { } week => Week(week),
            RouteQuestion.Query when when.Query is { } query => query.EqualTo is null
                ? $"with the parameter {query.Name}"
                : $"with {query.Name}={query.EqualTo}",
            RouteQuestion.First when when.First is { } first => first == 1 ? "the first person" : $"the first {CountWords.Number(first)} people",
            _ => null,
        };
    }

    private static string Device(RouteDevice device) =>
        device switch
        {
            RouteDevice.Phone => "on a phone",
            RouteDevice.Tablet => "on a tablet",
            RouteDevice.Computer => "on a computer",
            _ => "on another device",
        };

    private static string Countries(RouteConditions when) =>
        string.Join(
            ", ",
            new[]
            {
                when.Countries.Count == 0 ? null : $"in {Or(when.Countries.Select(Country))}",
                when.NotCountries.Count == 0 ? null : $"not in {Or(when.NotCountries.Select(Country))}",
            }.OfType<string>()
        );

    private static string Country(CountryCode country) => country == default ? "an unknown country" : CountryNames.InSentence($"{country}");

    /// <summary>The language's English name where the system knows it, else its tag.</summary>
    private static string Language(string tag)
    {
        try
        {
            return CultureInfo.GetCultureInfo(tag, predefinedOnly: true).EnglishName;
        }
        catch (CultureNotFoundException)
        {
            return tag;
        }
    }

    private static string Time(RouteConditions when, DateTimeZone zone) =>
        string.Join(
            " ",
            new[]
            {
                when.From is { } from ? $"from {ToTheMinute.Format(from.InZone(zone).LocalDateTime)}" : null,
                when.Until is { } until ? $"until {ToTheMinute.Format(until.InZone(zone).LocalDateTime)}" : null,
            }.OfType<string>()
        );

    private static string Week(WeekHours week)
    {
        var days = week.Days.Count is 0 or 7 ? null : Days([.. week.Days.Select(d => (int)d).Order()]);
        var hours = week.HasHours ? week.HoursText.Replace('-', '–') : null;
        return string.Join(" ", new[] { days ?? (hours is null ? "every day" : null), hours }.OfType<string>());
    }

    /// <summary>Three or more days that follow each other as a range.</summary>
    private static string Days(IReadOnlyList<int> days)
    {
        var parts = new List<string>();
        for (var i = 0; i < days.Count; i++)
        {
            var last = i;
            while (last + 1 < days.Count && days[last + 1] == days[last] + 1)
            {
                last++;
            }

            parts.Add(last - i >= 2 ? $"{Weekdays[days[i] - 1]}–{Weekdays[days[last] - 1]}" : Weekdays[days[i] - 1]);
            i = last - i >= 2 ? last : i;
        }

        return string.Join(", ", parts);
    }

    private static string Short(RoutePage page)
    {
        var at = page.Destination.IndexOf("://", StringComparison.Ordinal);
        return page.Name ?? (at < 0 ? page.Destination : page.Destination[(at + 3)..]);
    }

    private static string Or(IEnumerable<string> words)
    {
        var all = words.ToList();
        return all.Count == 1 ? all[0] : $"{string.Join(", ", all.SkipLast(1))} or {all[^1]}";
    }
}
