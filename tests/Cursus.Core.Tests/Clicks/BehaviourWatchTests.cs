using CsCheck;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using NodaTime;

namespace Cursus.Core.Tests.Clicks;

/// <summary>Programs are known by what they do, and nobody who reads is taken for one.</summary>
public class BehaviourWatchTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 11, 2, 12, 0);
    private static readonly Guid Workspace = Guid.NewGuid();
    private static readonly Guid[] Links = [.. Enumerable.Range(0, 12).Select(_ => Guid.NewGuid())];

    private readonly BehaviourWatch watch = new();

    [Fact]
    public void Who_opens_every_link_of_a_message_at_once_is_a_program_from_the_first_link_on()
    {
        var (kinds, swept) = Watch([.. Enumerable.Range(0, 6).Select(i => Click(i, link: i, visitor: 7, after: 0.2 * i))]);
        kinds.ShouldBe([ClickKind.Person, ClickKind.Person, ClickKind.Person, ClickKind.Sweep, ClickKind.Sweep, ClickKind.Sweep]);
        swept.ShouldBe([0, 1, 2], ignoreOrder: true);
    }

    [Fact]
    public void A_sweep_goes_on_until_there_is_a_rest()
    {
        var click = Enumerable.Range(0, 5).Select(i => Click(i, link: i, visitor: 7, after: 0.1 * i)).ToList();
        click.Add(Click(5, link: 0, visitor: 7, after: 1.4));
        click.Add(Click(6, link: 1, visitor: 7, after: 2.7));
        Watch(click).Kinds[5..].ShouldBe([ClickKind.Sweep, ClickKind.Person]);
    }

    /// <summary>However quickly somebody clicks, pointing at the next link takes its time.</summary>
    [Fact]
    public void Nobody_who_needs_as_long_as_a_hand_does_is_ever_a_program() =>
        Gen.Select(Gen.Double[0.601, 3], Gen.Int[0, Links.Length - 1])
            .Array[2, 40]
            .Sample(steps =>
            {
                var (at, person) = (0.0, new BehaviourWatchTests());
                var read = steps.Select((step, i) => Click(i, step.Item2, visitor: 7, after: at += step.Item1)).ToList();
                return person.Watch(read) is { Kinds: var kinds, Swept.Count: 0 } && kinds.TrueForAll(k => k == ClickKind.Person);
            });

    [Fact]
    public void A_double_click_and_reloading_the_same_links_are_no_sweep()
    {
        var reloads = Enumerable.Range(0, 30).Select(i => Click(i, link: i % 3, visitor: 7, after: 0.1 * i)).ToList();
        Watch(reloads).Kinds.ShouldAllBe(k => k == ClickKind.Person);
    }

    [Fact]
    public void Addresses_that_change_within_a_network_hide_no_program()
    {
        var (kinds, swept) = Watch([.. Enumerable.Range(0, 6).Select(i => Click(i, link: i, visitor: i, after: 0.2 * i, network: 5))]);
        kinds[4..].ShouldAllBe(k => k == ClickKind.Sweep);
        swept.Count.ShouldBe(4);
    }

    [Fact]
    public void A_crowd_behind_one_network_that_reads_the_same_message_is_no_program()
    {
        var random = new Random(3);
        var crowd = Enumerable.Range(0, 400).Select(i => Click(i, link: random.Next(3), visitor: i, after: 0.1 * i, network: 5)).ToList();
        Watch(crowd).Kinds.ShouldAllBe(k => k == ClickKind.Person);
    }

    [Fact]
    public void Different_browsers_of_one_network_are_different_people()
    {
        Watch([.. Enumerable.Range(0, 8).Select(i => Click(i, link: i, visitor: i, after: 0.1 * i, network: 5) with { Agent = i })])
            .Kinds.ShouldAllBe(k => k == ClickKind.Person);
    }

    [Fact]
    public void Links_of_different_workspaces_belong_to_different_messages()
    {
        Watch([.. Enumerable.Range(0, 8).Select(i => Click(i, link: i, visitor: 7, after: 0.1 * i, network: 5) with { Workspace = Guid.NewGuid() })])
            .Kinds.ShouldAllBe(k => k == ClickKind.Person);
    }

    [Theory]
    [InlineData(7, 0, 2, ClickKind.Probe)]
    [InlineData(7, 0, 11, ClickKind.Person)]
    [InlineData(8, 0, 2, ClickKind.Person)]
    [InlineData(7, 1, 2, ClickKind.Person)]
    public void Who_asks_for_the_headers_first_is_a_program(int visitor, int link, double after, ClickKind expected)
    {
        var head = Click(0, link: 0, visitor: 7, after: 0) with { Kind = ClickKind.Head };
        Watch([head, Click(1, link, visitor, after)]).Kinds.ShouldBe([ClickKind.Head, expected]);
    }

    [Theory]
    [InlineData(8, 0, 0.9, ClickKind.Echo)]
    [InlineData(8, 0, 1.1, ClickKind.Person)]
    [InlineData(8, 0, -0.1, ClickKind.Person)]
    [InlineData(8, 1, 0.9, ClickKind.Person)]
    [InlineData(7, 0, 0.9, ClickKind.Person)]
    public void Somebody_elses_click_right_after_the_teams_is_an_echo_of_it(int visitor, int link, double after, ClickKind expected)
    {
        var team = Click(0, link: 0, visitor: 7, after: 0) with { Kind = ClickKind.Team };
        Watch([team, Click(1, link, visitor, after)]).Kinds.ShouldBe([ClickKind.Team, expected]);
    }

    [Fact]
    public void Programs_are_found_among_any_number_of_people()
    {
        var all = new List<WatchedClick>();
        for (var second = 0; second < 400; second++)
        {
            all.AddRange(
                Enumerable
                    .Range(0, 300)
                    .Select(i => Click(0, link: i % 12, visitor: 1000 + second * 300 + i, after: second + i / 300.0, network: 1 + i))
            );
            all.AddRange(Enumerable.Range(0, 4).Select(i => Click(0, link: i, visitor: -1 - second, after: second + 0.3 * i)));
        }

        var inTime = all.OrderBy(c => c.At).ToList();
        var kinds = Watch(inTime).Kinds;
        inTime.Zip(kinds).Where(c => c.Second == ClickKind.Sweep).ShouldAllBe(c => c.First.Visitor < 0);
        kinds.Count(k => k == ClickKind.Sweep).ShouldBe(400);
    }

    private (List<ClickKind> Kinds, List<long> Swept) Watch(IReadOnlyList<WatchedClick> seen)
    {
        var swept = new List<(long Id, Instant At)>();
        return (seen.Select(c => watch.Judge(c, swept)).ToList(), swept.ConvertAll(s => s.Id));
    }

    private static WatchedClick Click(int id, int link, int visitor, double after, int network = 0) =>
        new(id, Noon + Duration.FromSeconds(after), Links[link], Workspace, visitor, network, Agent: 1, ClickKind.Person);
}
