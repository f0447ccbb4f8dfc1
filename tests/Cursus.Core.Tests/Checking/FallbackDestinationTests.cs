using Cursus.Core.Checking;
using NodaTime;

namespace Cursus.Core.Tests.Checking;

/// <summary>Where visitors of dead pages are led, and when certificates need care.</summary>
public class FallbackDestinationTests
{
    [Theory]
    [InlineData(
        "https://www.northmoor.example/shop",
        "https://lensworks.example/kit?utm_source=perch&utm_medium=social&utm_campaign=raffle&utm_content=b#specs",
        "https://www.northmoor.example/shop?utm_source=perch&utm_medium=social&utm_campaign=raffle&utm_content=b"
    )]
    [InlineData(
        "https://www.northmoor.example/shop?lang=en&utm_source=site#top",
        "https://lensworks.example/kit?utm_source=perch&utm_medium=social&utm_campaign=raffle",
        "https://www.northmoor.example/shop?lang=en&utm_source=perch&utm_medium=social&utm_campaign=raffle#top"
    )]
    [InlineData("www.northmoor.example/shop", "https://lensworks.example/kit", "https://www.northmoor.example/shop")]
    public void The_fallback_is_counted_like_the_page_it_stands_for(string fallback, string finished, string expected) =>
        FallbackDestination.For(fallback, finished).ShouldBe(expected);

    [Theory]
    [InlineData(301, 302)]
    [InlineData(302, 302)]
    [InlineData(307, 307)]
    [InlineData(308, 307)]
    public void Nobody_is_told_that_the_page_has_moved_there_for_good(short ofLink, short meanwhile) =>
        FallbackDestination.Redirect(ofLink).ShouldBe(meanwhile);

    [Theory]
    [InlineData(-1, true)]
    [InlineData(14, true)]
    [InlineData(15, false)]
    public void A_certificate_needs_care_when_it_ends_within_fourteen_days(int days, bool endsSoon)
    {
        var now = Instant.FromUtc(2026, 11, 26, 9, 0);
        CertificateCare.EndsSoon(now + Duration.FromDays(days), now).ShouldBe(endsSoon);
    }
}
