using System.Globalization;
using System.Text.Json;
using Cursus.Core.Addresses;
using Cursus.Core.Clicks;

namespace Cursus.Core.Routing;

/// <summary>What makes a route impossible, by the field of the request that says it.</summary>
public static class RouteCheck
{
    /// <summary>The most values of one condition.</summary>
    public const int MaxValues = 250;

    /// <summary>The longest name of a rule, page or parameter, in characters.</summary>
    public const int MaxName = 100;

    /// <summary>Everything that is wrong, in the order of the route; empty where it can be followed.</summary>
    public static IEnumerable<(string Field, ValidationError Error)> Errors(Route route)
    {
        ArgumentNullException.ThrowIfNull(route);
        if (route.Rules.Count > Route.MaxRules)
        {
            yield return (
                "rules",
                new("too-many-rules", $"A link has at most {Route.MaxRules} rules. Remove some, or put their conditions together.")
            );
        }

        foreach (var (place, rule) in route.Rules.Index())
        {
            foreach (var (field, error) in Of(rule))
            {
                yield return ($"rules[{place}].{field}", error);
            }
        }

        foreach (var (field, error) in route.Otherwise is { } otherwise ? Of(otherwise) : [])
        {
            yield return ($"otherwise.{field}", error);
        }
    }

    /// <summary>Why a route that is stored can't be followed; null where it can. Files may hold what no form has made.</summary>
    public static ValidationError? OfStored(string text)
    {
        try
        {
            var route = RouteText.Read(text);
            var pages = RoutePages.Outcomes(route).SelectMany(o => o.Pages).ToList();
            ValidationError? error = null;
            return pages.All(p => Destination.TryParse(p.Destination, out _, out error))
                ? Errors(route).Select(e => e.Error).FirstOrDefault()
                    ?? (
                        pages.All(p => p.Number >= RoutePages.First)
                        && RoutePages.Outcomes(route).Where(o => o.Pages.Count > 0).All(o => SplitSlots.AreWhole(o.Pages.Select(p => p.Slots)))
                            ? null
                            : Unreadable
                    )
                : error;
        }
        catch (JsonException)
        {
            return Unreadable;
        }
    }

    private static IEnumerable<(string Field, ValidationError Error)> Of(RouteRule rule)
    {
        if (rule.When.AreNone)
        {
            yield return (
                "when",
                new("empty-rule", "This rule has no condition, so no rule below it would be reached. Add one, or make it what everyone else gets.")
            );
        }

        if (rule.Name?.Length > MaxName)
        {
            yield return ("name", TooLong);
        }

        foreach (var (field, error) in Of(rule.When))
        {
            yield return ($"when.{field}", error);
        }

        foreach (var (field, error) in Of(rule.To))
        {
            yield return (field, error);
        }
    }

    private static IEnumerable<(string Field, ValidationError Error)> Of(RouteConditions when)
    {
        foreach (var (field, countries) in new[] { ("countries", when.Countries), ("notCountries", when.NotCountries) })
        {
            if (countries.FirstOrDefault(c => c != default && !CountryNames.Codes.Contains($"{c}")) is var unknown && unknown != default)
            {
                yield return (field, new("country-unknown", $"“{unknown}” isn’t a country of ISO 3166-1. Enter its two letters, such as DE."));
            }
        }

        if (when.Languages.FirstOrDefault(l => !LanguagePreference.IsRange(l)) is { } language)
        {
            yield return ("languages", new("language", $"“{language}” isn’t a language. Enter a tag such as de or fr-CA."));
        }

        if (when.From is { } from && when.Until is { } until && from >= until)
        {
            yield return ("until", new("time-order", "It would end before it begins. Choose a later end, or an earlier beginning."));
        }

        if (when.First is < 1 or > RouteConditions.MaxFirst)
        {
            yield return (
                "first",
                new("first", string.Create(CultureInfo.InvariantCulture, $"Enter how many people, from 1 to {RouteConditions.MaxFirst:N0}."))
            );
        }

        if (when.Query is { } query && (query.Name.Length is 0 or > MaxName || query.EqualTo?.Length > MaxName))
        {
            yield return ("query", new("query", $"Enter the name of a parameter, and perhaps its value, of at most {MaxName} characters each."));
        }

        foreach (
            var (field, count) in new[]
            {
                ("countries", when.Countries.Count),
                ("systems", when.Systems.Count),
                ("languages", when.Languages.Count),
                ("networks", when.Networks.Count),
            }
        )
        {
            if (count > MaxValues)
            {
                yield return (field, new("too-many-values", $"A condition has at most {MaxValues} values. Choose fewer."));
            }
        }

        foreach (var (field, values) in new[] { ("systems", when.Systems), ("languages", when.Languages), ("networks", when.Networks) })
        {
            if (values.Any(v => v.Length > MaxName))
            {
                yield return (field, TooLong);
            }
        }
    }

    private static IEnumerable<(string Field, ValidationError Error)> Of(RouteOutcome outcome)
    {
        if (outcome.ClosedText?.Length > RouteOutcome.MaxClosedText)
        {
            yield return ("closed.text", new("option-too-long", $"This text has more than {RouteOutcome.MaxClosedText} characters. Shorten it."));
        }

        if (outcome.Pages.Count > RouteOutcome.MaxPages)
        {
            yield return ("to", new("too-many-pages", $"A split has at most {RouteOutcome.MaxPages} pages. Remove some."));
        }

        if (!outcome.IsClosed && outcome.Pages.Count == 0)
        {
            yield return ("to", new("page-missing", "Choose a page for these visitors, or close the link for them."));
        }
        else if (
            outcome.Pages.Sum(p => (long)p.Weight) is var sum
            && (outcome.Pages.Any(p => p.Weight is < 0 or > 100) || (!outcome.IsClosed && sum != 100))
        )
        {
            yield return ("to", new("weights", $"The shares add up to {sum}%. Change them to whole percentages that make 100%."));
        }

        if (outcome.Pages.Any(p => p.Name?.Length > MaxName))
        {
            yield return ("to", TooLong);
        }
    }

    private static ValidationError Unreadable => new("route", "The rules of a link can’t be read.");

    private static ValidationError TooLong => new("name-too-long", $"A name has at most {MaxName} characters. Shorten it.");
}
