using System.Globalization;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>GET /batches/template.csv and /batches/{id}/result.csv: the list to fill in, and the list with what came of it.</summary>
public static class BatchFiles
{
    private static readonly string[] TemplateColumns =
    [
        "destination",
        "title",
        "channel",
        "campaign",
        "content",
        "slug",
        "domain",
        "tags",
        "folder",
        "note",
        "redirect",
        "published on",
    ];

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/batches/template.csv", Template).ForEditors().WithSummary("A template to fill in, with this workspace’s own values as examples");
        api.MapGet("/batches/{id:guid}/result.csv", Result).ForEditors().WithSummary("Result of each line of a list");
    }

    private static async Task<FileContentHttpResult> Template(CurrentMember member, CursusDb db, IClock clock, CancellationToken cancel)
    {
        var channels = await db
            .Channels.Where(c => c.WorkspaceId == member.WorkspaceId)
            .OrderBy(c => c.Position)
            .Select(c => c.Key)
            .Take(2)
            .ToListAsync(cancel);
        var campaign = await db
            .Campaigns.Where(c => c.WorkspaceId == member.WorkspaceId)
            .OrderByDescending(c => c.Id)
            .Select(c => c.Key)
            .FirstOrDefaultAsync(cancel)
            ?? "";
        var today = clock.GetCurrentInstant().InZone(member.Zone).Date.ToString("uuuu-MM-dd", CultureInfo.InvariantCulture);
        var examples = (channels.Count == 0 ? [""] : channels).Select(channel =>
            (string[])["https://www.example.org/a-page", "A page of yours", channel, campaign, "", "", "", "", "", "", "", today]
        );
        return CsvFile.Of([TemplateColumns, .. examples], "cursus-template.csv");
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Result(
        Guid id,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        if (await Batches.Mine(db, member).Where(b => b.Id == id && b.DoneAt != null).Select(b => b.Name).FirstOrDefaultAsync(cancel) is not { } name)
        {
            return ApiProblem.NotFound("batch whose links are made");
        }

        var lines = await db
            .BatchLines.Where(l => l.BatchId == id)
            .OrderBy(l => l.Line)
            .ThenBy(l => l.Link!.Channel!.Position)
            .Select(l => new
            {
                l.Line,
                l.Outcome,
                l.Address,
                l.Problem,
                Domain = l.Link!.Domain!.Name,
                Channel = l.Link.Channel!.Key,
                Campaign = l.Link.Campaign!.Key,
                Folder = l.Link.Folder!.Name,
                l.Link,
            })
            .AsNoTracking()
            .ToListAsync(cancel);
        var told = lines.Select(l =>
            l.Link is not { } link
                ? LinesFile.LeftOut(l.Line, l.Outcome, l.Problem, l.Address)
                : new LinesFile.Line(
                    l.Line,
                    l.Outcome,
                    l.Problem,
                    options.ShortUrl(l.Domain, link.Slug),
                    link.FinalUrl,
                    link.Destination,
                    link.Title,
                    l.Channel,
                    l.Campaign,
                    link.Source,
                    link.Medium,
                    link.Term,
                    link.Content,
                    l.Folder,
                    link.CreatedAt,
                    link.Schedule,
                    link.ImportedClicks
                )
        );
        return LinesFile.File([.. told], member.Zone, name, "links");
    }
}
