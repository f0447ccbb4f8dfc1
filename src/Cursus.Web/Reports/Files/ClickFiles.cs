using System.Runtime.CompilerServices;
using System.Text.Json;
using Cursus.Core;
using Cursus.Data.Reports.Counts;
using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Reports.Files;

/// <summary>GET /reports/clicks.csv and /reports/clicks.ndjson: the clicks themselves, one a line, with all that any breakdown is made of. They are
/// passed on as the database reads them, however many there are.</summary>
public static class ClickFiles
{
    private const int Room = 1 << 16;

    private static readonly JsonEncodedText[] Names = [.. SingleClicks.Names.Select(name => JsonEncodedText.Encode(name))];

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/reports/clicks.csv", Csv).ForViewers().Holding(Held.Download).NotedAsExport("clicks").WithSummary("Individual clicks as CSV");
        api.MapGet("/reports/clicks.ndjson", Lines)
            .ForViewers()
            .Holding(Held.Download)
            .NotedAsExport("clicks")
            .WithSummary("Individual clicks as JSON Lines");
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
                            CsvFile.Write(file, [.. SingleClicks.Names]);
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
                if (SingleClicks.IsList(column))
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
        await foreach (var click in SingleClicks.Of(snapshot, question, onlyPeople: kinds != "all", cancel))
        {
            yield return click;
        }
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
