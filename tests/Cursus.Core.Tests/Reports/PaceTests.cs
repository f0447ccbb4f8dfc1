using CsCheck;
using Cursus.Core.Reports;
using NodaTime;

namespace Cursus.Core.Tests.Reports;

public class PaceTests
{
    private static readonly LocalDateTime Today = new(2026, 11, 24, 9, 0);

    [Fact]
    public void A_post_of_yesterday_is_held_against_what_the_last_ten_of_its_channel_had_at_its_age()
    {
        PlacementCourse[] others = [.. Enumerable.Range(1, 12).Select(day => Course(day, [day, day, 100]))];
        var pace = Pace.Of(Course(0, [5, 4]), others);
        pace.ShouldSatisfyAllConditions(p => p.Hours.ShouldBe(2), p => p.Clicks.ShouldBe(9), p => p.Others.ShouldBe(10), p => p.Ahead.ShouldBe(4));
        pace.Usual.Select(u => u.Middle).ShouldBe([5.5, 11, 111]);
        pace.Usual.ShouldAllBe(u => u.Low <= u.Middle && u.Middle <= u.High);
    }

    [Fact]
    public void Later_posts_younger_ones_and_other_channels_are_no_measure()
    {
        PlacementCourse[] others = [Course(-1, [1, 1]), Course(1, [1]), Course(2, [1, 1]) with { Group = "letter" }, Course(3, [1, 1])];
        var pace = Pace.Of(Course(0, [5, 4]), others);
        (pace.Ahead, pace.Others).ShouldBe((1, 1));
        pace.Usual.ShouldBeEmpty("one post is no usual course");
    }

    [Fact]
    public void To_be_level_is_not_to_be_ahead() => Pace.Of(Course(0, [2]), [Course(1, [2]), Course(2, [1]), Course(3, [3])]).Ahead.ShouldBe(1);

    [Fact]
    public void Nobody_is_held_against_itself() =>
        Gen.Long[0, 50]
            .Array[1, 20]
            .Sample(clicks =>
            {
                var one = Course(0, clicks);
                Pace.Of(one, [one]).Others.ShouldBe(0);
            });

    private static PlacementCourse Course(int daysAgo, long[] clicks) => new(Guid.CreateVersion7(), "perch", Today.PlusDays(-daysAgo), [.. clicks]);
}
