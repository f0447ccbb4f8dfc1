using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Batches;

namespace Cursus.Core.Tests.Batches;

/// <summary>A spreadsheet of old links says how somebody tags, slips included.</summary>
public class VocabularyProposalTests
{
    private static readonly OldTags[] Old =
    [
        .. Repeated(6, new("guildhall", "social", "winter-members")),
        .. Repeated(2, new("Guildhall", "social", "Winter Members")),
        .. Repeated(4, new("night-letter", "email", "winter-members", null, "logo")),
        .. Repeated(1, new("night-leter", "email", "geminids")),
        .. Repeated(3, new("guildhall", "cpc", "geminids")),
        .. Repeated(1, new(null, "social", null)),
    ];

    [Fact]
    public void Channels_are_the_pairs_of_source_and_medium_in_any_spelling()
    {
        Proposal()
            .Channels.Select(c => $"{c.Name}: {c.Source}/{c.Medium}, {c.Links}{(c.IsKnown ? ", known" : "")}")
            .ShouldBe(["Guildhall social: guildhall/social, 8", "Night letter: night-letter/email, 5", "Guildhall cpc: guildhall/cpc, 3"]);
        Proposal(channels: [("night-letter", "email")]).Channels.Single(c => c.IsKnown).Source.ShouldBe("night-letter");
    }

    [Fact]
    public void Campaigns_are_counted_with_all_their_spellings() =>
        Proposal().Campaigns.Select(c => $"{c.Name}: {c.Value}, {c.Links}").ShouldBe(["Winter members: winter-members, 12", "Geminids: geminids, 4"]);

    [Fact]
    public void The_rarer_spelling_is_merged_into_the_more_frequent() =>
        Proposal()
            .Merges.Select(m => $"{m.Field} {m.From} > {m.Into}, {m.Kind}, {m.Links}")
            .ShouldBe(
                [
                    "Source Guildhall > guildhall, Spelling, 2",
                    "Campaign Winter Members > winter-members, Spelling, 2",
                    "Source night-leter > night-letter, Typo, 1",
                ],
                ignoreOrder: true
            );

    [Fact]
    public void An_agreed_value_wins_however_rare_it_is()
    {
        var proposal = Proposal(agreed: ["Guildhall"]);
        proposal.Merges.ShouldContain(m => m.From == "guildhall" && m.Into == "Guildhall");
        proposal.Merges.ShouldNotContain(m => m.From == "Guildhall");
    }

    /// <summary>Random lists: no value is merged into one that is merged itself, and every link is counted once.</summary>
    [Fact]
    public void No_merge_follows_another_and_no_link_is_lost()
    {
        var random = new Random(24);
        foreach (var _ in Enumerable.Range(0, 200))
        {
            var links = Enumerable.Range(0, 60).Select(_ => new OldTags(Word(random), "social", Word(random))).ToList();
            var proposal = VocabularyProposal.Of(links, field => [], new HashSet<(string, string)>());
            var given = proposal.Merges.Select(m => (m.Field, m.From)).ToHashSet();
            proposal.Merges.ShouldAllBe(m => !given.Contains(new ValueTuple<TagField, string>(m.Field, m.Into)));
            proposal.Channels.Sum(c => c.Links).ShouldBe(60);
            proposal.Campaigns.Sum(c => c.Links).ShouldBe(60);
        }
    }

    private static string Word(Random random)
    {
        string[] words = ["harbour-night", "members", "planets"];
        var word = words[random.Next(3)];
        return random.Next(4) switch
        {
            0 => word.ToUpperInvariant(),
            1 => word.Remove(random.Next(word.Length), 1),
            2 => word.Replace('-', '_'),
            _ => word,
        };
    }

    private static IEnumerable<OldTags> Repeated(int times, OldTags tags) => Enumerable.Repeat(tags, times);

    private static VocabularyProposal Proposal(string[]? agreed = null, HashSet<(string, string)>? channels = null) =>
        VocabularyProposal.Of(Old, field => field == TagField.Source ? agreed ?? [] : [], channels ?? []);
}
