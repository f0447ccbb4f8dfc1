using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Core.Tests.Clicks;

public class ShippingPaceTests
{
    private static readonly Duration Batch = Duration.FromMilliseconds(400);

    [Fact]
    public void Clicks_wait_while_answering_needs_the_processors() =>
        ShippingPace.Rest(busy: 0.9, waited: Duration.FromSeconds(1), fullness: 0.1, Batch).ShouldBe(Duration.MaxValue);

    [Fact]
    public void They_go_at_once_where_there_is_time_to_spare() =>
        ShippingPace.Rest(busy: 0.3, waited: Duration.FromSeconds(3), fullness: 0.1, Batch).ShouldBe(Duration.Zero);

    [Fact]
    public void The_longer_they_have_waited_the_less_they_rest()
    {
        var rests = new[] { 4, 5, 299, 300, 3600 }.Select(s => ShippingPace.Rest(0.9, Duration.FromSeconds(s), 0.1, Batch)).ToList();
        rests.ShouldBe([Duration.MaxValue, Batch * 3, Batch * 3, Duration.Zero, Duration.Zero]);
    }

    [Theory]
    [InlineData(0.95, 0.9, 0.97, 0.1, 0.96, 0.95)]
    [InlineData(0.95, 0.1, 0.97, 0.1, 0.96, 0.95)]
    [InlineData(0.95, 0.9, 0.1, 0.1, 0.1, 0.1)]
    public void One_idle_moment_does_not_make_the_machine_idle(double one, double two, double three, double four, double five, double busy) =>
        ShippingPace.BusyBy([one, two, three, four, five]).ShouldBe(busy);

    [Fact]
    public void The_first_look_is_taken_for_what_it_is() => ShippingPace.BusyBy([0.2]).ShouldBe(0.2);

    [Fact]
    public void Batches_that_take_too_long_are_followed_by_smaller_ones_until_they_do_not()
    {
        var size = ShippingPace.LargestBatch;
        for (var batch = 0; batch < 10; batch++)
        {
            size = ShippingPace.NextSize(size, Duration.FromSeconds(38));
        }

        size.ShouldBe(ShippingPace.SmallestBatch, "a thousand clicks once took so long");
        ShippingPace.NextSize(size, Duration.FromSeconds(1)).ShouldBe(2 * size);
        ShippingPace.NextSize(ShippingPace.LargestBatch, Duration.FromSeconds(3)).ShouldBe(ShippingPace.LargestBatch, "so many take as long as that");
    }

    [Fact]
    public void A_journal_that_is_half_full_is_emptied_whatever_it_costs() => ShippingPace.Rest(busy: 1, waited: Duration.FromSeconds(1), fullness: 0.51, Batch).ShouldBe(Duration.Zero);
}
