using Cursus.Core;
using Cursus.Web.Drawing;
using Cursus.Web.Reports.Answers;

namespace Cursus.Web.Reports.Pictures;

/// <summary>Clicks by two dimensions as the screen shows them: a table whose cells are the darker the more clicks they have.</summary>
internal static class CrossingPicture
{
    private const float Head = 24;
    private const float Row = 28;
    private const float Gap = 2;
    private const float Label = 160;
    private const float Sum = 70;
    private const float LeastCell = 74;
    private const float MostCell = 120;

    public static Picture Of(PivotReport.Response pivot, string words)
    {
        // Hours have short names, and no sums: those of weekdays stand in other answers.
        var isOfHours = pivot.Across == "hour";
        var sum = isOfHours ? 0 : Sum;
        var room = Picture.UsualWidth - Label - sum;
        var cell = isOfHours ? room / pivot.Columns.Count : Math.Clamp(room / Math.Max(1, pivot.Columns.Count), LeastCell, MostCell);
        var width = Math.Max(Picture.UsualWidth, Label + cell * pivot.Columns.Count + sum);
        return new Picture(words, width, Head + Row * pivot.Rows.Count, pen => Draw(pen, pivot, cell, isOfHours));
    }

    private static void Draw(Pen pen, PivotReport.Response pivot, float cell, bool isOfHours)
    {
        float X(int column) => Label + cell * column;
        var most = pivot.Cells.SelectMany(cells => cells).DefaultIfEmpty().Max();
        var end = X(pivot.Columns.Count) + Sum - 4;
        foreach (var (c, column) in pivot.Columns.Index())
        {
            pen.Text(isOfHours ? column.Label[..2] : column.Label, X(c) + cell / 2, 14, 9, Pen.Dimmed, align: Align.Middle, most: cell - 4);
        }

        if (!isOfHours)
        {
            pen.Text("All", end, 14, 9, Pen.Dimmed, align: Align.Right);
        }

        foreach (var (r, row) in pivot.Rows.Index())
        {
            var top = Head + Row * r;
            pen.Text(row.Label, 0, top + 18, 10.5f, most: Label - 10);
            foreach (var (c, clicks) in pivot.Cells[r].Index())
            {
                pen.Bar(X(c), top, cell - Gap, Row - Gap, Shade.OfCell(pen.Paper, clicks, most));
                pen.Text(clicks == 0 ? "·" : CountWords.Brief(clicks), X(c) + (cell - Gap) / 2, top + 17, 9.5f, align: Align.Middle);
            }

            if (!isOfHours)
            {
                pen.Text(CountWords.Number(row.Clicks), end, top + 18, 10.5f, isBold: true, align: Align.Right);
            }
        }
    }
}
