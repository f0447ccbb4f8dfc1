using System.Runtime.CompilerServices;
using Cursus.Core.Clicks;
using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using NodaTime;
using NodaTime.Text;
using Npgsql;

namespace Cursus.Data.Reports.Counts;

/// <summary>Reads the clicks that a question is about one by one, with all that any breakdown is made of.</summary>
internal static class SingleClicks
{
    /// <summary>What clicks tell that has stood among the first columns since there were fewer.</summary>
    private static readonly string[] Named = ["country", "device", "browser", "os", "language", "referrer", "code"];

    private static IEnumerable<Dimension> Told => Dimensions.InOrder.Where(d => d.IsExported && d.Detail is not null && !Named.Contains(d.Name));

    /// <summary>Columns of the file with the SQL behind them, over a click <c>c</c>, its link <c>c</c> as well, and what
    /// <see cref="CountedSql.Joins"/> adds. New ones come last, so that the others keep their places.</summary>
    private static readonly (string Name, string Sql)[] Columns =
    [
        ("at", "c.at"),
        ("kind", "c.kind"),
        .. OfLink(["link", "channel", "campaign", "source", "medium", "content", "post"]),
        ("country", "c.country"),
        ("device", "c.device"),
        ("browser", "c.browser"),
        ("os", "c.os"),
        ("language", "c.language"),
        ("referrer", "c.referrer_host"),
        ("code", "c.code"),
        ("id", "c.id::text"),
        ("local", "to_char(c.local, 'YYYY-MM-DD\"T\"HH24:MI:SS')"),
        ("linkId", "c.link_id::text"),
        ("postId", $"c.key{Place("post")}"),
        ("domain", $"c.key{Place("domain")}"),
        ("term", $"c.key{Place("term")}"),
        (
            Tags,
            "coalesce((select json_agg(t.name order by t.name) from link_tags lt join tags t on t.id = lt.tag_id where lt.link_id = c.link_id)::text, '[]')"
        ),
        (Pixels, "coalesce((select json_agg(distinct pl.pixel_id::text) from pixels_of_links pl where pl.link_id = c.link_id)::text, '[]')"),
        .. Told.Select(d => (d.Name, d.Key)),
    ];

    private const string Tags = "tags";
    private const string Pixels = "pixels";

    private static string[] LinkDimensions => ["link", "channel", "campaign", "source", "medium", "content", "post", "domain", "term"];

    /// <summary>Names of what is read of each, in order.</summary>
    public static IReadOnlyList<string> Names { get; } = [.. Columns.Select(c => c.Name)];

    /// <summary>Whether a column is a list, as JSON.</summary>
    public static bool IsList(int column) => Names[column] is Tags or Pixels;

    /// <summary>Clicks in the order of their times, as texts by <see cref="Names"/>.</summary>
    /// <param name="onlyPeople">Whether those that don't count are left out.</param>
    public static async IAsyncEnumerable<string[]> Of(
        Snapshot snapshot,
        Question question,
        bool onlyPeople,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var days = DateRange.Of(question.Period);
        question = await PostStarts.AddTo(question, snapshot, [Dimensions.All["age"]], cancel);
        var groups = LinkDimensions.Select(by => Dimensions.All[by]).ToArray();
        var clicks = snapshot.Rows(
            question.Parameters,
            $"""
            with {CountedSql.Picked(question, groups)}
            select {string.Join(", ", Columns.Select(c => c.Sql))}
            from (
                select c.at, clock.local, c.id, c.link_id, c.kind, {string.Join(", ", ClickDetail.All.Select(d => $"{d.Sql} as {d.Column}"))},
                    l.coded_link, l.channel_id, {string.Join(", ", groups.Select((_, place) => $"l.key{place}, l.label{place}"))}
                from clicks c join user_agents ua on ua.id = c.user_agent_id join picked l on l.id = c.link_id
                    cross join lateral (select {LocalTimeSql.During(days, question.Zone)} as local) as clock
                where {CountedSql.During(days, question.Zone)} {(onlyPeople ? $"and {CountedSql.IsOfPerson}" : "")}) c
            {CountedSql.Joins(question, [.. Told])} where true {CountedSql.ClickFilters(question)}
            order by c.at, c.id
            """,
            Cells,
            cancel
        );
        await foreach (var click in clicks)
        {
            yield return click;
        }
    }

    private static int Place(string dimension) => Array.IndexOf(LinkDimensions, dimension);

    /// <summary>By the key of the dimension, or by what people read where the key is an id.</summary>
    private static IEnumerable<(string Name, string Sql)> OfLink(IEnumerable<string> dimensions) =>
        dimensions.Select(by => (by, $"c.{(by is "post" or "link" ? "label" : "key")}{Place(by)}"));

    private static string[] Cells(NpgsqlDataReader row)
    {
        var cells = new string[Columns.Length];
        cells[0] = InstantPattern.ExtendedIso.Format(row.GetFieldValue<Instant>(0));
        cells[1] = ((ClickKind)row.GetInt16(1)).ToString().ToLowerInvariant();
        for (var column = 2; column < cells.Length; column++)
        {
            cells[column] = row.GetString(column);
        }

        return cells;
    }
}
