using Cursus.Core.Reports;

namespace Cursus.Core.Tests.Reports;

/// <summary>What was counted stands apart from what it is worth.</summary>
public class AnswerSentenceTests
{
    private static readonly long[] Steady = [60, 45, 80, 52, 71, 66, 40, 58];

    [Fact]
    public void A_clear_lead() =>
        Sentence(("guildhall", Steady), ("perch", [41, 30, 61, 40, 45, 50, 33, 37]))
            .ShouldBe(
                "Guildhall brought the most: 472 clicks (58.3%). Its lead over Perch is clear: with posts like these it would come out ahead again, by a factor of 1.40 (1.18 to 1.66)."
            );

    [Fact]
    public void A_lead_that_is_too_close() =>
        Sentence(("guildhall", Steady), ("perch", [90, 30, 40, 70, 45, 80, 50, 60]))
            .ShouldBe(
                "Guildhall brought the most: 472 clicks (50.4%). Guildhall and Perch are too close to call: with posts like these either could come out ahead."
            );

    [Fact]
    public void A_lead_from_too_few_posts() =>
        Sentence(("guildhall", [900, 800, 850]), ("perch", [20, 20, 20, 20]))
            .ShouldBe(
                "Guildhall brought the most: 2,550 clicks (97%). Too few posts to say whether this would happen again: 3 for Guildhall, 4 for Perch, and each needs at least 4."
            );

    [Fact]
    public void A_lead_by_posting_more_often_says_so_itself()
    {
        long[] often = [.. Enumerable.Repeat(Steady, 5).SelectMany(s => s).Select(c => c / 4)];
        var answer = Sentence(("guildhall", often), ("perch", [.. new long[40], .. Steady]));
        answer.ShouldStartWith("Guildhall brought the most: 580 clicks (55.1%).");
        answer.ShouldEndWith(" Per post, Perch brings more: 59 clicks against 14.5, which is clear.");
    }

    [Fact]
    public void Asked_per_post_the_one_with_more_for_each_post_leads()
    {
        long[] often = [.. Enumerable.Repeat(Steady, 5).SelectMany(s => s).Select(c => c / 4)];
        var answer = Posts.Answer(BreakdownMeasure.ClicksPerPost, ("guildhall", often), ("perch", [.. new long[40], .. Steady]));
        answer.Rows.Select(r => r.Count.Key).ShouldBe(["perch", "guildhall"]);
        answer.PerPost.ShouldBeNull();
        AnswerSentence
            .Of(answer)
            .ShouldStartWith(
                "Perch brought the most per post: 59 clicks from each of 8 posts. Its lead over Guildhall is clear: with posts like these it would come out ahead again, "
            );
        answer.Rows[0].ExpectedPerPost.ShouldNotBeNull();
    }

    [Theory]
    [InlineData(0, 0, "No clicks in this period.")]
    [InlineData(1, 0, "The only click came from Guildhall.")]
    [InlineData(75, 0, "All 75 clicks came from Guildhall.")]
    [InlineData(60, 42, "Guildhall brought the most: 60 clicks (58.8%).")]
    [InlineData(40, 40, "Guildhall and Perch are level at 40 clicks.")]
    public void Where_nothing_is_judged_only_what_was_counted_is_said(long guildhall, long perch, string sentence) =>
        AnswerSentence
            .Of(
                Breakdown.Of([
                    new GroupCount("guildhall", "Guildhall", guildhall, 0, null, 1, 1),
                    new GroupCount("perch", "Perch", perch, 0, null, 1, 1),
                ])
            )
            .ShouldBe(sentence);

    /// <summary>Most clicks come without a referrer; that "nobody" leads says nothing.</summary>
    [Theory]
    [InlineData(900, 60, 20, "Guildhall brought the most: 60 clicks (6.1%).")]
    [InlineData(900, 60, 0, "Guildhall brought 60 clicks (6.3%); the other 900 can’t be assigned.")]
    [InlineData(7, 0, 0, "7 clicks, none of which can be assigned.")]
    public void What_is_not_known_leads_over_nobody(long rest, long guildhall, long perch, string sentence)
    {
        var breakdown = Breakdown.Of([
            new GroupCount("", "Unknown", rest, 0, null, 0, 0),
            new GroupCount("guildhall", "Guildhall", guildhall, 0, null, 0, 0),
            new GroupCount("perch", "Perch", perch, 0, null, 0, 0),
        ]);
        breakdown.Rows[^1].Count.IsRest.ShouldBeTrue();
        AnswerSentence.Of(breakdown).ShouldBe(sentence);
    }

    private static string Sentence(params (string Key, long[] Clicks)[] channels) => AnswerSentence.Of(Posts.Answer(channels));
}
