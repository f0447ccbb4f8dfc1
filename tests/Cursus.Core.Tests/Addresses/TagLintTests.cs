using Cursus.Core.Addresses.Tagging;
using NodaTime;

namespace Cursus.Core.Tests.Addresses;

public class TagLintTests
{
    private static readonly string[] Agreed = ["winter-members", "perseid-nights", "social", "email", "cpc", "night-letter-2026-11"];

    [Theory]
    [InlineData("Winter-Members", "winter-members", TagSlipKind.Spelling)]
    [InlineData("winter_members", "winter-members", TagSlipKind.Spelling)]
    [InlineData("winter members", "winter-members", TagSlipKind.Spelling)]
    [InlineData("wintermembers", "winter-members", TagSlipKind.Spelling)]
    [InlineData("perséid nights", "perseid-nights", TagSlipKind.Spelling)]
    [InlineData("E-Mail", "email", TagSlipKind.Spelling)]
    [InlineData("soical", "social", TagSlipKind.Typo)]
    [InlineData("socal", "social", TagSlipKind.Typo)]
    [InlineData("sociial", "social", TagSlipKind.Typo)]
    [InlineData("sociel", "social", TagSlipKind.Typo)]
    [InlineData("emails", "email", TagSlipKind.Typo)]
    public void A_slip_is_traced_to_the_agreed_value(string typed, string agreed, TagSlipKind kind) =>
        TagLint.Find(typed, Agreed).ShouldBe(new TagSlip(agreed, kind));

    [Theory]
    [InlineData("social")]
    [InlineData("spring-members")]
    [InlineData("cpm")]
    [InlineData("night-letter-2026-12")]
    [InlineData("night-letter-2027-11")]
    [InlineData("soicla")]
    public void What_is_agreed_or_meant_otherwise_is_no_slip(string typed) => TagLint.Find(typed, Agreed).ShouldBeNull();

    [Fact]
    public void A_value_that_is_agreed_beside_a_similar_one_is_no_slip_in_either_order()
    {
        TagLint.Find("emails", ["email", "emails"]).ShouldBeNull();
        TagLint.Find("emails", ["emails", "email"]).ShouldBeNull();
    }

    [Fact]
    public void Comparing_does_not_depend_on_the_order() =>
        CsCheck.Check.Sample(
            CsCheck.Gen.Select(CsCheck.Gen.String[CsCheck.Gen.Char["abc-_ é1"], 0, 9], CsCheck.Gen.String[CsCheck.Gen.Char["abc-_ é1"], 0, 9]),
            pair => TagLint.Compare(pair.Item1, pair.Item2).ShouldBe(TagLint.Compare(pair.Item2, pair.Item1))
        );

    [Fact]
    public void Merged_values_are_sent_and_the_others_stay()
    {
        var merged = new MergedValues(new Dictionary<(TagField, string), string> { [(TagField.Source, "Perch")] = "perch" });
        var tags = new UtmTags(TagValue.Of("Perch"), TagValue.Of("Perch"), TagValue.Of("winter"));
        merged.Of(tags).ShouldBe(tags with { Source = TagValue.Of("perch") });
    }

    [Fact]
    public void Patterns_are_filled_with_the_month_and_the_next_free_part()
    {
        var today = new LocalDate(2026, 11, 23);
        CampaignPattern
            .Expand("Night Letter {yyyy}-{mm}", today, [])
            .ShouldBe(new CampaignPattern.Proposal("Night Letter 2026-11", "night-letter-2026-11"));
        CampaignPattern.Expand("Moon course {part}", today, ["moon-course-1", "moon-course-2"]).Key.ShouldBe("moon-course-3");
        CampaignPattern.Expand("Été à Łódź", today, []).Key.ShouldBe("ete-a-lodz");
    }

    [Fact]
    public void The_next_of_each_series_is_proposed_with_its_name()
    {
        var next = CampaignPattern.Next([
            new("Night Letter, November 2026", "night-letter-2026-11"),
            new("Night Letter, December 2026", "night-letter-2026-12"),
            new("Moon course 1", "moon-course-1"),
            new("Moon course 2", "moon-course-2"),
            new("Apollo 11", "apollo-11"),
        ]);
        next.ShouldBe([new("Night Letter, January 2027", "night-letter-2027-01"), new("Moon course 3", "moon-course-3")]);
    }
}
