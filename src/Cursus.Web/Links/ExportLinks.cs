using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text.Json;
using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using MiniExcelLibs;
using NodaTime;
using Route = Cursus.Core.Routing.Route;

namespace Cursus.Web.Links;

/// <summary>POST /links/files: links to take away, as a table or a line of JSON each.</summary>
public static class ExportLinks
{
    private const int Portion = 500;

    private static readonly byte[] LineEnd = "\n"u8.ToArray();

    private static readonly string[] Columns =
    [
        "short address",
        "title",
        "destination",
        "leads to",
        "channel",
        "campaign",
        "source",
        "medium",
        "term",
        "content",
        "tags",
        "folder",
        "note",
        "redirect",
        "made on",
        "made by",
        "clicks",
        "last click",
        "state",
        "earlier addresses",
        "clicks brought along",
        "opens",
        "ends",
        "saved route",
        "split",
        "rules",
        .. LinkOptionFields.All.Select(o => o.Name.ToLowerInvariant()),
    ];

    /// <summary>A link with its rules and the name of the saved route that they come from.</summary>
    private sealed record Exported(LinkResponse Link, Route? Route, string? SavedRoute);

    /// <param name="Format"><c>csv</c> (default), <c>xlsx</c> or <c>ndjson</c>.</param>
    public sealed record Request(LinkSelection? Links, string? Format = null);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapPost("/links/files", Handle)
            .ForViewers()
            .OnlyReading()
            .Holding(Held.Download)
            .NotedAsExport("links")
            .WithSummary("Export links as CSV, spreadsheet or JSON Lines")
            .Produces(200, contentType: "application/octet-stream");

    private static async Task<IResult> Handle(
        Request request,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        IOptions<JsonOptions> json,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var ids = await (request.Links ?? new()).Find(db, member, clock.GetCurrentInstant(), errors, cancel);
        if (request.Format is not (null or "csv" or "xlsx" or "ndjson"))
        {
            errors.Add("format", new ValidationError("format", "Choose csv, xlsx or ndjson."));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var links = Read(ids, member, db, options, clock.GetCurrentInstant(), cancel);
        return request.Format switch
        {
            "ndjson" => TypedResults.Stream(
                stream => WriteLines(stream, links, json.Value.SerializerOptions, cancel),
                "application/x-ndjson",
                "links.ndjson"
            ),
            "xlsx" => await Workbook(links, member.Zone, cancel),
            _ => TypedResults.Stream(stream => WriteTable(stream, links, member.Zone, cancel), CsvFile.ContentType, "links.csv"),
        };
    }

    private static async IAsyncEnumerable<Exported> Read(
        IReadOnlyList<Guid> ids,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        Instant now,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var names = await db.SavedRoutes.Where(r => r.WorkspaceId == member.WorkspaceId).ToDictionaryAsync(r => r.Id, r => r.Name, cancel);
        foreach (var portion in ids.Chunk(Portion))
        {
            var rows = await db.Links.Where(l => portion.Contains(l.Id)).OrderBy(l => l.CreatedAt).ThenBy(l => l.Id).Read(db, now, cancel);
            foreach (var row in rows)
            {
                yield return new(
                    LinkResponse.Of(row, options),
                    row.Route is { } route ? RouteText.Read(route) : null,
                    row.RouteId is { } saved ? names.GetValueOrDefault(saved) : null
                );
            }
        }
    }

    private static async Task WriteTable(Stream stream, IAsyncEnumerable<Exported> links, DateTimeZone zone, CancellationToken cancel)
    {
        await using var writer = CsvFile.Begin(stream);
        CsvFile.Write(writer, Columns);
        await foreach (var link in links)
        {
            CsvFile.Write(writer, Cells(link, zone));
            await writer.FlushAsync(cancel);
        }
    }

    private static async Task WriteLines(Stream stream, IAsyncEnumerable<Exported> links, JsonSerializerOptions json, CancellationToken cancel)
    {
        await foreach (var link in links)
        {
            await JsonSerializer.SerializeAsync(stream, link.Link, json, cancel);
            await stream.WriteAsync(LineEnd, cancel);
        }
    }

    private static async Task<IResult> Workbook(IAsyncEnumerable<Exported> links, DateTimeZone zone, CancellationToken cancel)
    {
        var rows = new List<Dictionary<string, object?>>();
        await foreach (var link in links.WithCancellation(cancel))
        {
            rows.Add(
                Columns
                    .Zip(Cells(link, zone))
                    .ToDictionary(
                        c => c.First,
                        c =>
                            c.First is "clicks" or "redirect" or "clicks brought along" && c.Second is not null
                                ? (object?)long.Parse(c.Second!, CultureInfo.InvariantCulture)
                                : c.Second
                    )
            );
        }

        var content = new MemoryStream();
        await content.SaveAsAsync(rows, sheetName: "Links", cancellationToken: cancel);
        content.Position = 0;
        return TypedResults.Stream(content, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "links.xlsx");
    }

    /// <summary>As entered; or as browsers read it where a list that is brought in would be freed from something, so that what is taken away can be
    /// brought in again.</summary>
    private static string Listed(string destination) =>
        PastedAddress.Clean(destination) != destination && Destination.TryParse(destination, out var read, out _)
            ? read.Address.ToString()
            : destination;

    private static string?[] Cells(Exported exported, DateTimeZone zone) =>
        [
            .. OfLink(exported.Link, zone),
            exported.SavedRoute,
            exported.Route is { Rules.Count: 0, Otherwise: { } split } ? SplitText.Of(split) : null,
            exported.Route is { Rules.Count: > 0 } rules ? RouteWords.Of(rules, zone) : null,
            .. LinkOptionFields.All.Select(o => o.Written(exported.Link.Options)),
        ];

    private static string?[] OfLink(LinkResponse link, DateTimeZone zone) =>
        [
            link.ShortUrl,
            link.Title,
            Listed(link.Destination),
            link.FinalUrl,
            link.Channel,
            link.Campaign,
            link.Source,
            link.Medium,
            link.Term,
            link.Content,
            string.Join(", ", link.Tags),
            link.Folder,
            link.Note,
            CsvFile.Text(link.Redirect),
            CsvFile.Time(link.CreatedAt, zone),
            link.CreatedBy,
            CsvFile.Text(link.Clicks),
            link.LastClickAt is { } last ? CsvFile.Time(last, zone) : null,
            ApiNames.Of(link.State),
            string.Join(", ", link.Aliases),
            link.ImportedClicks is { } elsewhere ? CsvFile.Text(elsewhere) : null,
            link.OpensAt is { } opens ? CsvFile.Time(opens, zone) : null,
            link.EndsAt is { } ends ? CsvFile.Time(ends, zone) : null,
        ];
}
