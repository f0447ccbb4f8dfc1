using Cursus.Core;
using Cursus.Core.Reports;
using Cursus.Web.Drawing;
using Cursus.Web.Reports.Answers;
using SkiaSharp;

namespace Cursus.Web.Reports.Pictures;

/// <summary>The lanes of an answer as the screen shows them: bar for this period, tick for the one before, whisker for how sure, brackets where it is
/// too close to call.</summary>
internal static class LanesPicture
{
    private const int Most = 12;
    private const float Head = 24;
    private const float Row = 26;

    /// <summary>How much room it takes from top to bottom.</summary>
    public static float HeightOf(BreakdownReport.Response answer) => Head + Row * Math.Min(Most, answer.Rows.Count);

    /// <summary>The lanes alone, with a word on the groups that have no lane.</summary>
    /// <param name="colors">By key of the group; plum for others.</param>
    public static Picture Of(BreakdownReport.Response answer, string words, IReadOnlyDictionary<string, SKColor> colors)
    {
        var (groups, clicks) = answer.Behind(Most);
        var height = HeightOf(answer);
        return new Picture(words, Picture.UsualWidth, height + (groups > 0 ? Row : 0), pen =>
        {
            Draw(pen, answer, colors, Picture.UsualWidth);
            if (groups > 0)
            {
                pen.Text($"and {CountWords.Number(groups)} more with {CountWords.Clicks(clicks)}", 0, height + 17, 10, Pen.Dimmed);
            }
        });
    }

    /// <param name="colors">By key of the group; plum for others.</param>
    public static void Draw(Pen pen, BreakdownReport.Response answer, IReadOnlyDictionary<string, SKColor> colors, float width)
    {
        var rows = answer.Rows.Take(Most).ToList();
        var isPerPost = answer.Per == "post";
        var hasBefore = answer.Before is not null && !isPerPost;
        var (label, figures) = (width * 0.2f, hasBefore ? 150f : 100f);
        var (left, right) = (label + 8, width - figures - 16);
        var lanes = rows.ConvertAll(r => Lane.Of(r, isPerPost));
        var scale = (right - left) / (float)Lane.ScaleOf([.. lanes.Select((l, i) => l with { Before = hasBefore ? rows[i].PreviousClicks : null })]);
        pen.Text(isPerPost ? "Per post" : "Clicks", right + 66, 14, 9, Pen.Dimmed, align: Align.Right);
        pen.Text(isPerPost ? "Posts" : "Share", right + 112, 14, 9, Pen.Dimmed, align: Align.Right);
        if (hasBefore)
        {
            pen.Text("Change", width, 14, 9, Pen.Dimmed, align: Align.Right);
        }

        foreach (var (i, row) in rows.Index())
        {
            var top = Head + Row * i;
            pen.Line(0, top, width, top, Pen.Hair, 0.7f);
            pen.Text(row.Label, 0, top + 17, 11, most: label);
            var lane = lanes[i];
            pen.Bar(left, top + 7, (float)lane.Length * scale, 12, colors.GetValueOrDefault(row.Key, Pen.Plum));
            if (lane.Expected is var (low, high))
            {
                Whisker(pen, Math.Min(right, left + (float)low * scale), Math.Min(right, left + (float)high * scale), top + 13);
            }

            if (hasBefore && row.PreviousClicks is { } before)
            {
                pen.Bar(left + before * scale - 1, top + 3, 2, 20, Pen.Ink);
            }

            pen.Text(
                isPerPost
                    ? row.ClicksPerPost is { } each
                        ? CountWords.Number(each, "0.#")
                        : "–"
                    : CountWords.Number(row.Clicks),
                right + 66,
                top + 17,
                11,
                isBold: true,
                align: Align.Right
            );
            pen.Text(isPerPost ? CountWords.Number(row.Posts ?? 0) : CountWords.Percent(row.Share), right + 112, top + 17, 10, align: Align.Right);
            if (hasBefore)
            {
                pen.Text(
                    row.Change is { } change ? $"{(change > 0 ? "+" : change < 0 ? "−" : "")}{CountWords.Percent(Math.Abs(change))}"
                        : row.Clicks > 0 ? "new"
                        : "–",
                    width,
                    top + 17,
                    10,
                    align: Align.Right
                );
            }
        }

        // Last, so that no line runs through their words.
        foreach (var (i, _) in rows.SkipLast(1).Index().Where(r => r.Item.IsTooCloseToNext))
        {
            Bracket(pen, right + 4, Head + Row * i + 13);
        }
    }

    /// <summary>What is drawn of a row.</summary>
    /// <param name="Length">Of its bar.</param>
    /// <param name="Expected">Between which its whisker reaches; null where that can't be said.</param>
    /// <param name="Before">Where its tick stands; null where there is none.</param>
    private sealed record Lane(double Length, Bounds? Expected, double? Before = null)
    {
        /// <summary>Whiskers that reach further than this beyond the longest bar are cut off, lest they leave no room for bars.</summary>
        private const double MostBeyond = 1.6;

        public static Lane Of(BreakdownReport.Row row, bool isPerPost) =>
            isPerPost
                ? new(row.ClicksPerPost ?? 0, row is { PerPostLow: { } low, PerPostHigh: { } high } ? new(low, high) : null)
                : new(row.Clicks, row is { Low: { } least, High: { } most } ? new(least, most) : null);

        public static double ScaleOf(IReadOnlyCollection<Lane> lanes)
        {
            var longest = lanes.Select(l => Math.Max(l.Length, l.Before ?? 0)).DefaultIfEmpty().Max();
            return 1.02 * Math.Max(1, Math.Min(MostBeyond * longest, lanes.Select(l => l.Expected?.High ?? 0).Append(longest).Max()));
        }
    }

    private static void Whisker(Pen pen, float from, float to, float y)
    {
        pen.Line(from, y, to, y, Pen.Ink);
        pen.Line(from, y - 4, from, y + 4, Pen.Ink);
        pen.Line(to, y - 4, to, y + 4, Pen.Ink);
    }

    private static void Bracket(Pen pen, float x, float y)
    {
        pen.Line([new(x - 4, y), new(x, y), new(x, y + Row), new(x - 4, y + Row)], Pen.Caution, 1.4f);
        pen.Bar(x - 78, y + Row / 2 - 5, 71, 10, pen.Paper);
        pen.Text("too close to call", x - 8, y + Row / 2 + 3, 8, Pen.Caution, isBold: true, align: Align.Right);
    }
}
