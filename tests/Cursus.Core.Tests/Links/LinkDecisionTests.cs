using System.Text;
using Cursus.Core.Addresses;
using Cursus.Core.Links;
using NodaTime;

namespace Cursus.Core.Tests.Links;

/// <summary>Who gets what of a link, at what time.</summary>
public class LinkDecisionTests
{
    private const string Sale = "https://northmoor.example/sale?utm_source=perch";
    private const string All = "https://northmoor.example/all?utm_source=perch";
    private static readonly Instant Opens = Instant.FromUtc(2026, 12, 4, 9, 0);
    private static readonly Instant Ends = Instant.FromUtc(2026, 12, 6, 18, 0);
    private static readonly LinkSchedule Weekend = new(Opens, Ends);

    /// <param name="link">What is so of the link beside its destination.</param>
    [Theory]
    [InlineData("", "any time", LinkResponseKind.Redirect, LinkRule.Destination, Sale, 301)]
    [InlineData("fallback", "any time", LinkResponseKind.Redirect, LinkRule.Destination, Sale, 301)]
    [InlineData("dead", "any time", LinkResponseKind.Redirect, LinkRule.Destination, Sale, 301)]
    [InlineData("dead fallback", "any time", LinkResponseKind.Redirect, LinkRule.DeadPage, All, 302)]
    [InlineData("deleted fallback", "any time", LinkResponseKind.EndedPage, LinkRule.Deleted, "", 0)]
    [InlineData("schedule", "before", LinkResponseKind.ScheduledPage, LinkRule.Scheduled, "", 0)]
    [InlineData("schedule", "before, team", LinkResponseKind.Redirect, LinkRule.Destination, Sale, 302)]
    [InlineData("schedule", "at opening", LinkResponseKind.Redirect, LinkRule.Destination, Sale, 302)]
    [InlineData("schedule", "at its end", LinkResponseKind.EndedPage, LinkRule.Ended, "", 0)]
    [InlineData("schedule", "at its end, team", LinkResponseKind.EndedPage, LinkRule.Ended, "", 0)]
    [InlineData("schedule fallback", "before", LinkResponseKind.Redirect, LinkRule.Scheduled, All, 302)]
    [InlineData("schedule fallback", "before, team", LinkResponseKind.Redirect, LinkRule.Destination, Sale, 302)]
    [InlineData("schedule fallback", "within", LinkResponseKind.Redirect, LinkRule.Destination, Sale, 302)]
    [InlineData("schedule fallback", "at its end", LinkResponseKind.Redirect, LinkRule.Ended, All, 302)]
    [InlineData("schedule dead fallback", "within", LinkResponseKind.Redirect, LinkRule.DeadPage, All, 302)]
    [InlineData("schedule dead fallback", "before, team", LinkResponseKind.Redirect, LinkRule.DeadPage, All, 302)]
    [InlineData("schedule dead", "within", LinkResponseKind.Redirect, LinkRule.Destination, Sale, 302)]
    public void A_visitor_is_led_where_the_link_leads_at_that_time(
        string link,
        string visit,
        LinkResponseKind kind,
        LinkRule rule,
        string address,
        int status
    )
    {
        var now = visit.Split(',')[0] switch
        {
            "before" => Opens - Duration.FromMilliseconds(1),
            "at opening" => Opens,
            "at its end" => Ends,
            _ => Ends - Duration.FromMilliseconds(1),
        };
        var decision = LinkDecision.Of(Target(link), now, visit.EndsWith("team", StringComparison.Ordinal));
        (decision.Kind, decision.Rule, Encoding.UTF8.GetString(decision.Address), (int)decision.Status).ShouldBe((kind, rule, address, status));
        decision.LeadsOn.ShouldBe(address.Length > 0, "what leads nowhere is no click");
    }

    /// <summary>RFC 9110, section 15.4: what may change again is no redirect for good.</summary>
    [Theory]
    [InlineData(301, 302)]
    [InlineData(302, 302)]
    [InlineData(307, 307)]
    [InlineData(308, 307)]
    public void A_link_that_may_lead_elsewhere_is_never_redirected_for_good(short own, short meanwhile)
    {
        LinkDecision.Of(Target("", own), Opens, isTeam: false).Status.ShouldBe(own);
        LinkDecision.Of(Target("dead fallback", own), Opens, isTeam: false).Status.ShouldBe(meanwhile);
        LinkDecision.Of(Target("schedule", own), Opens, isTeam: false).Status.ShouldBe(meanwhile);
    }

    [Theory]
    [InlineData(ReferrerPassing.Keep, LinkResponseKind.Redirect, false)]
    [InlineData(ReferrerPassing.Hide, LinkResponseKind.Redirect, true)]
    [InlineData(ReferrerPassing.HideByPage, LinkResponseKind.OnwardPage, true)]
    public void Pixels_and_hidden_referrers_lead_on_by_a_page(ReferrerPassing referrer, LinkResponseKind kind, bool hides)
    {
        var decision = LinkDecision.Of(Target("", referrer: referrer), Opens, isTeam: false);
        (decision.Kind, decision.HidesReferrer).ShouldBe((kind, hides));
        foreach (var handoff in Enum.GetValues<HandoffCourse>())
        {
            var handed = decision.With(handoff);
            handed.Kind.ShouldBe(handoff is HandoffCourse.Ask or HandoffCourse.Fire ? LinkResponseKind.HandoffPage : kind);
            (handed.HidesReferrer, Encoding.UTF8.GetString(handed.Address)).ShouldBe((hides, Sale));
        }

        LinkDecision.Of(Target("deleted"), Opens, isTeam: false).With(HandoffCourse.Fire).Kind.ShouldBe(LinkResponseKind.EndedPage);
    }

    [Fact]
    public void What_the_visitor_brings_along_is_passed_on_as_the_link_says()
    {
        LinkDecision.Of(Target(""), Opens, isTeam: false).AddressWith("?ref=stall").ShouldBe(Sale);
        LinkDecision.Of(Target("pass"), Opens, isTeam: false).AddressWith("?ref=stall").ShouldBe(Sale + "&ref=stall");
        LinkDecision.Of(Target("pass"), Opens, isTeam: false).AddressWith("").ShouldBe(Sale);
    }

    [Theory]
    [InlineData("", LinkPage.Destination, false, Sale)]
    [InlineData("fallback", LinkPage.Fallback, false, All)]
    [InlineData("", LinkPage.Fallback, false, Sale)]
    [InlineData("", (LinkPage)9, false, Sale)]
    [InlineData("dead fallback", LinkPage.Destination, false, Sale)]
    [InlineData("schedule", LinkPage.Destination, false, null)]
    [InlineData("schedule", LinkPage.Destination, true, Sale)]
    [InlineData("schedule fallback", LinkPage.Fallback, false, All)]
    [InlineData("deleted", LinkPage.Destination, false, null)]
    public void What_was_decided_holds_for_the_later_steps_of_a_visit(string link, LinkPage page, bool isTeam, string? address)
    {
        var decision = LinkDecision.Again(Target(link), page, Opens - Duration.FromDays(1), isTeam);
        (decision.LeadsOn ? Encoding.UTF8.GetString(decision.Address) : null).ShouldBe(address);
    }

    private static LinkTarget Target(string what, short redirect = 301, ReferrerPassing referrer = ReferrerPassing.Keep) =>
        new()
        {
            IsDeleted = what.Contains("deleted", StringComparison.Ordinal),
            Destination = Encoding.UTF8.GetBytes(Sale),
            Fallback = what.Contains("fallback", StringComparison.Ordinal) ? Encoding.UTF8.GetBytes(All) : [],
            IsDead = what.Contains("dead", StringComparison.Ordinal),
            Schedule = what.Contains("schedule", StringComparison.Ordinal) ? Weekend : LinkSchedule.Always,
            Redirect = redirect,
            PassQuery = what.Contains("pass", StringComparison.Ordinal) ? QueryPassing.LinkWins : QueryPassing.Off,
            Referrer = referrer,
        };
}
