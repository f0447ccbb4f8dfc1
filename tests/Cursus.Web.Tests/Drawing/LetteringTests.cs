using CsCheck;
using Cursus.Web.Drawing;
using SkiaSharp;

namespace Cursus.Web.Tests.Drawing;

/// <summary>Names of posts as pictures and pages have them: in any letters, with any signs.</summary>
public class LetteringTests
{
    [Theory]
    [InlineData("Geminids night: dinner under a hundred meteors")]
    [InlineData("Żółta łąka, Őrség, Čeština, İstanbul, Đêm sao băng")]
    [InlineData("Ночь метеоров · Νύχτα των αστεριών")]
    [InlineData("ליל כוכבים")]
    [InlineData("ليلة النجوم")]
    [InlineData("Sold out 🎉 see you in December ☄️")]
    [InlineData("👩‍🚀 at work, 👍🏽")]
    [InlineData("≈ 3 days → 12 ≤ 14")]
    public void Every_letter_is_drawn(string title)
    {
        using var regular = Lettering.Of(title, 14);
        using var bold = Lettering.Of(title, 14, isBold: true);
        regular.IsWhole.ShouldBeTrue();
        bold.IsWhole.ShouldBeTrue();
    }

    [Fact]
    public void A_letter_that_no_font_has_is_told_as_missing()
    {
        using var words = Lettering.Of("Private \uE123", 14);
        words.IsWhole.ShouldBeFalse();
    }

    /// <summary>Letters join and run from right to left. Reference: hb-shape 6.0.0, <c>--font-size=1000</c>, on the same font: its advances sum up to
    /// so much.</summary>
    [Theory]
    [InlineData("مرحبا", 291 + 343 + 549 + 396 + 525)]
    [InlineData("ليلة النجوم", 484 + 472 + 637 + 343 + 260 + 238 + 260 + 486 + 300 + 373 + 260)]
    [InlineData("ליל כוכבים", 684 + 265 + 572 + 515 + 301 + 515 + 270 + 522 + 295 + 522)]
    public void Letters_are_shaped_as_their_script_wants(string words, float width)
    {
        using var lettering = Lettering.Of(words, 1000);
        lettering.Width.ShouldBe(width, 0.002 * width);
    }

    /// <summary>Of two words in Hebrew the first one stands right: their order isn't that of a sentence in Latin, although a space is in every
    /// font.</summary>
    [Fact]
    public void Words_from_right_to_left_keep_their_order()
    {
        using var both = Lettering.Of("ליל ם", 1000);
        using var last = Lettering.Of("ם", 1000);
        using var outline = both.Outline(0, 0);
        using var alone = last.Outline(0, 0);
        var firstInked = InkFrom(outline, 0, last.Width);
        firstInked.ShouldBe(InkFrom(alone, 0, last.Width), 1);
    }

    [Fact]
    public void What_is_too_long_is_shortened_to_as_much_as_there_is_room_for() =>
        Gen.Select(Title, Gen.Int[1, 4], Gen.Float[20, 400])
            .Sample(
                (words, times, room) =>
                {
                    using var shown = Lettering.Within(room, string.Concat(Enumerable.Repeat(words, times)), 14);
                    shown.Width.ShouldBeLessThanOrEqualTo(Math.Max(room, 40), "one letter and the dots are always shown");
                    shown.IsWhole.ShouldBeTrue("no letter is cut in two");
                }
            );

    [Theory]
    [InlineData("Geminids night")]
    [InlineData("Ночь метеоров")]
    [InlineData("👩‍🚀👍🏽🎉 sold out")]
    [InlineData("ليلة النجوم")]
    public void Shapes_stand_where_the_words_would(string words)
    {
        using var lettering = Lettering.Of(words, 40);
        using var outline = lettering.Outline(10, 60);
        using var black = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        var (asWords, asShapes) = (
            ColumnsWithInk(canvas => lettering.Draw(canvas, 10, 60, black)),
            ColumnsWithInk(canvas => canvas.DrawPath(outline, black))
        );
        asWords.Count.ShouldBeGreaterThan(100);
        asWords.Except(asShapes).Count().ShouldBeLessThan(asWords.Count / 20);
        asShapes.Except(asWords).Count().ShouldBeLessThan(asWords.Count / 20);
    }

    private static readonly string[] Titles = ["Geminids night", "Ночь метеоров", "👩‍🚀👍🏽🎉 sold out", "ليلة النجوم", "x", ""];

    private static readonly Gen<string> Title = Gen.Int[0, Titles.Length - 1].Select(i => Titles[i]);

    /// <summary>Which columns of a picture of 600 by 80 dots are drawn on.</summary>
    private static HashSet<int> ColumnsWithInk(Action<SKCanvas> draw)
    {
        using var bitmap = new SKBitmap(600, 80);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.White);
        draw(canvas);
        return [.. bitmap.Pixels.Index().Where(p => p.Item.Red < 160).Select(p => p.Index % 600)];
    }

    /// <summary>Where the shapes between two edges begin.</summary>
    private static float InkFrom(SKPath path, float left, float right) => path.Points.Where(p => p.X >= left && p.X < right).Min(p => p.X);
}
