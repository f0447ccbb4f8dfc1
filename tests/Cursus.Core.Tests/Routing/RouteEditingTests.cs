using Cursus.Core.Clicks;
using Cursus.Core.Routing;

namespace Cursus.Core.Tests.Routing;

/// <summary>What a route keeps of the one before it, and how it is stored.</summary>
public class RouteEditingTests
{
    private static readonly RouteConditions Phones = new() { Devices = [RouteDevice.Phone] };
    private static readonly RouteConditions Germans = new() { Countries = [CountryCode.Of("DE")] };

    [Fact]
    public void A_rule_that_is_moved_or_changed_keeps_its_number_and_a_new_one_gets_another()
    {
        var first = After(null, new() { Rules = [Rule(Phones, "app"), Rule(Germans, "de")] });
        first.Rules.Select(r => r.Number).ShouldBe([(byte)1, (byte)2]);
        var moved = After(first, new() { Rules = [Rule(Germans, "de-2"), Rule(Phones, "app"), Rule(new() { First = 5 }, "gift")] });
        moved.Rules.Select(r => r.Number).ShouldBe([(byte)2, (byte)1, (byte)3]);
        var above = After(first, new() { Rules = [Rule(new() { First = 5 }, "app"), Rule(Phones, "app"), Rule(Germans, "de")] });
        above.Rules.Select(r => r.Number).ShouldBe([(byte)3, (byte)1, (byte)2], "a rule that is still there comes first");
        var fewer = After(moved, new() { Rules = [Rule(Phones with { Systems = ["iOS"] }, "app")] });
        fewer.Rules.Single().Number.ShouldBe((byte)1, "it leads where the rule before it did");
    }

    [Fact]
    public void A_number_is_never_given_again_and_there_are_so_many()
    {
        short last = 0;
        var first = RouteEditing.After(null, new() { Rules = [Rule(Phones, "app"), Rule(Germans, "de")] }, ref last)!;
        RouteEditing.After(first, new() { Rules = [Rule(Phones, "app")] }, ref last)!.Rules.Single().Number.ShouldBe((byte)1);
        RouteEditing.After(null, new() { Rules = [Rule(Germans, "de")] }, ref last)!.Rules.Single().Number.ShouldBe((byte)3);
        last = RouteEditing.MaxRulesEver;
        RouteEditing.After(first, new() { Rules = [Rule(Phones, "app")] }, ref last).ShouldNotBeNull();
        RouteEditing.After(null, new() { Rules = [Rule(Phones, "app")] }, ref last).ShouldBeNull();
    }

    [Fact]
    public void A_splits_visitors_stay_when_weights_change_and_whatever_else_is_edited()
    {
        var half = After(null, new() { Otherwise = Split(("a", 50), ("b", 50)) });
        var more = After(half, new() { Rules = [Rule(Phones, "app")], Otherwise = Split(("b", 20), ("a", 80)) });
        more.Otherwise!.Id.ShouldBe(half.Otherwise!.Id);
        var (was, now) = (Slots(half.Otherwise), Slots(more.Otherwise));
        now["a"].Except(was["a"]).Count().ShouldBe(300);
        was["a"].Except(now["a"]).ShouldBeEmpty();
        now["b"].Except(was["b"]).ShouldBeEmpty();
    }

    [Fact]
    public void A_page_has_its_number_for_ever()
    {
        var (first, had) = RoutePages.Numbered(new() { Otherwise = Split(("a", 50), ("b", 50)) }, new Dictionary<string, byte>());
        first.Otherwise!.Pages.Select(p => p.Number).ShouldBe([(byte)2, (byte)3]);
        var (next, later) = RoutePages.Numbered(new() { Rules = [Rule(Phones, "c")], Otherwise = Split(("b", 100)) }, had);
        (next.Rules[0].To.Pages[0].Number, next.Otherwise!.Pages[0].Number).ShouldBe(((byte)4, (byte)3));
        later.Count.ShouldBe(3);

        var many = Enumerable.Range(0, RoutePages.MaxEver).ToDictionary(i => $"https://northmoor.example/{i}", i => (byte)(i + RoutePages.First));
        RoutePages.CanNumber(new() { Otherwise = Split(("0", 100)) }, many).ShouldBeTrue();
        RoutePages.CanNumber(next, many).ShouldBeFalse();
        Should.Throw<InvalidOperationException>(() => RoutePages.Numbered(next, many));
    }

    [Fact]
    public void A_route_comes_back_from_its_text_as_it_was()
    {
        var route = After(
            null,
            new()
            {
                Remember = RouteMemory.ThirtyDays,
                Rules =
                [
                    Rule(Phones with { Countries = [default, CountryCode.Of("DE")], Week = new([], 22 * 60, 6 * 60), Query = new("a", "b") }, "app"),
                    new(Germans, new() { IsClosed = true, ClosedText = "Not here." }, "Closed", IsOff: true),
                ],
                Otherwise = Split(("a", 50), ("b", 50)),
            }
        );
        var text = RouteText.Of(route);
        RouteText.Of(RouteText.Read(text)).ShouldBe(text);
        var visit = new RouteFacts
        {
            Held = RouteDevice.Phone,
            At = NodaTime.Instant.FromUtc(2026, 12, 1, 23, 0),
            Parameters = "?a=b",
        };
        visit.Decide(RouteText.Read(text)).Page!.Destination.ShouldBe("https://northmoor.example/app");
        (visit with { Parameters = "" }).Decide(RouteText.Read(text)).Rule.ShouldBeNull();
        RouteText.Read(text).Rules[1].To.ClosedText.ShouldBe("Not here.");
    }

    [Fact]
    public void A_route_is_told_in_one_line()
    {
        var route = new Route
        {
            Rules = [Rule(Phones, "app"), new(Germans, new() { IsClosed = true }, IsOff: true)],
            Otherwise = Split(("a", 60), ("b", 40)),
        };
        RouteWords
            .Of(route, NodaTime.DateTimeZone.Utc)
            .ShouldBe("on a phone: northmoor.example/app; in Germany (off): closed; everyone else: 60% northmoor.example/a, 40% northmoor.example/b");
    }

    /// <summary>As if it was the same link all along: numbers go on where the route before ended.</summary>
    private static Route After(Route? before, Route route)
    {
        var last = (short)(before?.Rules.Select(r => r.Number).DefaultIfEmpty().Max() ?? 0);
        return RouteEditing.After(before, route, ref last)!;
    }

    private static RouteRule Rule(RouteConditions when, string page) => new(when, Split((page, 100)));

    private static RouteOutcome Split(params (string Page, int Weight)[] pages) =>
        new() { Pages = [.. pages.Select(p => new RoutePage($"https://northmoor.example/{p.Page}", p.Weight, []))] };

    private static Dictionary<string, List<int>> Slots(RouteOutcome split) =>
        split.Pages.ToDictionary(p => p.Destination[^1..], p => p.Slots.SelectMany(r => Enumerable.Range(r.From, r.Length)).ToList());
}
