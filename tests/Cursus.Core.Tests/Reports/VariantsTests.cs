using CsCheck;
using Cursus.Core.Reports;

namespace Cursus.Core.Tests.Reports;

/// <summary>Which of the variants that a channel carries of a post won.</summary>
public class VariantsTests
{
    [Fact]
    public void Without_a_split_the_one_with_more_clicks_leads()
    {
        var variants = Variants.Of([new("l", "logo", 120, null, 120), new("b", "button", 180, null, 180)]);
        variants.IsSplit.ShouldBeFalse();
        variants.Rows.Select(r => (r.Count.Label, r.Exposure, r.Share, r.Index)).ShouldBe([("button", 0.5, 0.6, 1.2), ("logo", 0.5, 0.4, 0.8)]);
        variants.Rows[0].Lead.ShouldBe(Verdict.ByReaders(180, 120, (1, 1)));
        variants.Rows[1].Lead.ShouldBeNull();
    }

    /// <summary>By hand: 120 of 300 clicks from 20% of the readers are twice what they would be if both were alike; 180 from 80% are three quarters
    /// of it.</summary>
    [Fact]
    public void A_split_gives_the_lead_to_the_one_that_brought_more_from_fewer()
    {
        var variants = Variants.Of([new("l", "logo", 120, 20, 120), new("b", "button", 180, 80, 180)]);
        variants.IsSplit.ShouldBeTrue();
        variants.Rows.Select(r => (r.Count.Label, r.Exposure, Math.Round(r.Index!.Value, 12))).ShouldBe([("logo", 0.2, 2), ("button", 0.8, 0.75)]);
        variants.Rows[0].Lead!.Ratio!.Value.ShouldBe(2 / 0.75, 1e-12);
        variants.Rows[0].Lead!.Call.ShouldBe(VerdictCall.Clear);
    }

    [Fact]
    public void Clicks_in_the_proportion_of_the_split_have_no_winner() =>
        Gen.Select(Gen.Int[1, 99], Gen.Int[1, 40])
            .Sample(
                (part, clicks) =>
                {
                    var rows = Variants
                        .Of([
                            new("a", "a", (long)part * clicks, part, (long)part * clicks),
                            new("b", "b", (100L - part) * clicks, 100 - part, (100L - part) * clicks),
                        ])
                        .Rows;
                    rows.ShouldAllBe(r => Math.Abs(r.Index!.Value - 1) < 1e-9);
                    rows[0].Lead!.Call.ShouldBe(VerdictCall.TooClose);
                    (rows[0].Lead!.Low < 1 && rows[0].Lead!.High > 1).ShouldBeTrue();
                }
            );

    [Fact]
    public void An_equal_split_says_the_same_as_none() =>
        Gen.Select(Gen.Int[0, 500], Gen.Int[0, 500])
            .Sample(
                (a, b) =>
                {
                    var (with, without) = (
                        Variants.Of([new("a", "a", a, 50, a), new("b", "b", b, 50, b)]),
                        Variants.Of([new("a", "a", a, null, a), new("b", "b", b, null, b)])
                    );
                    with.Rows.Select(r => (r.Count.Key, r.Share, r.Index, r.Lead?.Call))
                        .ShouldBe(without.Rows.Select(r => (r.Count.Key, r.Share, r.Index, r.Lead?.Call)));
                }
            );

    [Fact]
    public void Shares_and_exposures_are_parts_of_one_whole_and_indices_average_to_one_by_exposure() =>
        Gen.Select(Gen.Int[0, 300].Array[2, 6], Gen.Int[1, 16].Array[6])
            .Where((clicks, _) => clicks.Sum() > 0)
            .Sample(
                (clicks, parts) =>
                {
                    var rows = Variants.Of([.. clicks.Select((c, i) => new VariantCount($"{i}", $"{i}", c, parts[i], c))]).Rows;
                    rows.Sum(r => r.Share).ShouldBe(1, 1e-9);
                    rows.Sum(r => r.Exposure).ShouldBe(1, 1e-9);
                    rows.Sum(r => r.Exposure * r.Index!.Value).ShouldBe(1, 1e-9);
                    rows.Select(r => r.Index!.Value).ShouldBeInOrder(SortDirection.Descending);
                }
            );

    [Fact]
    public void Variants_that_are_exactly_as_good_have_the_same_index_and_stand_by_label() =>
        Variants
            .Of([new("c", "c", 95, 10, 95), new("b", "b", 19, 2, 19), new("a", "a", 135, 13, 135), new("d", "d", 87, 11, 87)])
            .Rows.Select(r => (r.Count.Label, r.Index))
            .ShouldBe([("a", 135 * 36 / (336.0 * 13)), ("b", 19 * 36 / (336.0 * 2)), ("c", 19 * 36 / (336.0 * 2)), ("d", 87 * 36 / (336.0 * 11))]);

    [Theory]
    [InlineData(null, 70)]
    [InlineData(60, 70)]
    public void A_split_that_cannot_be_one_counts_as_none(int? one, int? other) =>
        Variants.Of([new("a", "a", 10, one, 10), new("b", "b", 20, other, 20)]).IsSplit.ShouldBeFalse();

    [Fact]
    public void What_is_left_of_three_stays_in_proportion() =>
        Variants
            .Of([new("a", "a", 10, 20, 10), new("b", "b", 20, 40, 20)])
            .Rows.Select(r => Math.Round(r.Exposure, 9))
            .ShouldBe([0.333333333, 0.666666667], ignoreOrder: true);

    [Theory]
    [InlineData(120, null, 180, null, "“button” won. Its lead over “logo” is clear, by a factor of 1.50 (1.18 to 1.91).")]
    [InlineData(120, 20, 180, 80, "“logo” won. Its lead over “button” is clear, by a factor of 2.67 (2.10 to 3.38) after allowing for the split.")]
    [InlineData(
        60,
        50,
        42,
        50,
        "“logo” leans ahead of “button”, by a factor of 1.43 (0.95 to 2.17) after allowing for the split, but this isn’t settled yet."
    )]
    [InlineData(
        30,
        30,
        69,
        70,
        "“logo” and “button” are too close to call: “logo” has 30 clicks, shown to 30%; “button” has 69 clicks, shown to 70%."
    )]
    [InlineData(3, null, 1, null, "“logo” has 3 clicks; “button” has 1 click: too few to call.")]
    [InlineData(1, null, 0, null, "“logo” has 1 click; “button” has 0 clicks: too few to call.")]
    [InlineData(0, null, 0, null, "No clicks yet.")]
    public void The_answer_is_a_sentence(int logo, int? logoShown, int button, int? buttonShown, string sentence) =>
        Variants.Of([new("l", "logo", logo, logoShown, logo), new("b", "button", button, buttonShown, button)]).Sentence().ShouldBe(sentence);

    /// <summary>150 readers with two clicks each on average say as much as a third of their clicks.</summary>
    [Fact]
    public void Several_clicks_of_one_reader_are_not_several_readers()
    {
        var (once, often) = (
            Variants.Of([new("l", "logo", 120, null, 120), new("b", "button", 180, null, 180)]),
            Variants.Of([new("l", "logo", 120, null, 60), new("b", "button", 180, null, 90)])
        );
        once.Rows[0].Lead!.Call.ShouldBe(VerdictCall.Clear);
        often.Rows[0].Lead.ShouldBe(Verdict.ByReaders(60, 40, (1, 1)));
        often.Rows[0].ShareLow.ShouldBeLessThan(once.Rows[0].ShareLow);
    }

    [Theory]
    [InlineData(null, 30, 70)]
    [InlineData(null, 1, 99)]
    [InlineData(null, 33, 33, 34)]
    [InlineData("split-sum", 30, 60)]
    [InlineData("split-sum", 60, 60)]
    [InlineData("split-part", 0, 100)]
    [InlineData("split-part", -10, 110)]
    [InlineData("split-of-one", 100)]
    public void A_split_is_of_whole_percentages_that_add_up_to_a_hundred(string? error, params int[] parts) =>
        Split.Check(parts)?.Code.ShouldBe(error);
}
