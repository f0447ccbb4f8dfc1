using System.Runtime.CompilerServices;
using System.Text.Json;
using Cursus.Core;
using Cursus.Core.Clicks;
using Cursus.Data.Reports.Counts;
using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using NodaTime.Text;
using Npgsql;

namespace Cursus.Web.Reports.Files;

/// <summary>GET /reports/clicks.csv and /reports/clicks.ndjson: the clicks themselves, one a line, with all that any breakdown is made of. They are
/// passed on as the database reads them, however many there are.</summary>
public static class ClickFiles
{
    private const int Room = 1 << 16;

    /// <summary>What clicks tell that has stood among the first columns since there were fewer.</summary>
    private static readonly string[] Named = ["country", "device", "browser", "os", "language", "referrer", "code"];

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
        .. Dimensions.InOrder.Where(d => d.IsExported && d.Detail is not null && !Named.Contains(d.Name)).Select(d => (d.Name, d.Key)),
    ];

    private const string Tags = "tags";
    private const string Pixels = "pixels";

    private static string[] LinkDimensions => ["link", "channel", "campaign", "source", "medium", "content", "post", "domain", "term"];

    private static readonly JsonEncodedText[] Names = [.. Columns.Select(c => JsonEncodedText.Encode(c.Name))];

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/reports/clicks.csv", Csv).ForViewers().Holding(Held.Download).WithSummary("Individual clicks as CSV");
        api.MapGet("/reports/clicks.ndjson", Lines).ForViewers().Holding(Held.Download).WithSummary("Individual clicks as JSON Lines");
    }

    /// <param name="kinds"><c>people</c>, or <c>all</c> for those that don't count too; people if omitted.</param>
    /// <param name="bom">Whether the file starts with a byte order mark, by which spreadsheets recognise UTF-8; true if omitted.</param>
    private static Results<PushStreamHttpResult, ProblemHttpResult> Csv(
        AskedQuestion asked,
        string? kinds,
        bool? bom,
        HttpRequest request,
        CurrentMember member,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    )
    {
        _ = asked;
        var errors = new FieldErrors();
        return Read(request, kinds, member, clock, errors) is { } question
            ? TypedResults.Stream(
                stream =>
                    Pass(
                        stream,
                        buffer =>
                        {
                            var file = CsvFile.Begin(buffer, bom ?? true);
                            CsvFile.Write(file, [.. Columns.Select(c => c.Name)]);
                            return (cells => CsvFile.Write(file, cells), file);
                        },
                        Clicks(question, kinds, counting, cancel),
                        cancel
                    ),
                CsvFile.ContentType,
                question.FileName("clicks", ".csv")
            )
            : ApiProblem.Invalid(errors);
    }

    private static Results<PushStreamHttpResult, ProblemHttpResult> Lines(
        AskedQuestion asked,
        string? kinds,
        HttpRequest request,
        CurrentMember member,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    )
    {
        _ = asked;
        var errors = new FieldErrors();
        return Read(request, kinds, member, clock, errors) is { } question
            ? TypedResults.Stream(
                stream => Pass(stream, buffer => (cells => Write(buffer, cells), null), Clicks(question, kinds, counting, cancel), cancel),
                "application/x-ndjson",
                question.FileName("clicks", ".ndjson")
            )
            : ApiProblem.Invalid(errors);
    }

    /// <summary>Writes clicks into a buffer, and passes that on whenever it is full: writers write at once, the response takes only what it is not
    /// waited for.</summary>
    /// <param name="begin">Begins the file in the buffer: how a click is written, and what is to be ended after the last.</param>
    private static async Task Pass(
        Stream response,
        Func<MemoryStream, (Action<string[]> Write, IDisposable? End)> begin,
        IAsyncEnumerable<string[]> clicks,
        CancellationToken cancel
    )
    {
        using var buffer = new MemoryStream(2 * Room);
        var (write, end) = begin(buffer);
        await foreach (var cells in clicks.WithCancellation(cancel))
        {
            write(cells);
            if (buffer.Length >= Room)
            {
                await PassOn();
            }
        }

        end?.Dispose();
        await PassOn();

        async Task PassOn()
        {
            await response.WriteAsync(buffer.GetBuffer().AsMemory(0, (int)buffer.Length), cancel);
            buffer.SetLength(0);
        }
    }

    private static void Write(MemoryStream file, string[] cells)
    {
        using (var json = new Utf8JsonWriter(file))
        {
            json.WriteStartObject();
            for (var column = 0; column < cells.Length; column++)
            {
                if (Columns[column].Name is Tags or Pixels)
                {
                    json.WritePropertyName(Names[column]);
                    json.WriteRawValue(cells[column]);
                }
                else
                {
                    json.WriteString(Names[column], cells[column]);
                }
            }

            json.WriteEndObject();
        }

        file.WriteByte((byte)'\n');
    }

    private static async IAsyncEnumerable<string[]> Clicks(
        Question question,
        string? kinds,
        Counting counting,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        await using var snapshot = await counting.OpenLong(cancel);
        var days = Core.Reports.DateRange.Of(question.Period);
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
                where {CountedSql.During(days, question.Zone)} {(kinds == "all" ? "" : $"and {CountedSql.IsOfPerson}")}) c
            {CountedSql.Joins(question, [Dimensions.All["network"]])} where true {CountedSql.ClickFilters(question)}
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

    private static Question? Read(HttpRequest request, string? kinds, CurrentMember member, IClock clock, FieldErrors errors)
    {
        if (kinds is not (null or "people" or "all"))
        {
            errors.Add("kinds", new ValidationError("kinds", "Choose “people” for clicks by people, or “all” for everything recorded."));
        }

        // The clicks themselves are by nothing; the question wants to be by something.
        var query = request.Query.Where(q => q.Key != "kinds").ToDictionary(q => q.Key, q => q.Value);
        query["by"] = "link";
        return QuestionReader.Read(new QueryCollection(query), member, clock.GetCurrentInstant(), errors);
    }
}
