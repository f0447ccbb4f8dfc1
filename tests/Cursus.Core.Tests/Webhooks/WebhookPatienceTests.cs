using Cursus.Core.Webhooks;

namespace Cursus.Core.Tests.Webhooks;

public class WebhookPatienceTests
{
    [Fact]
    public void A_message_is_tried_again_after_growing_pauses_for_three_days_and_no_longer()
    {
        var (age, pauses) = (TimeSpan.Zero, new List<TimeSpan>());
        while (WebhookPatience.Next(pauses.Count + 1, age) is { } pause)
        {
            pauses.Add(pause);
            age += pause;
        }

        pauses[0].ShouldBe(TimeSpan.FromSeconds(30));
        pauses.SequenceEqual(pauses.Order()).ShouldBeTrue("no pause is shorter than the one before");
        pauses[^1].ShouldBe(TimeSpan.FromHours(6));
        age.ShouldBeInRange(TimeSpan.FromDays(2.5), TimeSpan.FromDays(3));
        pauses.Count.ShouldBeInRange(15, 30, "often at first, and not a burden afterwards");
    }
}
