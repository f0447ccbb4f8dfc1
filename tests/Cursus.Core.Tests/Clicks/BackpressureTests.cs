using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Core.Tests.Clicks;

public class BackpressureTests
{
    private static readonly Duration Batch = Duration.FromMilliseconds(400);

    [Fact]
    public void Clicks_wait_while_answering_needs_the_processors() =>
        Backpressure.Rest(busy: 0.9, waited: Duration.FromSeconds(1), fullness: 0.1, Batch).ShouldBe(Duration.MaxValue);

    [Fact]
    public void They_go_at_once_where_there_is_time_to_spare() =>
        Backpressure.Rest(busy: 0.3, waited: Duration.FromSeconds(3), fullness: 0.1, Batch).ShouldBe(Duration.Zero);

    [Fact]
    public void The_longer_they_have_waited_the_less_they_rest()
    {
        var rests = new[] { 4, 5, 299, 300, 3600 }.Select(s => Backpressure.Rest(0.9, Duration.FromSeconds(s), 0.1, Batch)).ToList();
        rests.ShouldBe([Duration.MaxValue, Batch * 3, Batch * 3, Duration.Zero, Duration.Zero]);
    }

    [Theory]
    [InlineData(0.95, 0.9, 0.97, 0.1, 0.96, 0.95)]
    [InlineData(0.95, 0.1, 0.97, 0.1, 0.96, 0.95)]
    [InlineData(0.95, 0.9, 0.1, 0.1, 0.1, 0.1)]
    public void One_idle_moment_does_not_make_the_machine_idle(double one, double two, double three, double four, double five, double busy) =>
        Backpressure.BusyBy([one, two, three, four, five]).ShouldBe(busy);

    [Fact]
    public void The_first_look_is_taken_for_what_it_is() => Backpressure.BusyBy([0.2]).ShouldBe(0.2);

    [Fact]
    public void Batches_that_take_too_long_are_followed_by_smaller_ones_until_they_do_not()
    {
        var size = Backpressure.LargestBatch;
        for (var batch = 0; batch < 10; batch++)
        {
            size = Backpressure.NextSize(size, Duration.FromSeconds(38));
        }

        size.ShouldBe(Backpressure.SmallestBatch, "a thousand clicks once took so long");
        Backpressure.NextSize(size, Duration.FromSeconds(1)).ShouldBe(2 * size);
        Backpressure.NextSize(Backpressure.LargestBatch, Duration.FromSeconds(3)).ShouldBe(Backpressure.LargestBatch, "so many take as long as that");
    }

    [Fact]
    public void A_journal_that_is_half_full_is_emptied_whatever_it_costs() =>
        Backpressure.Rest(busy: 1, waited: Duration.FromSeconds(1), fullness: 0.51, Batch).ShouldBe(Duration.Zero);
}
