using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Posts;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Digests;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Workspaces;

/// <summary>/workspaces: those of the person who asks, and new ones.</summary>
public static class Workspaces
{
    /// <param name="Key">Its part of addresses, as in /w/northmoor.</param>
    /// <param name="Role">The person’s role in it.</param>
    /// <param name="IsCurrent">Whether the request was made in it.</param>
    /// <param name="ArchivedAt">Since when nothing in it can be changed; null where it is at work.</param>
    /// <param name="DeleteAt">When it is deleted; null where it is not going to be.</param>
    /// <param name="UnreadDigest">First day of the last week that is over, where the person has not read its digest; null where they have.</param>
    public sealed record Response(
        string Key,
        string Name,
        string Role,
        string TimeZone,
        Instant CreatedAt,
        bool IsCurrent,
        Instant? ArchivedAt,
        Instant? DeleteAt,
        LocalDate? UnreadDigest
    );

    /// <param name="TimeZone">IANA name; as in the workspace that is copied, or in the present one, if omitted.</param>
    /// <param name="CopyFrom">Key of a workspace you own, whose channels, tags, folders, UTM values, recipes, QR code styles and settings are
    /// copied.</param>
    public sealed record Request(string? Name, string? TimeZone = null, string? CopyFrom = null);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/workspaces", List).ForViewers().WithSummary("My workspaces");
        api.MapPost("/workspaces", Make).ForOwners().WhileArchived().WithSummary("Create a workspace, perhaps set up as another one");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        return TypedResults.Ok(
            await page.Of(
                db.Members.Include(m => m.Workspace).Where(m => m.AccountId == member.Account.Id).OrderBy(m => m.Workspace!.Name),
                m => Of(m, member, now),
                cancel
            )
        );
    }

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Make(
        Request request,
        CurrentMember member,
        CursusDb db,
        SavedRequest saved,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (errors, name) = (new FieldErrors(), request.Name?.Trim() ?? "");
        if (name.Length is 0 or > WorkspaceSettings.MaxName)
        {
            errors.Add("name", WorkspaceSettings.NoName);
        }

        var copied = string.IsNullOrEmpty(request.CopyFrom)
            ? null
            : await db
                .Members.Where(m => m.AccountId == member.Account.Id && m.Role == Role.Owner && m.Workspace!.Key == request.CopyFrom)
                .Select(m => m.Workspace)
                .SingleOrDefaultAsync(cancel);
        if (!string.IsNullOrEmpty(request.CopyFrom) && copied is null)
        {
            errors.Add("copyFrom", new ValidationError("workspace-unknown", "Choose a workspace that you own to copy from."));
        }

        var zone = string.IsNullOrEmpty(request.TimeZone) ? (copied ?? member.Workspace).TimeZone : request.TimeZone;
        if (DateTimeZoneProviders.Tzdb.GetZoneOrNull(zone) is null)
        {
            errors.Add("timeZone", WorkspaceSettings.NoTimeZone);
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"lock table workspaces in share row exclusive mode", cancel);
        var now = clock.GetCurrentInstant();
        var workspace = new Workspace
        {
            Name = name,
            Key = await WorkspaceKeys.Free(db, name, cancel),
            TimeZone = zone,
            CreatedAt = now,
        };
        db.Add(workspace);
        var owner = await Membership.Begin(db, workspace.Id, member.Account.Id, Role.Owner, now, cancel);
        db.Add(AuditTrail.Created(member, workspace.Id, now, name, copied?.Name));
        await db.SaveChangesAsync(cancel);
        if (copied is not null)
        {
            await SetupCopy.Run((NpgsqlConnection)db.Database.GetDbConnection(), copied.Id, workspace.Id, cancel);
            await WithoutPixels(workspace.Id, db, saved, cancel);
        }

        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Created("/api/v1/workspaces", Of(owner, member, now));
    }

    /// <summary>Recipes name pixels, saved routes and short domains by what they are in the workspace they come from.</summary>
    private static async Task WithoutPixels(Guid workspace, CursusDb db, SavedRequest saved, CancellationToken cancel)
    {
        foreach (var recipe in await db.Recipes.Where(r => r.WorkspaceId == workspace).ToListAsync(cancel))
        {
            var content = saved.Read(recipe.Content);
            recipe.Content = saved.Write(
                content with
                {
                    Pixels = null,
                    Domain = null,
                    RouteId = null,
                    Placements = content.Placements is null
                        ? null
                        : [.. content.Placements.Select(p => p with { Pixels = null, Domain = null, RouteId = null })],
                }
            );
        }

        await db.SaveChangesAsync(cancel);
    }

    private static Response Of(Member of, CurrentMember asking, Instant now)
    {
        var workspace = of.Workspace!;
        var week = DigestReport.LastWeek(now.InZone(DateTimeZoneProviders.Tzdb[workspace.TimeZone]).Date, workspace);
        return new(
            workspace.Key,
            workspace.Name,
            RolePolicies.Name(of.Role),
            workspace.TimeZone,
            workspace.CreatedAt,
            workspace.Id == asking.WorkspaceId,
            workspace.ArchivedAt,
            workspace.DeleteAt,
            of.DigestReadFor >= week ? null : week
        );
    }
}
