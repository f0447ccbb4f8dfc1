using CsCheck;
using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Core.Tests.Clicks;

public class MonthCountsTests
{
    private static readonly LocalDate First = new(2026, 10, 1);

    private static readonly Gen<(int Day, int Hour, ToldClick Click)[]> Clicks = Gen.Select(Gen.Int[0, 30], Gen.Int[0, 23], Gen.Enum<ClickKind>(), Gen.Long[0, 20], Gen.Int[0, 2])
        .Select((day, hour, kind, visitor, country) => (day, hour, new ToldClick(kind, visitor, new[] { "", "GB", "DE" }[country], "phone", "Firefox", "Android", "en", "perch.localhost")))
        .Array[0, 300];

    [Fact]
    public void A_month_is_what_its_days_come_to() => Clicks.Sample(clicks =>
    {
        var month = Of(clicks);
        var people = clicks.Where(c => c.Click.Kind == ClickKind.Person).ToList();
        foreach (var kind in Enum.GetValues<ClickKind>())
        {
            month.Of(kind).ShouldBe(clicks.Count(c => c.Click.Kind == kind));
        }

        month.Visitors.ShouldBe(people.Select(c => (c.Day, c.Click.Visitor)).Distinct().Count());
        month.WeekHours.ShouldBe(Enumerable.Range(0, 7 * 24).Select(hour => people.Count(c => ((int)First.PlusDays(c.Day).DayOfWeek - 1) * 24 + c.Hour == hour)));
        month.Tally(0).ToDictionary().ShouldBe(people.GroupBy(c => c.Click.Country).ToDictionary(g => g.Key, g => g.Count()), ignoreOrder: true);
    }, iter: 200);

    [Fact]
    public void Months_agree_exactly_where_the_same_was_counted() => Gen.Select(Clicks, Clicks).Sample((one, other) =>
        Of(one).Agrees(Of([.. one.Reverse()])) && (one.Count(IsPerson) == other.Count(IsPerson) || !Of(one).Agrees(Of(other))), iter: 100);

    private static bool IsPerson((int Day, int Hour, ToldClick Click) c) => c.Click.Kind == ClickKind.Person;

    private static MonthCounts Of((int Day, int Hour, ToldClick Click)[] clicks)
    {
        var month = new MonthCounts();
        foreach (var day in clicks.GroupBy(c => c.Day))
        {
            var counts = new DayCounts();
            foreach (var (_, hour, click) in day)
            {
                counts.Add(click, hour);
            }

            month.Add(First.PlusDays(day.Key), counts);
        }

        return month;
    }
}
