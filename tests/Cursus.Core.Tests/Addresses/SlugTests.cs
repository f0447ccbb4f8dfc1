using CsCheck;
using Cursus.Core.Addresses.Slugs;

namespace Cursus.Core.Tests.Addresses;

public class SlugTests
{
    [Theory]
    [InlineData("winter-members")]
    [InlineData("GEMINIDS")]
    [InlineData("a")]
    [InlineData("v1.2_final")]
    [InlineData("/with-slash-pasted")]
    public void Readable_slugs_are_taken(string text) => Slug.TryParse(text, out _, out _).ShouldBeTrue();

    [Theory]
    [InlineData("", "slug-missing")]
    [InlineData("two words", "slug-characters")]
    [InlineData("a/b", "slug-characters")]
    [InlineData(".hidden", "slug-characters")]
    [InlineData("ends.", "slug-characters")]
    [InlineData("stern-grün", "slug-characters")]
    [InlineData("a?b", "slug-characters")]
    [InlineData("Robots.txt", "slug-reserved")]
    [InlineData("API", "slug-reserved")]
    public void A_slug_that_would_not_work_is_refused_with_its_reason(string text, string code)
    {
        Slug.TryParse(text, out _, out var error).ShouldBeFalse();
        error!.Code.ShouldBe(code);
    }

    [Fact]
    public void Case_is_kept_for_show_and_ignored_in_comparing()
    {
        Slug.TryParse("GemiNids", out var slug, out _).ShouldBeTrue();
        (slug!.Text, slug.Key).ShouldBe(("GemiNids", "geminids"));
    }

    /// <summary>Common practice, no source: random slugs have about six characters.</summary>
    [Fact]
    public void Random_slugs_are_six_characters_that_are_not_mistaken_for_one_another()
    {
        var slugs = Enumerable.Range(0, 2000).Select(_ => SlugMaker.Random()).ToList();
        slugs.ShouldAllBe(s => s.Length == 6 && s.All(SlugMaker.Alphabet.Contains) && !s.Any("01lio".Contains));
        slugs.Distinct().Count().ShouldBeGreaterThan(1995);
    }

    [Theory]
    [InlineData("Winter members", "perch", "winter-members-perch")]
    [InlineData("Members’ evening: the Pléiades", "hearthside", "members-evening-the-pleiades-hearthside")]
    [InlineData("Straßenfest für Ærø", "poster", "strassenfest-fur-aero-poster")]
    public void Readable_slugs_are_made_from_title_and_channel(string title, string channel, string expected) =>
        SlugMaker.Readable(title, channel).ShouldBe(expected);

    [Fact]
    public void Every_slug_that_is_made_is_a_slug() =>
        Gen.Select(Gen.String, Gen.String[Gen.Char["abc-"], 0, 20].Select(k => k.Trim('-')))
            .Sample(
                (title, channel) =>
                {
                    var made = SlugMaker
                        .Alternatives(SlugMaker.Readable(title, channel), title, channel, 2026)
                        .Take(110)
                        .Prepend(SlugMaker.Readable(title, channel));
                    made.Where(s => !Slug.TryParse(s, out _, out _)).ShouldBeEmpty();
                }
            );

    [Fact]
    public void Alternatives_begin_with_the_channel_then_the_title_then_the_year() =>
        SlugMaker
            .Alternatives("geminids", "Geminids night", "perch", 2026)
            .Take(4)
            .ShouldBe(["geminids-perch", "geminids-night-perch", "geminids-26", "geminids-2"]);

    [Fact]
    public void Long_titles_are_cut_at_a_word()
    {
        var slug = SlugMaker.Readable("A very long title about the many things that can be seen in a winter night over the moor", "guildhall");
        slug.Length.ShouldBeLessThanOrEqualTo(SlugMaker.ReadableLength);
        slug.ShouldBe("very-long-title-about-many-things-can-seen-winter-guildhall");
    }
}
