using Cursus.Core.Reports;
using NodaTime;

namespace Cursus.Core.Tests.Reports;

public class LifeSentenceTests
{
    [Theory]
    [InlineData(0.2, "1 hour")]
    [InlineData(2.1, "3 hours")]
    [InlineData(48, "48 hours")]
    [InlineData(49, "3 days")]
    [InlineData(240, "10 days")]
    public void Times_are_said_in_hours_up_to_two_days_and_then_in_days(double hours, string words) => LifeSentence.Duration(hours).ShouldBe(words);

    [Fact]
    public void The_longest_and_the_shortest_are_named() =>
        LifeSentence
            .Of([("Perch", LifeOf(30, 5, 2)), ("Poster", LifeOf([.. Enumerable.Repeat(3L, 240)])), ("Letter", LifeOf(10, 10, 5, 5))])
            .ShouldBe("Longest on Poster, where half of the clicks come within 11 days; shortest on Perch, within 1 hour.");

    [Fact]
    public void One_alone_is_told_with_its_nine_tenths() =>
        LifeSentence.Of([("Perch", LifeOf(10, 5, 3, 0, 1, 1))]).ShouldBe("Perch: half of the clicks come within 1 hour, 90% within 3 hours.");

    [Fact]
    public void Those_with_too_few_clicks_are_passed_over()
    {
        LifeSentence.Of([("Perch", LifeOf(10, 5, 3, 0, 1, 1)), ("Poster", LifeOf(1, 1))]).ShouldStartWith("Perch: half");
        LifeSentence.Of([("Poster", LifeOf(1, 1))]).ShouldStartWith("Too few clicks");
        LifeSentence.Of([]).ShouldStartWith("Too few clicks");
    }

    private static PostLife LifeOf(params long[] clicks) =>
        PostLife.Of([new PlacementCourse(Guid.Empty, "", new LocalDateTime(2026, 1, 1, 0, 0), [.. clicks.Take(PostClock.Steps)])]);
}
