using Cursus.Core;
using Cursus.Core.Clicks;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data.Links;
using Cursus.Web.Addresses;
using Cursus.Web.Problems;
using NodaTime;
using Route = Cursus.Core.Routing.Route;

namespace Cursus.Web.Links.Routes;

/// <summary>Reads routes out of requests, and writes them into responses.</summary>
internal static class RouteReading
{
    /// <summary>Stands for a country that nobody knows.</summary>
    public const string UnknownCountry = "unknown";

    /// <summary>The route that a request asks for; what is wrong with it is in <paramref name="errors"/>, by its fields.</summary>
    /// <param name="prefix">Where in the request it stands.</param>
    public static Route Read(RouteBody body, Vocabulary vocabulary, FieldErrors errors, string prefix = "")
    {
        var route = new Route
        {
            Remember = body.Remember,
            Rules = [.. (body.Rules ?? []).Select((rule, place) => Rule(rule, vocabulary, errors, $"{prefix}rules[{place}]"))],
            Otherwise = body.Otherwise is { } otherwise
                ? Outcome(otherwise.To, closed: null, otherwise.HandsOverWhileDead, vocabulary, errors, $"{prefix}otherwise")
                : null,
        };
        foreach (var (field, error) in RouteCheck.Errors(route).Where(e => !errors.ByField.ContainsKey(prefix + e.Field)))
        {
            errors.Add(prefix + field, error);
        }

        return route;
    }

    /// <summary>The route that a new link is asked to have; null for none.</summary>
    public static Route? OfNewLink(RouteBody? body, Vocabulary vocabulary, FieldErrors errors, string prefix)
    {
        if (body is not { HasRules: true })
        {
            return null;
        }

        var route = Read(body, vocabulary, errors, prefix);
        short last = 0;
        return errors.Any ? null : RouteEditing.After(null, route, ref last);
    }

    /// <summary>The saved route that a request wants; null where it wants none, or, with an error, where it gives rules as well.</summary>
    public static SavedRoute? Saved(Guid? id, RouteBody? body, Vocabulary vocabulary, FieldErrors errors, string field)
    {
        if (id is not null && body is { HasRules: true })
        {
            errors.Add(field, new("route-or-rules", "Choose a saved route, or give rules, but not both."));
            return null;
        }

        return vocabulary.SavedRoute(id, errors, field);
    }

    /// <summary>A route as it is answered.</summary>
    /// <param name="zone">By whose clock times are told.</param>
    /// <param name="people">How many each rule has let through.</param>
    /// <param name="savedRoute">The saved route that the link follows.</param>
    public static RouteBody Body(Route route, DateTimeZone zone, IReadOnlyDictionary<byte, int> people, Guid? savedRoute = null) =>
        new(
            route.Remember,
            [
                .. route.Rules.Select(r => new RuleBody(
                    When(r.When),
                    r.To.IsClosed ? null : Pages(r.To),
                    r.To.IsClosed ? new(r.To.ClosedText, r.To.Pages is [var page] ? page.Destination : null) : null,
                    r.To.HandsOverDead,
                    r.Name,
                    r.IsOff,
                    RouteWords.Of(r.When, zone),
                    r.Number,
                    r.When.First is null ? null : people.GetValueOrDefault(r.Number)
                )),
            ],
            route.Otherwise is { } otherwise ? new(Pages(otherwise), otherwise.HandsOverDead) : null,
            savedRoute
        );

    private static RouteRule Rule(RuleBody rule, Vocabulary vocabulary, FieldErrors errors, string field) =>
        new(
            Conditions(rule.When ?? new(), vocabulary, errors, $"{field}.when"),
            Outcome(rule.To, rule.Closed, rule.HandsOverWhileDead, vocabulary, errors, field),
            string.IsNullOrWhiteSpace(rule.Name) ? null : rule.Name.Trim(),
            rule.Off
        );

    private static RouteConditions Conditions(WhenBody when, Vocabulary vocabulary, FieldErrors errors, string field) =>
        new()
        {
            Countries = Countries(when.Countries, errors, $"{field}.countries"),
            NotCountries = Countries(when.NotCountries, errors, $"{field}.notCountries"),
            Devices = [.. (when.Devices ?? []).Distinct().Order()],
            Systems = Words(when.Systems),
            Languages = Words(when.Languages),
            From = Time(when.From, ScheduleBound.TryReadOpening, vocabulary.Zone, errors, $"{field}.from"),
            Until = Time(when.Until, ScheduleBound.TryReadEnd, vocabulary.Zone, errors, $"{field}.until"),
            Week = Week(when, errors, field),
            First = when.First,
            Networks = Words(when.Networks),
            Query = when.Query is { } query ? new((query.Name ?? "").Trim(), query.EqualTo) : null,
        };

    private static RouteOutcome Outcome(
        IReadOnlyList<PageBody>? to,
        ClosedBody? closed,
        bool handsOverDead,
        Vocabulary vocabulary,
        FieldErrors errors,
        string field
    )
    {
        if (closed is null)
        {
            var pages = to ?? [];
            return new()
            {
                Pages = [.. pages.Select((page, place) => Page(page, pages.Count, vocabulary, errors, $"{field}.to[{place}]"))],
                HandsOverDead = handsOverDead,
            };
        }

        if (to is { Count: > 0 })
        {
            errors.Add($"{field}.closed", new("closed-or-page", "Either lead these visitors to a page, or close the link for them."));
        }

        var text = string.IsNullOrWhiteSpace(closed.Text) ? null : closed.Text.Trim();
        return new()
        {
            IsClosed = true,
            ClosedText = text,
            Pages = string.IsNullOrWhiteSpace(closed.Page)
                ? []
                : [new(vocabulary.Destination(closed.Page, errors, $"{field}.closed.page")?.AsEntered ?? "", 100, [])],
        };
    }

    private static RoutePage Page(PageBody page, int count, Vocabulary vocabulary, FieldErrors errors, string field) =>
        new(
            vocabulary.Destination(page.Destination, errors, $"{field}.destination")?.AsEntered ?? "",
            page.Weight ?? (count == 1 ? 100 : 0),
            [],
            string.IsNullOrWhiteSpace(page.Name) ? null : page.Name.Trim()
        );

    private static WeekHours? Week(WhenBody when, FieldErrors errors, string field)
    {
        if (when.Weekdays?.Any(d => d is < 1 or > 7) == true)
        {
            errors.Add($"{field}.weekdays", new("weekdays", "Weekdays are numbers from 1 for Monday to 7 for Sunday."));
        }

        var days = (when.Weekdays ?? []).Where(d => d is >= 1 and <= 7).Distinct().Order().Select(d => (IsoDayOfWeek)d).ToList();
        if (string.IsNullOrWhiteSpace(when.Hours))
        {
            return days.Count == 0 ? null : new(days);
        }

        if (WeekHours.TryReadHours(when.Hours, out var from, out var to, out var error))
        {
            return new(days, from, to);
        }

        errors.Add($"{field}.hours", error);
        return null;
    }

    private static CountryCode[] Countries(IReadOnlyList<string>? codes, FieldErrors errors, string field)
    {
        var read = (codes ?? []).Select(c => (Text: c.Trim(), Code: CountryCode.Of(c.Trim()))).ToList();
        if (read.FirstOrDefault(c => c.Code == default && c.Text != UnknownCountry).Text is { } text)
        {
            errors.Add(field, new("country-unknown", $"“{text}” isn’t a country of ISO 3166-1. Enter its two letters, such as DE."));
        }

        return [.. read.Select(c => c.Code).Distinct().OrderBy(c => c.Number)];
    }

    private delegate bool ReadTime(string text, DateTimeZone zone, out Instant at, out ValidationError? error);

    private static Instant? Time(string? text, ReadTime read, DateTimeZone zone, FieldErrors errors, string field)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            return null;
        }

        if (read(text, zone, out var at, out var error))
        {
            return at;
        }

        errors.Add(field, error!);
        return null;
    }

    private static string[] Words(IReadOnlyList<string>? words) =>
        [.. (words ?? []).Select(w => w.Trim()).Where(w => w.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase)];

    private static PageBody[] Pages(RouteOutcome outcome) => [.. outcome.Pages.Select(p => new PageBody(p.Destination, p.Weight, p.Name, p.Number))];

    private static WhenBody When(RouteConditions when) =>
        new(
            Codes(when.Countries),
            Codes(when.NotCountries),
            when.Devices.Count == 0 ? null : when.Devices,
            Some(when.Systems),
            Some(when.Languages),
            when.From?.ToString(),
            when.Until?.ToString(),
            when.Week is { Days.Count: > 0 } days ? [.. days.Days.Select(d => (int)d)] : null,
            when.Week is { HasHours: true } hours ? hours.HoursText : null,
            when.First,
            Some(when.Networks),
            when.Query is { } query ? new(query.Name, query.EqualTo) : null
        );

    private static IReadOnlyList<string>? Some(IReadOnlyList<string> words) => words.Count == 0 ? null : words;

    private static string[]? Codes(IReadOnlyList<CountryCode> countries) =>
        countries.Count == 0 ? null : [.. countries.Select(c => c == default ? UnknownCountry : $"{c}")];
}
