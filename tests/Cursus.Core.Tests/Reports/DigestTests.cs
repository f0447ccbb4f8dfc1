using Cursus.Core.Reports;

namespace Cursus.Core.Tests.Reports;

public class DigestTests
{
    [Fact]
    public void It_says_what_led_what_changed_what_is_too_close_what_died_and_what_nobody_clicked()
    {
        var channels = Breakdown.Of(
            [Group("guildhall", 300, 290), Group("perch", 120, 40), Group("hearthside", 118, 125)],
            units: Posts.Units(("guildhall", [60, 55, 62, 58, 65]), ("perch", [30, 10, 25, 35, 20]), ("hearthside", [10, 40, 20, 8, 40]))
        );
        var posts = Breakdown.Of([Group("Orion", 400, 0), Group("Saturn", 3, 90), Group("Pleiades", 0, 0, placements: 2), Group("Moon", 135, 365)]);
        var changes = new Dictionary<string, Verdict>
        {
            ["perch"] = new(3, 2, 4, 0.01, VerdictCall.Clear, (5, 5), false, null),
            ["guildhall"] = new(1.1, 0.8, 1.4, 0.5, VerdictCall.TooClose, (5, 5), false, null),
        };
        var digest = Digest.Of(channels, posts, changes, []);
        digest.Headline.ShouldBe("guildhall led with 300 clicks");
        digest
            .Sections.Select(s => $"{s.Heading}: {string.Join(" | ", s.Lines.Select(l => l.Text))}")
            .ShouldBe([
                "What led: guildhall brought the most: 300 clicks (55.8%). Its lead over perch is clear: with posts like these it would come out ahead again, by a factor of 2.50 (1.51 to 4.11). | “Orion” brought 400 clicks. | “Moon” brought 135 clicks. | “Saturn” brought 3 clicks.",
                "What changed: All channels: 538 clicks, after 455 the week before (+18.2%). | perch: 120 clicks, after 40 the week before (+200%).",
                "Too close to call: perch and hearthside: 120 clicks against 118.",
                "What died: “Saturn”: 3 clicks, after 90 the week before.",
                "Published but not clicked: “Pleiades”",
            ]);
        digest.Sections[3].Lines[0].ShouldBe(new("“Saturn”: 3 clicks, after 90 the week before.", "post", "Saturn"));
    }

    [Fact]
    public void A_week_without_anything_says_so_and_no_more()
    {
        var nothing = Breakdown.Of([]);
        var digest = Digest.Of(nothing, nothing, NoChanges, []);
        digest.Headline.ShouldBe("a week without clicks");
        digest.Sections.Select(s => (s.Heading, s.Lines.Single().Text)).ShouldBe([("What led", "No clicks in this period.")]);
    }

    [Fact]
    public void What_needs_care_comes_right_after_the_answer_and_no_more_of_it_than_can_be_read_in_passing()
    {
        var nothing = Breakdown.Of([]);
        Digest.Of(nothing, nothing, NoChanges, ["One page is gone."]).Sections[1].Lines.Select(l => l.Text).ShouldBe(["One page is gone."]);
        var care = Digest.Of(nothing, nothing, NoChanges, [.. Enumerable.Range(1, 8).Select(n => $"Page {n} is gone.")]).Sections[1];
        care.Heading.ShouldBe("Needs attention");
        care.Lines.Select(l => l.Text)
            .ShouldBe(["Page 1 is gone.", "Page 2 is gone.", "Page 3 is gone.", "Page 4 is gone.", "Page 5 is gone.", "And 3 more."]);
    }

    [Fact]
    public void Small_numbers_are_never_called_a_change_nor_a_death()
    {
        var few = Breakdown.Of([Group("perch", 1, 7)]);
        Digest.Of(few, few, NoChanges, []).Sections.Select(s => s.Heading).ShouldBe(["What led", "What changed"]);
        Digest.Of(few, few, NoChanges, []).Sections[1].Lines.Count.ShouldBe(1, "only the sum");
    }

    [Fact]
    public void Clicks_that_belong_nowhere_lead_nothing_and_die_of_nothing()
    {
        var rest = Breakdown.Of([Group("", 500, 900), Group("perch", 20, 22)]);
        var digest = Digest.Of(rest, rest, NoChanges, []);
        digest.Headline.ShouldBe("perch led with 20 clicks");
        digest.Sections.SelectMany(s => s.Lines).ShouldAllBe(l => l.Key != "");
    }

    private static readonly Dictionary<string, Verdict> NoChanges = [];

    private static GroupCount Group(string name, long clicks, long before, int placements = 1) =>
        new(name, name, clicks, null, before, placements, placements);
}
