using Cursus.Data;
using Cursus.Data.Archives;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Audit;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Archives;

/// <summary>/archive: everything that a workspace holds, clicks and history included, as one file; and back from it.</summary>
public static class ArchiveOfWorkspace
{
    /// <summary>What the workspace contains now.</summary>
    public sealed record Imported(string From, string MadeAt, int Links, int Posts, long Clicks);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/archive", Export)
            .ForOwners()
            .Holding(Held.Download)
            .NotedAsExport("archive")
            .WithSummary("The whole workspace as a ZIP of NDJSON files; see docs/archive")
            .Produces(200, contentType: "application/zip");
        api.MapPost("/archive", TakeIn)
            .ForOwners()
            .Holding(Held.Download)
            .Accepts<byte[]>("application/zip")
            .WithSummary("Import an archive into this workspace, which must have no links");
    }

    /// <summary>Looks an archive through and brings it into a workspace.</summary>
    /// <exception cref="ArchiveRefusedException">It isn't taken; nothing was changed.</exception>
    /// <param name="by">Who does it; null on the command line.</param>
    internal static async Task<Imported> Import(
        string path,
        Guid into,
        CurrentMember? by,
        ArchiveImport import,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        await using var archive = await ArchiveFile.Open(path, new ArchivedLineRules().Against, cancel);
        var (name, detail) = (archive.Manifest.Workspace, $"as of {archive.Manifest.MadeAt}");
        var note = by is null
            ? AuditTrail.ByCommand(into, now, AuditAction.Imported, "archive", name, detail)
            : AuditTrail.Entry(by, now, AuditAction.Imported, "archive", null, name, detail);
        await import.Run(archive, into, DomainName.NeedsNoProof, now, note, cancel);
        return new Imported(
            archive.Manifest.Workspace,
            archive.Manifest.MadeAt,
            await db.Links.CountAsync(l => l.WorkspaceId == into, cancel),
            await db.Posts.CountAsync(p => p.WorkspaceId == into, cancel),
            await db.LinkTotals.Where(t => db.Links.Any(l => l.Id == t.LinkId && l.WorkspaceId == into)).SumAsync(t => t.Clicks, cancel)
        );
    }

    private static PushStreamHttpResult Export(CurrentMember member, ArchiveWriter writer, IClock clock, HttpContext http, CancellationToken cancel)
    {
        if (http.Features.Get<IHttpBodyControlFeature>() is { } control)
        {
            // The few bytes with which a ZIP ends each of its files are not written asynchronously.
            control.AllowSynchronousIO = true;
        }

        var now = clock.GetCurrentInstant();
        return TypedResults.Stream(
            stream => writer.Write(member.WorkspaceId, member.Workspace.Name, now, stream, cancel),
            "application/zip",
            $"cursus-{now.InZone(member.Zone).Date:uuuu'-'MM'-'dd}.zip"
        );
    }

    private static async Task<Results<Ok<Imported>, ProblemHttpResult>> TakeIn(
        HttpRequest http,
        CurrentMember member,
        ArchiveImport import,
        CursusDb db,
        LinkFeed feed,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        // A year of clicks is larger than any form. What it may become is looked at before it is unpacked.
        var path = Path.GetTempFileName();
        try
        {
            if (!await Spool(http, path, options.Limits.ArchiveMegabytes * 1024L * 1024, cancel))
            {
                return ApiProblem.Of(
                    413,
                    "archive-too-large",
                    $"This archive is larger than this installation’s limit of {options.Limits.ArchiveMegabytes:N0} MB, or than the free disk space. Ask whoever runs it to raise the limit."
                );
            }

            var imported = await Import(path, member.WorkspaceId, member, import, db, clock, cancel);
            await feed.CatchUp();
            return TypedResults.Ok(imported);
        }
        catch (ArchiveRefusedException e)
        {
            return ApiProblem.Invalid("archive", e.Error);
        }
        finally
        {
            File.Delete(path);
        }
    }

    /// <summary>Writes what is sent into a file; false where it is too large, or would leave the disk less room than it takes itself.</summary>
    private static async Task<bool> Spool(HttpRequest http, string path, long most, CancellationToken cancel)
    {
        most = Math.Min(most, new DriveInfo(Path.GetFullPath(path)).AvailableFreeSpace / 2);
        if (http.ContentLength > most)
        {
            return false;
        }

        await using var file = File.Create(path);
        return await RequestSize.TryCopy(http, file, most, cancel);
    }
}
