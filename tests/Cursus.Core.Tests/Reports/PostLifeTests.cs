using CsCheck;
using Cursus.Core.Reports;
using NodaTime;

namespace Cursus.Core.Tests.Reports;

public class PostLifeTests
{
    private static readonly LocalDateTime Start = new(2026, 11, 2, 9, 0);

    [Fact]
    public void A_post_that_is_over_lives_until_half_and_nine_tenths_of_its_clicks_have_come()
    {
        var life = PostLife.Of([Course(new long[] { 10, 5, 3, 0, 1, 1 })]);
        life.Arrived.ShouldBe([0.5, 0.75, 0.9, 0.9, 0.95, 1], 1e-9);
        life.HalfHours!.Value.ShouldBe(1, 1e-9);
        life.MostHours!.Value.ShouldBe(3, 1e-9);
        (life.Placements, life.Running, life.Clicks).ShouldBe((1, 0, 20L));
    }

    /// <summary>
    /// Three placements that are 5, 3 and 1 hours old. By R's survival package 3.5.3: with x the hour of each click and a the age of its placement,
    /// survfit(Surv(6 - a, 6 - x, rep(1, n)) ~ 1) of the time turned round has at 6 - x the part that came before hour x.
    /// </summary>
    [Fact]
    public void A_post_that_still_runs_tells_about_its_first_hours_and_nothing_about_later_ones()
    {
        var life = PostLife.Of([Course(8, 4, 2, 1, 1), Course(20, 6, 6), Course(50)]);
        life.Arrived.ShouldBe(ByR, 1e-6);
        life.Running.ShouldBe(2);
    }

    private static readonly double[] ByR = [0.5326086957, 0.7228260870, 0.875, 0.9375, 1];

    [Fact]
    public void Dropping_those_that_run_or_taking_them_as_over_would_say_something_else()
    {
        // Half of the clicks come on each of two days; most posts are from yesterday.
        PlacementCourse[] courses = [Course([.. Days(2)]), .. Enumerable.Repeat(Course([.. Days(1)]), 9)];
        var life = PostLife.Of(courses);
        life.Arrived[23].ShouldBe(0.5, 1e-9);
        life.HalfHours!.Value.ShouldBe(24, 1e-9);
        life.Running.ShouldBe(9);

        static IEnumerable<long> Days(int days) => Enumerable.Repeat(2L, days * 24);
    }

    [Fact]
    public void Fewer_than_ten_clicks_are_never_called()
    {
        PostLife.Of([Course(5, 4)]).ShouldSatisfyAllConditions(l => l.HalfHours.ShouldBeNull(), l => l.MostHours.ShouldBeNull());
        PostLife.Of([]).ShouldSatisfyAllConditions(l => l.HalfHours.ShouldBeNull(), l => l.Arrived.ShouldBeEmpty());
    }

    [Fact]
    public void What_has_arrived_never_shrinks_and_ends_with_all() =>
        Gen.Long[0, 30]
            .Array[1, 100]
            .Array[1, 12]
            .Sample(clicks =>
            {
                var life = PostLife.Of([.. clicks.Select(c => Course(c))]);
                var arrived = life.Arrived;
                arrived.ShouldBe(arrived.Order());
                arrived[^1].ShouldBe(1, 1e-9);
                if (life.HalfHours is { } half)
                {
                    half.ShouldBeLessThanOrEqualTo(life.MostHours!.Value);
                }
            });

    /// <summary>Clicks are put into the steps of the clock as a plain reading of it would.</summary>
    [Fact]
    public void Steps_are_hours_for_three_days_and_then_days()
    {
        PostClock.HoursAfter(72).ShouldBe(72);
        PostClock.HoursAfter(73).ShouldBe(96);
        PostClock.Hours.ShouldBe(90 * 24);
        Enumerable
            .Range(0, PostClock.Hours)
            .ShouldAllBe(h => PostClock.HoursAfter(PostClock.StepOf(h)) <= h && h < PostClock.HoursAfter(PostClock.StepOf(h) + 1));
    }

    [Fact]
    public void Clicks_of_a_step_that_is_not_over_are_left_out()
    {
        var course = PlacementCourse.Of(default, "perch", Start, [(0, 5), (1, 3), (71, 2), (72, 7), (95, 1), (96, 4)], age: 100);
        course.Clicks.Length.ShouldBe(73);
        (course.Clicks[0], course.Clicks[1], course.Clicks[71], course.Clicks[72]).ShouldBe((5L, 3L, 2L, 8L));
        PlacementCourse.Of(default, "perch", Start, [(0, 5)], age: 0).Clicks.ShouldBeEmpty();
        PlacementCourse
            .Of(default, "perch", Start, [(0, 5), (2160, 9)], age: 5000)
            .ShouldSatisfyAllConditions(c => c.Clicks.Length.ShouldBe(PostClock.Steps), c => c.Clicks.Sum().ShouldBe(5));
    }

    private static PlacementCourse Course(params long[] clicks) => new(Guid.CreateVersion7(), "perch", Start, [.. clicks]);
}
