using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Web.Demo;
using NodaTime;

namespace Cursus.Web.Tests.Demo;

public class DemoScenarioTests
{
    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];
    private static readonly Instant Now = Instant.FromUtc(2026, 11, 23, 12, 0);
    private static readonly DemoScenario Scenario = DemoScenario.Read(Path.Combine(Repository.Root, "demo"));

    [Theory]
    [InlineData(2026, 11, 23)]
    [InlineData(2028, 2, 29)]
    [InlineData(2027, 1, 1)]
    public void On_whatever_day_it_is_loaded_the_demo_covers_the_400_days_before(int year, int month, int day)
    {
        var today = new LocalDate(year, month, day);
        var calendar = DemoCalendar.Of(Scenario, today);
        calendar.Count.ShouldBeInRange(115, 125);
        calendar.Sum(p => p.Post.Channels.Count).ShouldBeInRange(460, 490);
        calendar.ShouldAllBe(p => p.Day <= today && p.Day >= today.PlusDays(-400));
        calendar.ShouldAllBe(p => p.Campaign.Key == p.Post.Campaign);
    }

    [Fact]
    public void What_the_story_of_the_last_days_rests_on_is_not_left_to_chance_on_whatever_day_it_is_loaded()
    {
        foreach (var today in Enumerable.Range(0, 366).Select(new LocalDate(2027, 12, 1).PlusDays))
        {
            var told = DemoCalendar.Of(Scenario, today).Where(p => p.Day > today.PlusDays(-56)).ToList();
            told.ShouldAllBe(p => p.Post.Clicks != null && p.Post.Channels.All(p.Post.Clicks.ContainsKey), $"{today}");
            var (first, second) = (Sum("guildhall"), Sum("hearthside"));
            first.ShouldBeGreaterThan(second * 3 / 2, $"{today}");

            int Sum(string channel) => told.Where(p => p.Day > today.PlusDays(-28)).Sum(p => p.Post.Clicks!.GetValueOrDefault(channel));
        }
    }

    [Fact]
    public void Every_name_in_a_post_exists_and_every_value_is_a_good_tag()
    {
        var channels = Scenario.Channels.Select(c => c.Key).ToHashSet();
        var members = Scenario.Workspace.Members.Select(m => m.Name).ToHashSet();
        foreach (var (_, post, campaign) in DemoCalendar.Of(Scenario, Now.InZone(London).Date))
        {
            post.Channels.Select(c => c.Split('/')[0]).ShouldBeSubsetOf(channels);
            post.Tags.ShouldBeSubsetOf(Scenario.Workspace.Tags);
            members.ShouldContain(post.By);
            Scenario.Workspace.Sites.Keys.ShouldContain(post.Page.Split('/')[0]);
            TagValue.TryParse(campaign.Key, out _, out _).ShouldBeTrue();
            (post.Title + post.Page).ShouldNotContain("{");
        }
    }

    [Fact]
    public void All_hosts_and_addresses_of_the_demo_belong_to_nobody()
    {
        Scenario
            .Workspace.Domains.Select(d => d.Name)
            .Concat(Scenario.Workspace.Sites.Values)
            .ShouldAllBe(host => host.EndsWith(".localhost", StringComparison.Ordinal) || host.EndsWith(".example", StringComparison.Ordinal));
        Scenario.Workspace.Members.ShouldAllBe(m => m.Email.EndsWith("@northmoor.example", StringComparison.Ordinal));
    }

    [Fact]
    public void Visitors_of_the_demo_are_what_their_user_agents_say()
    {
        Scenario.Agents.Machines.ShouldAllBe(a => UserAgentKind.Of(a) == ClickKind.Machine);
        Scenario.Agents.Previews.ShouldAllBe(a => UserAgentKind.Of(a) == ClickKind.Preview);
        Scenario.Agents.Phones.Concat(Scenario.Agents.Desktops).ShouldAllBe(a => UserAgentKind.Of(a) == ClickKind.Person);
        Scenario.Agents.Countries.ShouldBeSubsetOf(CountryNames.Codes);
    }

    [Fact]
    public void The_same_seed_makes_the_same_clicks() => Clicks(seed: 7).ShouldBe(Clicks(seed: 7));

    [Fact]
    public void Clicks_come_after_posting_and_before_now_and_half_of_them_within_about_the_half_life()
    {
        var posted = Now - Duration.FromDays(60);
        foreach (var channel in Scenario.Channels.Where(c => c.HalfLifeHours is > 4 and < 200))
        {
            var clicks = new DemoTraffic(Scenario, London, Now, 3)
                .On(Guid.Empty, channel, posted, appeal: 4, exactly: null)
                .Where(c => c.Kind == ClickKind.Person)
                .ToList();
            clicks.ShouldAllBe(c => c.At >= posted && c.At < Now);
            var early = clicks.Count(c => c.At - posted <= Duration.FromHours(channel.HalfLifeHours)) / (double)clicks.Count;
            early.ShouldBeInRange(0.25, 0.75, channel.Key);
        }
    }

    [Fact]
    public void Where_the_story_needs_a_number_exactly_so_many_people_click()
    {
        var channel = Scenario.Channels.Single(c => c.Key == "guildhall");
        new DemoTraffic(Scenario, London, Now, 3)
            .On(Guid.Empty, channel, Now - Duration.FromDays(40), 1, exactly: 208)
            .Count(c => c.Kind == ClickKind.Person)
            .ShouldBe(208);
    }

    private static List<Click> Clicks(int seed) =>
        [.. new DemoTraffic(Scenario, London, Now, seed).On(Guid.Empty, Scenario.Channels[0], Now - Duration.FromDays(9), appeal: 1, exactly: null)];
}
