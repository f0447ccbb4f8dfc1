using CsCheck;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;

namespace Cursus.Core.Tests.Retargeting;

public class HandoffTicketTests
{
    [Fact]
    public void A_ticket_comes_back_as_it_was_and_needs_no_escaping_anywhere() =>
        Gen.Select(Gen.Byte, Gen.Guid.Array[0, HandoffReport.MostPixels])
            .Sample(
                (page, pixels) =>
                {
                    var text = new HandoffTicket((LinkPage)page, pixels).ToString();
                    Uri.EscapeDataString(text).ShouldBe(text);
                    text.Length.ShouldBeLessThanOrEqualTo(HandoffTicket.MaxLength);
                    HandoffTicket.TryParse(text, out var read).ShouldBeTrue();
                    read!.Page.ShouldBe((LinkPage)page);
                    read.Pixels.ShouldBe(pixels);
                }
            );

    [Fact]
    public void Whatever_is_sent_instead_is_refused_and_never_a_fault() =>
        Gen.String[Gen.Char["0123.Aé-_= "], 0, 60]
            .Sample(text =>
            {
                if (HandoffTicket.TryParse(text, out var read))
                {
                    HandoffTicket.TryParse(read.ToString(), out var again).ShouldBeTrue();
                    again!.Page.ShouldBe(read.Page);
                    again.Pixels.ShouldBe(read.Pixels);
                }
            });

    [Fact]
    public void No_more_pixels_are_read_than_can_fire() =>
        HandoffTicket
            .TryParse(new HandoffTicket(LinkPage.Destination, [.. Enumerable.Repeat(Guid.NewGuid(), HandoffReport.MostPixels + 1)]).ToString(), out _)
            .ShouldBeFalse();
}
