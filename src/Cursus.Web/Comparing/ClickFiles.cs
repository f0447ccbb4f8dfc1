using System.Runtime.CompilerServices;
using System.Text.Json;
using Cursus.Core;
using Cursus.Core.Clicks;
using Cursus.Web.Access;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using NodaTime.Text;
using Npgsql;

namespace Cursus.Web.Comparing;

/// <summary>GET /reports/clicks.csv and /reports/clicks.ndjson: the clicks themselves, one a line, to be reckoned with elsewhere. They are passed on as the database reads them, however many there are.</summary>
public static class ClickFiles
{
    private const int Room = 1 << 16;

    private static readonly string[] ByLink = ["link", "channel", "campaign", "source", "medium", "content", "post"];

    /// <summary>The columns of both files.</summary>
    private static readonly string[] Columns = ["at", "kind", .. ByLink, "country", "device", "browser", "os", "language", "referrer", "code"];

    private static readonly JsonEncodedText[] Names = [.. Columns.Select(c => JsonEncodedText.Encode(c))];

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/reports/clicks.csv", Csv).ForViewers().WithSummary("The clicks themselves, as a CSV file");
        api.MapGet("/reports/clicks.ndjson", Lines).ForViewers().WithSummary("The clicks themselves, one JSON object a line");
    }

    /// <param name="kinds"><c>people</c>, or <c>all</c> for those that don't count too; people where left out.</param>
    /// <param name="bom">Whether the file begins with a byte order mark, by which spreadsheets know UTF-8; true where left out.</param>
    private static Results<PushStreamHttpResult, ProblemHttpResult> Csv(
        [AsParameters] BreakdownReport.Asked asked, string? kinds, bool? bom, HttpRequest request, CurrentMember member, Counting counting, IClock clock, CancellationToken cancel)
    {
        _ = asked;
        var errors = new FieldErrors();
        return Read(request, kinds, member, clock, errors) is { } question
            ? TypedResults.Stream(
                stream => Pass(
                    stream,
                    buffer =>
                    {
                        var file = CsvFile.Begin(buffer, bom ?? true);
                        CsvFile.Write(file, Columns);
                        return (cells => CsvFile.Write(file, cells), file);
                    },
                    Clicks(question, kinds, counting, cancel),
                    cancel),
                CsvFile.ContentType,
                question.FileName("clicks", ".csv"))
            : ApiProblem.Invalid(errors);
    }

    private static Results<PushStreamHttpResult, ProblemHttpResult> Lines(
        [AsParameters] BreakdownReport.Asked asked, string? kinds, HttpRequest request, CurrentMember member, Counting counting, IClock clock, CancellationToken cancel)
    {
        _ = asked;
        var errors = new FieldErrors();
        return Read(request, kinds, member, clock, errors) is { } question
            ? TypedResults.Stream(
                stream => Pass(stream, buffer => (cells => Write(buffer, cells), null), Clicks(question, kinds, counting, cancel), cancel),
                "application/x-ndjson",
                question.FileName("clicks", ".ndjson"))
            : ApiProblem.Invalid(errors);
    }

    /// <summary>Writes clicks into a buffer, and passes that on whenever it is full: writers write at once, the response takes only what it is not waited for.</summary>
    /// <param name="begin">Begins the file in the buffer: how a click is written, and what is to be ended after the last.</param>
    private static async Task Pass(
        Stream response, Func<MemoryStream, (Action<string[]> Write, IDisposable? End)> begin, IAsyncEnumerable<string[]> clicks, CancellationToken cancel)
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
                json.WriteString(Names[column], cells[column]);
            }

            json.WriteEndObject();
        }

        file.WriteByte((byte)'\n');
    }

    private static async IAsyncEnumerable<string[]> Clicks(Question question, string? kinds, Counting counting, [EnumeratorCancellation] CancellationToken cancel)
    {
        var groups = ByLink.Select(by => Dimension.All[by]).ToArray();
        var names = ByLink.Select((by, i) => by is "post" or "link" ? $"label{i}" : $"key{i}").ToArray();
        await using var snapshot = await counting.Open(cancel);
        var days = question.Period.In(question.Zone);
        var clicks = snapshot.Rows(
            [.. question.Parameters, ("start", days.Start), ("end", days.End)],
            $"""
            with {CountedSql.Picked(question, groups)}
            select c.at, c.kind, {string.Join(", ", names.Select(n => $"c.{n}"))}, c.country, c.device, c.browser, c.os, c.language, c.referrer_host, c.code
            from (
                select c.at, c.id, c.kind, c.country, ua.device, ua.browser, ua.os, c.language, c.referrer_host, coalesce(nullif(c.code, 0)::text, '') as code, l.coded_link, l.channel_id, {string.Join(", ", names.Select(n => $"l.{n}"))}
                from clicks c join user_agents ua on ua.id = c.user_agent_id join picked l on l.id = c.link_id
                where c.at >= @start and c.at < @end {(kinds == "all" ? "" : "and c.kind = 0")}) c
            {CountedSql.Joins(question, [])} where true {CountedSql.ClickFilters(question)}
            order by c.at, c.id
            """,
            Cells,
            cancel);
        await foreach (var click in clicks)
        {
            yield return click;
        }
    }

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
            errors.Add("kinds", new Flaw("kinds", "Take people’s clicks, “people”, or all that were kept, “all”."));
        }

        // The clicks themselves are by nothing; the question wants to be by something.
        var query = request.Query.Where(q => q.Key != "kinds").ToDictionary(q => q.Key, q => q.Value);
        query["by"] = "link";
        return Question.Read(new QueryCollection(query), member, clock.GetCurrentInstant(), errors);
    }
}
