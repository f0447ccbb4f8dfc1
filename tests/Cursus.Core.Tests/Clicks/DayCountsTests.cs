using CsCheck;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Tallies;

namespace Cursus.Core.Tests.Clicks;

public class DayCountsTests
{
    private static readonly Gen<(EnrichedClick Click, int Hour)[]> Clicks = Gen.Select(
            Gen.Enum<ClickKind>(),
            Gen.Long[0, 40],
            Gen.Int[0, 2],
            Gen.Int[0, 2],
            Gen.Int[0, 23]
        )
        .Select(
            (kind, visitor, country, device, hour) =>
                (
                    new EnrichedClick(
                        kind,
                        visitor,
                        new[] { "", "GB", "DE" }[country],
                        new[] { "phone", "tablet", "computer" }[device],
                        "Firefox",
                        "Linux",
                        "en",
                        "perch.localhost"
                    ),
                    hour
                )
        )
        .Array[0, 200];

    [Fact]
    public void Counting_in_parts_comes_to_the_same_as_counting_all() =>
        Gen.Select(Clicks, Clicks)
            .Sample(
                (one, other) =>
                {
                    var parts = Of(one);
                    parts.Add(Of(other));
                    parts.Agrees(Of([.. other, .. one])).ShouldBeTrue();
                },
                iter: 200
            );

    [Fact]
    public void Only_people_are_told_apart_and_every_other_kind_is_counted() =>
        Clicks.Sample(
            clicks =>
            {
                var counts = Of(clicks);
                foreach (var kind in Enum.GetValues<ClickKind>())
                {
                    counts.Of(kind).ShouldBe(clicks.Count(c => c.Click.Kind == kind));
                }

                var people = clicks.Where(c => c.Click.Kind == ClickKind.Person).ToList();
                counts.Visitors.Count.ShouldBe(people.Select(c => c.Click.Visitor).Distinct().Count());
                counts.Hours.ShouldBe(Enumerable.Range(0, 24).Select(hour => people.Count(c => c.Hour == hour)));
                counts
                    .Tally("device")
                    .ToDictionary()
                    .ShouldBe(people.GroupBy(c => c.Click.Device).ToDictionary(g => g.Key, g => g.Count()), ignoreOrder: true);
                counts.Tally("country").Sum(t => t.Value).ShouldBe(people.Count);
            },
            iter: 200
        );

    [Fact]
    public void There_are_never_more_people_than_clicks_though_large_numbers_are_guessed()
    {
        var random = new Random(5);
        var days = Enumerable
            .Range(0, 200)
            .Select(_ =>
                Of([
                    .. Enumerable
                        .Range(0, 1000)
                        .Select(_ => (new EnrichedClick(ClickKind.Person, random.NextInt64() << 1, "", "phone", "Firefox", "Android", "en", ""), 12)),
                ])
            )
            .ToList();
        days.Count(d => d.Visitors.Count > 1000).ShouldBeGreaterThan(50, "guesses are as often too high as too low");
        days.ShouldAllBe(d => d.People <= 1000 && d.People > 800);
    }

    private static DayCounts Of((EnrichedClick Click, int Hour)[] clicks)
    {
        var counts = new DayCounts();
        Array.ForEach(clicks, c => counts.Add(c.Click, c.Hour));
        return counts;
    }
}
