using Cursus.Core.Checking;
using NodaTime;

namespace Cursus.Core.Tests.Checking;

/// <summary>What the link check makes of what pages answer. The times and the number of tries are common practice (no source).</summary>
public class PageJudgementTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 11, 26, 12, 0);
    private static readonly GoneWords Words = new(GoneWords.Defaults);
    private static readonly PageAnswer Well = Says("Night walk with the moor rangers");

    [Fact]
    public void A_page_that_answers_is_fine_and_asked_again_after_a_day()
    {
        var page = After(new PageState(), Well);
        page.Verdict.ShouldBe(PageVerdict.Fine);
        page.NeedsCare.ShouldBeFalse();
        page.Since.ShouldBe(Noon);
        page.NextCheckAt.ShouldBe(Noon + Duration.FromHours(24));
    }

    [Theory]
    [InlineData(404)]
    [InlineData(410)]
    public void A_page_that_its_site_knows_nothing_of_is_gone_at_once(int status)
    {
        var page = After(After(new PageState(), Well), Status(status));
        page.Verdict.ShouldBe(PageVerdict.Gone);
        page.IsDead.ShouldBeTrue();
        page.NeedsCare.ShouldBeTrue();
        CareText.Of(page).ShouldBe($"The site says this page doesn’t exist ({status}).");
    }

    [Fact]
    public void A_page_in_trouble_fails_only_at_the_third_try_when_an_hour_has_passed()
    {
        var (page, now) = (After(new PageState(), Well), Noon);
        var told = new List<string>();
        for (var i = 0; i < 5; i++)
        {
            page = PageJudgement.After(page, Status(503), Words, now);
            told.Add($"{(now - Noon).TotalMinutes:0} min: {page.Verdict}");
            now = page.NextCheckAt!.Value;
        }

        told.ShouldBe(["0 min: Fine", "20 min: Fine", "60 min: Failing", "120 min: Failing", "240 min: Failing"]);
        CareText.Of(page).ShouldBe("The site returns an error (503).");
    }

    [Fact]
    public void Asking_again_by_hand_makes_no_page_fail_sooner()
    {
        var page = After(new PageState(), Well);
        for (var i = 0; i < 10; i++)
        {
            page = PageJudgement.After(page, new PageAnswer { Trouble = PageTrouble.Silent }, Words, Noon + Duration.FromMinutes(i));
        }

        page.Verdict.ShouldBe(PageVerdict.Fine);
        PageJudgement
            .After(page, new PageAnswer { Trouble = PageTrouble.Silent }, Words, Noon + Duration.FromMinutes(61))
            .Verdict.ShouldBe(PageVerdict.Failing);
    }

    [Fact]
    public void One_good_answer_between_makes_the_tries_begin_anew()
    {
        var page = After(After(new PageState(), Status(500)), Status(500));
        page = PageJudgement.After(page, Well, Words, Noon + Duration.FromMinutes(59));
        page = PageJudgement.After(page, Status(500), Words, Noon + Duration.FromMinutes(61));
        page.Verdict.ShouldBe(PageVerdict.Fine);
        page.Tries.ShouldBe(1);
    }

    [Fact]
    public void A_dead_page_that_comes_back_needs_no_care_any_more()
    {
        var page = After(After(After(new PageState(), Well), Status(404)), Well);
        page.Verdict.ShouldBe(PageVerdict.Fine);
        page.NeedsCare.ShouldBeFalse();
    }

    [Fact]
    public void A_dead_page_is_asked_ever_more_seldom_but_daily_at_least()
    {
        var (page, now) = (new PageState(), Noon);
        var gaps = new List<double>();
        for (var i = 0; i < 8; i++)
        {
            page = PageJudgement.After(page, Status(410), Words, now);
            gaps.Add((page.NextCheckAt!.Value - now).TotalHours);
            now = page.NextCheckAt.Value;
        }

        gaps.ShouldBe([1, 2, 4, 8, 16, 24, 24, 24]);
    }

    [Theory]
    [InlineData(401)]
    [InlineData(403)]
    public void A_page_that_shows_itself_to_no_program_is_not_called_dead(int status)
    {
        var page = After(After(new PageState(), Well), Status(status));
        page.Verdict.ShouldBe(PageVerdict.Closed);
        page.NeedsCare.ShouldBeFalse();
    }

    [Theory]
    [InlineData(PageTrouble.Robots)]
    [InlineData(PageTrouble.Private)]
    public void Nor_is_one_that_must_not_be_asked(PageTrouble trouble) =>
        After(new PageState(), new PageAnswer { Trouble = trouble }).Verdict.ShouldBe(PageVerdict.Closed);

    [Fact]
    public void A_server_that_is_asked_too_often_is_left_alone_as_long_as_it_says_and_nothing_is_made_of_it()
    {
        var page = After(After(new PageState(), Well), new PageAnswer { Status = 429, RetryAfter = Duration.FromHours(3) });
        page.Verdict.ShouldBe(PageVerdict.Fine);
        page.Tries.ShouldBe(0);
        page.NextCheckAt.ShouldBe(Noon + Duration.FromHours(3));
        After(page, new PageAnswer { Status = 429, RetryAfter = Duration.FromDays(400) }).NextCheckAt.ShouldBe(Noon + Duration.FromDays(1));
        After(page, new PageAnswer { Status = 503, RetryAfter = Duration.FromHours(2) }).NextCheckAt.ShouldBe(Noon + Duration.FromHours(2));
    }

    [Theory]
    [InlineData("Page not found", "Try our front page.", "Page not found")]
    [InlineData("Lensworks", "We are sorry: this telescope is NO LONGER   AVAILABLE.", "no longer available")]
    public void A_page_that_answers_but_says_that_it_is_not_there_has_changed(string title, string body, string word)
    {
        var page = After(After(new PageState(), Says("Lensworks")), Says(title, body));
        page.Verdict.ShouldBe(PageVerdict.Changed);
        CareText.Of(page).ShouldBe($"The page loads, but says “{word.ToLowerInvariant()}”.");
    }

    [Fact]
    public void A_page_that_lied_from_the_beginning_is_found_by_its_title_or_heading()
    {
        After(new PageState(), Says("Page not found")).Verdict.ShouldBe(PageVerdict.Changed);
        After(new PageState(), new PageAnswer { Status = 200, Text = new("Lensworks", ["Seite nicht gefunden"], "Seite nicht gefunden") })
            .Verdict.ShouldBe(PageVerdict.Changed);
    }

    [Fact]
    public void Words_that_a_page_had_in_its_text_when_links_were_made_tell_nothing()
    {
        var article = Says("What became of the old refractor", "The lens of 1926 is no longer available, but the tube stands in the hall.");
        var page = After(new PageState(), article);
        page.Verdict.ShouldBe(PageVerdict.Fine);
        After(page, article).Verdict.ShouldBe(PageVerdict.Fine);
        After(page, Says("What became of the old refractor", "Sold out. The lens is no longer available.")).Verdict.ShouldBe(PageVerdict.Changed);
    }

    [Fact]
    public void Another_title_is_a_change_until_somebody_says_that_it_is_good()
    {
        var page = After(After(new PageState(), Well), Says("Garden furniture in oak"));
        page.Verdict.ShouldBe(PageVerdict.Changed);
        CareText.Of(page).ShouldBe("Its title was “Night walk with the moor rangers” and is now “Garden furniture in oak”.");

        var accepted = page.Accept(Noon);
        accepted.Verdict.ShouldBe(PageVerdict.Fine);
        After(accepted, Says("Garden furniture in oak")).Verdict.ShouldBe(PageVerdict.Fine);
        After(accepted, Well).Verdict.ShouldBe(PageVerdict.Changed);
    }

    [Fact]
    public void A_loud_word_that_somebody_has_accepted_is_good_too()
    {
        var page = After(new PageState(), Says("Error 404, a play in three acts"));
        page.Verdict.ShouldBe(PageVerdict.Changed);
        After(page.Accept(Noon), Says("Error 404, a play in three acts")).Verdict.ShouldBe(PageVerdict.Fine);
    }

    [Theory]
    [InlineData(true, true)]
    [InlineData(false, false)]
    public void A_page_that_moved_needs_care_only_where_it_moved_for_good(bool isPermanent, bool needsCare)
    {
        var page = After(new PageState(), Well with { LeadsTo = "https://www.northmoor.example/walks/night", IsPermanent = isPermanent });
        page.Verdict.ShouldBe(PageVerdict.Redirected);
        page.NeedsCare.ShouldBe(needsCare);
        page.Accept(Noon).NeedsCare.ShouldBeFalse();
    }

    [Fact]
    public void A_page_that_sends_its_readers_to_the_front_page_has_changed()
    {
        var page = After(new PageState(), Says("Northmoor Observatory") with { LeadsTo = "https://www.northmoor.example/", EndsAtFrontPage = true });
        page.Verdict.ShouldBe(PageVerdict.Changed);
        CareText.Of(page).ShouldContain("home page");
        page.Accept(Noon).Verdict.ShouldBe(PageVerdict.Redirected);
    }

    [Fact]
    public void A_page_that_is_the_same_as_last_time_keeps_its_verdict_without_being_read()
    {
        var changed = After(After(new PageState(), Well), Says("Garden furniture in oak") with { Validator = "\"2\"" });
        var page = After(
            changed,
            new PageAnswer
            {
                Status = 200,
                IsUnchanged = true,
                Validator = "\"2\"",
            }
        );
        page.Verdict.ShouldBe(PageVerdict.Changed);
        page.Title.ShouldBe("Garden furniture in oak");
    }

    [Fact]
    public void A_page_that_was_not_to_be_reached_is_read_anew_afterwards()
    {
        var page = After(new PageState(), Well with { Validator = "\"1\"" });
        After(page, Status(500)).Validator.ShouldBeNull();
        After(page, Status(404)).Validator.ShouldBeNull();
    }

    [Fact]
    public void Since_says_when_the_verdict_began_not_when_it_was_last_seen()
    {
        var gone = After(After(new PageState(), Well), Status(404));
        PageJudgement.After(gone, Status(404), Words, Noon + Duration.FromHours(5)).Since.ShouldBe(Noon);
        PageJudgement.After(gone, Well, Words, Noon + Duration.FromHours(5)).Since.ShouldBe(Noon + Duration.FromHours(5));
    }

    [Fact]
    public void Every_verdict_and_trouble_is_told_in_words()
    {
        foreach (var verdict in Enum.GetValues<PageVerdict>())
        {
            foreach (var trouble in Enum.GetValues<PageTrouble>())
            {
                var text = CareText.Of(
                    new PageState
                    {
                        Verdict = verdict,
                        Trouble = trouble,
                        Status = 500,
                        Title = "One",
                        Accepted = new("Another", [], null),
                    }
                );
                text.ShouldEndWith(".");
                text.ShouldNotContain("“”");
            }
        }
    }

    private static PageAnswer Says(string title, string body = "") => new() { Status = 200, Text = new(title, [title], body) };

    private static PageAnswer Status(int status) => new() { Status = status };

    private static PageState After(PageState page, PageAnswer answer) => PageJudgement.After(page, answer, Words, Noon);
}
