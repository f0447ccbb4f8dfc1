using Cursus.Core.Clicks.Requests;

namespace Cursus.Core.Tests.Clicks;

/// <summary>Which hosts belong to which network is known from memory; see the list itself.</summary>
public class ReferrerSiteTests
{
    [Theory]
    [InlineData("", SiteKind.None)]
    [InlineData("blog.lensworks.example", SiteKind.Other)]
    [InlineData("notfacebook.com", SiteKind.Other)]
    public void What_nobody_knows_is_another_site_by_its_own_name(string host, SiteKind kind) =>
        ReferrerSite.Of(host).ShouldBe(new ReferrerSite(kind, host));

    [Theory]
    [InlineData("l.facebook.com", "facebook.com")]
    [InlineData("lm.facebook.com", "com.facebook.katana")]
    [InlineData("out.reddit.com", "www.reddit.com")]
    [InlineData("t.co", "mobile.twitter.com")]
    public void Wrappers_and_apps_belong_to_their_network(string host, string same) => ReferrerSite.Of(host).ShouldBe(ReferrerSite.Of(same));

    [Fact]
    public void The_most_particular_name_decides()
    {
        ReferrerSite.Of("mail.google.com").Kind.ShouldBe(SiteKind.Mail);
        ReferrerSite.Of("www.google.com").Kind.ShouldBe(SiteKind.Search);
    }
}
