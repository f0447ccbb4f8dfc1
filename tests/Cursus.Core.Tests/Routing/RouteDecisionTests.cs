using CsCheck;
using Cursus.Core.Clicks;
using Cursus.Core.Routing;
using NodaTime;

namespace Cursus.Core.Tests.Routing;

/// <summary>Which rule decides, held against a reading of each condition by itself.</summary>
public class RouteDecisionTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 12, 1, 12, 0);

    private static readonly Gen<RouteConditions> When = Gen.Select(
            Some("", "DE", "AT", "GB").Select(c => c.Select(t => CountryCode.Of(t)).ToArray()),
            Some("", "DE", "CH").Select(c => c.Select(t => CountryCode.Of(t)).ToArray()),
            Some(Enum.GetValues<RouteDevice>()),
            Some("Android", "iOS", "Windows"),
            Some("de", "fr", "fr-CA"),
            Gen.Int[-5, 5].Nullable(),
            Gen.Int[-5, 5].Nullable(),
            Some("Perch", "Guildhall")
        )
        .Select(
            Gen.Int[1, 3].Nullable(),
            OneOf<QueryCondition?>(null, new QueryCondition("ref"), new QueryCondition("ref", "a b")),
            OneOf<WeekHours?>(null, new WeekHours([IsoDayOfWeek.Tuesday], 11 * 60, 13 * 60), new WeekHours([IsoDayOfWeek.Monday], 22 * 60, 2 * 60)),
            (some, first, query, week) =>
                new RouteConditions
                {
                    Countries = some.Item1,
                    NotCountries = some.Item2,
                    Devices = some.Item3,
                    Systems = some.Item4,
                    Languages = some.Item5,
                    From = some.Item6 is { } from ? Noon + Duration.FromHours(from) : null,
                    Until = some.Item7 is { } until ? Noon + Duration.FromHours(until) : null,
                    Networks = some.Item8,
                    First = first,
                    Query = query,
                    Week = week,
                }
        );

    private static readonly Gen<Route> Routes = Gen.Select(When, Gen.Bool, (when, isOff) => new RouteRule(when, Page(1), IsOff: isOff))
        .Array[0, 6]
        .Select(rules => new Route { Rules = [.. rules.Select((r, i) => r with { To = Page(i + 1) })] });

    private static readonly Gen<RouteFacts> Visits = Gen.Select(
        Gen.Int[-14, 14],
        OneOf("", "DE", "AT", "GB", "CH", "FR"),
        Gen.Enum<RouteDevice>(),
        OneOf("Android", "iOS", "Other"),
        OneOf("", "de", "de-AT,en;q=0.5", "fr-CA, fr;q=0.8", "en, fr;q=0.5, de;q=0.9", "fr;q=0, de"),
        OneOf("", "Perch", "guildhall"),
        OneOf("", "?ref", "?x=1&ref=a+b", "ref=a%20b", "?ref=c&REF=a b"),
        Gen.Int[0, 3],
        (hours, country, device, system, languages, network, query, before) =>
            new RouteFacts
            {
                At = Noon + Duration.FromHours(hours),
                CountryCodeText = country,
                Held = device,
                Os = system,
                Languages = languages,
                From = network,
                Parameters = query,
                Before = before,
            }
    );

    [Fact]
    public void The_first_rule_that_is_on_and_holds_whole_decides_and_everyone_else_gets_the_rest() =>
        Gen.Select(Routes, Visits)
            .Sample(
                (route, visit) =>
                {
                    var expected = route.Rules.Index().Where(r => !r.Item.IsOff && Holds(r.Item.When, route, visit)).Select(r => (int?)r.Index);
                    var decision = visit.Decide(route);
                    decision.Rule.ShouldBe(expected.FirstOrDefault());
                    ((int?)decision.Page?.Number).ShouldBe(decision.Rule + 1);
                },
                iter: 20_000
            );

    [Fact]
    public void A_rule_that_nobody_reaches_changes_nothing() =>
        Gen.Select(Routes, Visits, Gen.Int[0, 6], When)
            .Sample(
                (route, visit, at, when) =>
                {
                    at = Math.Min(at, route.Rules.Count);
                    var page = visit.Decide(route).Page;
                    With(new RouteRule(when, Page(99), IsOff: true)).ShouldBe(page);
                    if (at > 0 && !route.Rules[at - 1].IsOff)
                    {
                        With(new RouteRule(route.Rules[at - 1].When, Page(99))).ShouldBe(page);
                    }

                    RoutePage? With(RouteRule rule) =>
                        visit.Decide(route with { Rules = [.. route.Rules.Take(at), rule, .. route.Rules.Skip(at)] }).Page;
                },
                iter: 5_000
            );

    [Fact]
    public void Each_rule_that_did_not_decide_says_why()
    {
        var route = new Route
        {
            Rules =
            [
                new(new() { Devices = [RouteDevice.Phone] }, Page(1), IsOff: true),
                new(new() { Countries = [CountryCode.Of("DE"), CountryCode.Of("AT")], Devices = [RouteDevice.Computer] }, Page(2)),
                new(new() { Devices = [RouteDevice.Computer] }, Page(3)),
                new(new() { Devices = [RouteDevice.Phone] }, Page(4)),
            ],
        };
        var visit = new RouteFacts { CountryCodeText = "FR" };
        var trial = RouteTrial.Of(route, default, DateTimeZone.Utc, ref visit);
        trial.Decision.Rule.ShouldBe(2);
        trial.Why.ShouldBe([
            "Passed over: it is switched off.",
            "Doesn’t hold: the visit isn’t “in Germany or Austria”.",
            "Decides: all its conditions hold.",
            "Not asked: a rule above it has decided.",
        ]);
    }

    [Fact]
    public void What_is_not_asked_by_any_rule_is_not_read()
    {
        var visit = new Untouchable();
        var route = new Route { Rules = [new(new() { From = Noon }, Page(1))] };
        RouteDecision.Of(route, default, DateTimeZone.Utc, ref visit).Rule.ShouldBe(0);
    }

    [Fact]
    public void Machines_and_previews_get_what_everyone_else_gets()
    {
        var route = new Route { Rules = [new(new() { Devices = [RouteDevice.Computer] }, Page(1))], Otherwise = Page(2) };
        RouteDecision.Everyone(route, default, 5).Page!.Number.ShouldBe((byte)2);
        RouteDecision.Everyone(route with { Otherwise = null }, default, 5).ShouldBe(default);
    }

    private static RouteOutcome Page(int number) =>
        new() { Pages = [new($"https://northmoor.example/{number}", 100, [new(0, SplitSlots.Count)], Number: (byte)number)] };

    private static Gen<T[]> Some<T>(params T[] of) => Gen.OneOf(Gen.Const(Array.Empty<T>()), OneOf(of).Array[1, 3]);

    private static Gen<T> OneOf<T>(params T[] choices) => Gen.Int[0, choices.Length - 1].Select(i => choices[i]);

    private static bool Holds(RouteConditions when, Route route, RouteFacts visit)
    {
        var country = CountryCode.Of(visit.CountryCodeText);
        var all = route.Rules.Where(r => !r.IsOff).SelectMany(r => r.When.Languages).ToList();
        return new[]
        {
            when.Countries.Count == 0 || when.Countries.Any(c => c == country),
            when.NotCountries.All(c => c != country),
            when.Devices.Count == 0 || when.Devices.Any(d => d == visit.Held),
            when.Systems.Count == 0 || when.Systems.Any(s => s == visit.Os),
            when.Languages.Count == 0 || (Wanted(visit.Languages, all) is { } wanted && when.Languages.Contains(wanted)),
            when.From is null || visit.At >= when.From,
            when.Until is null || visit.At < when.Until,
            when.Networks.Count == 0 || when.Networks.Any(n => n.Equals(visit.From, StringComparison.OrdinalIgnoreCase)),
            when.First is null || visit.Before < when.First,
            when.Query is null
                || (
                    when.Query.EqualTo is null
                        ? visit.Parameters.Contains("ref", StringComparison.Ordinal)
                        : visit.Parameters is "?x=1&ref=a+b" or "ref=a%20b"
                ),
            when.Week is not { } week
                || (
                    week.Days[0] == IsoDayOfWeek.Tuesday
                        ? visit.At >= Noon - Duration.FromHours(1) && visit.At < Noon + Duration.FromHours(1)
                        : visit.At >= Noon - Duration.FromHours(14) && visit.At < Noon - Duration.FromHours(10)
                ),
        }.All(holds => holds);
    }

    /// <summary>The few headers of this test, read by hand.</summary>
    private static string? Wanted(string header, List<string> available)
    {
        string[] tags = header switch
        {
            "de" or "de-AT,en;q=0.5" or "fr;q=0, de" => ["de"],
            "fr-CA, fr;q=0.8" => ["fr-CA", "fr"],
            "en, fr;q=0.5, de;q=0.9" => ["de", "fr"],
            _ => [],
        };
        return tags.FirstOrDefault(available.Contains);
    }

    /// <summary>A visit that must not be asked anything but the time.</summary>
    private sealed class Untouchable : IRouteVisit
    {
        public Instant Now => Noon;

        public long Visitor => 1;

        public CountryCode Country() => throw new InvalidOperationException();

        public RouteDevice Device() => throw new InvalidOperationException();

        public string System() => throw new InvalidOperationException();

        public string AcceptLanguage() => throw new InvalidOperationException();

        public string Network() => throw new InvalidOperationException();

        public string Query() => throw new InvalidOperationException();

        public bool IsAmongFirst(byte rule, int count) => throw new InvalidOperationException();
    }
}
