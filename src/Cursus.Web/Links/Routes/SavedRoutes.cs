using Cursus.Core;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Audit;
using Cursus.Web.Hosting;
using Cursus.Web.Links.Bulk;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Links.Routes;

/// <summary>/routes: rules kept under a name, which any number of links follow and change with.</summary>
public static class SavedRoutes
{
    private const int MaxName = 80;

    public sealed record Request(string? Name = null, RouteBody? Routes = null);

    /// <param name="Words">Its rules in one line.</param>
    /// <param name="Links">How many links follow it.</param>
    /// <param name="Version">Counts changes of its rules.</param>
    public sealed record Response(Guid Id, string Name, RouteBody Routes, string Words, int Links, int Version, Instant ChangedAt);

    /// <param name="Until">Null for the current version.</param>
    /// <param name="MadeBy">Null if that member has left.</param>
    /// <param name="Words">Its rules in one line.</param>
    public sealed record Version(int Number, Instant Since, Instant? Until, string? MadeBy, RouteBody Routes, string Words);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/routes", List).ForViewers().WithSummary("Saved routes");
        api.MapPost("/routes", Add).ForEditors().WithSummary("Save rules under a name");
        api.MapGet("/routes/{id:guid}", Get).ForViewers().WithSummary("One saved route");
        api.MapGet("/routes/{id:guid}/history", History).ForViewers().WithSummary("Versions of a saved route, current version first");
        api.MapPatch("/routes/{id:guid}", Change).ForEditors().WithSummary("Rename a saved route, or change it with all links that follow it");
        api.MapDelete("/routes/{id:guid}", Remove).ForEditors().WithSummary("Delete a saved route; links keep its rules as their own");
    }

    private static async Task<Ok<Page<Response>>> List([AsParameters] PageRequest page, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var links = await db
            .Links.Where(l => l.WorkspaceId == member.WorkspaceId && l.RouteId != null && l.DeletedAt == null)
            .GroupBy(l => l.RouteId!.Value)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        return TypedResults.Ok(await page.Of(Mine(db, member).OrderBy(r => r.Name), r => Of(r, member, links.GetValueOrDefault(r.Id)), cancel));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Mine(db, member).FirstOrDefaultAsync(r => r.Id == id, cancel) is { } route
            ? TypedResults.Ok(await Of(route, member, db, cancel))
            : ApiProblem.NotFound("saved route");

    private static async Task<Results<Ok<Page<Version>>, ProblemHttpResult>> History(
        Guid id,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member).AsNoTracking().FirstOrDefaultAsync(r => r.Id == id, cancel) is not { } route)
        {
            return ApiProblem.NotFound("saved route");
        }

        var names = await MemberNames.Of(db, member, cancel);
        var former = await db.SavedRouteVersions.Where(v => v.RouteId == id).OrderByDescending(v => v.Number).AsNoTracking().ToListAsync(cancel);
        IReadOnlyList<Version> versions =
        [
            Told(route.Version, route.ChangedAt, null, route.ChangedBy, route.Route),
            .. former.Select(v => Told(v.Number, v.Since, v.Until, v.MadeBy, v.Route)),
        ];
        return TypedResults.Ok(new Page<Version>(versions, null, versions.Count));

        Version Told(int number, Instant since, Instant? until, Guid? by, string text)
        {
            var read = RouteText.Read(text);
            return new(
                number,
                since,
                until,
                by is { } maker ? names.GetValueOrDefault(maker) : null,
                RouteReading.Body(read, member.Zone, new Dictionary<byte, int>()),
                RouteWords.Of(read, member.Zone)
            );
        }
    }

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        LoopCheck loops,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        var route = new SavedRoute
        {
            WorkspaceId = member.WorkspaceId,
            Name = "",
            Route = "",
            ChangedAt = clock.GetCurrentInstant(),
            ChangedBy = member.Id,
        };
        if (
            await Apply(request with { Name = request.Name ?? "", Routes = request.Routes ?? new() }, route, member, db, loops, options, cancel) is
            { } problem
        )
        {
            return problem;
        }

        db.Add(route);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/routes/{route.Id}", Of(route, member, links: 0));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        LoopCheck loops,
        BulkEditRun run,
        LinkFeed feed,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member).FirstOrDefaultAsync(r => r.Id == id, cancel) is not { } route)
        {
            return ApiProblem.NotFound("saved route");
        }

        var now = clock.GetCurrentInstant();
        var (before, version) = (route.Route, Kept(route, now));
        if (await Apply(request, route, member, db, loops, options, cancel) is { } problem)
        {
            return problem;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (route.Route == before)
        {
            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
            return TypedResults.Ok(await Of(route, member, db, cancel));
        }

        db.Add(version);
        (route.Version, route.ChangedAt, route.ChangedBy) = (route.Version + 1, now, member.Id);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException e)
            when (e is DbUpdateConcurrencyException or { InnerException: PostgresException { SqlState: PostgresErrorCodes.UniqueViolation } })
        {
            return ApiProblem.Conflict("overtaken", "Somebody else has just changed this saved route. Reload it, then change it again.");
        }

        var ids = await db.Links.Where(l => l.RouteId == id).Select(l => l.Id).ToListAsync(cancel);
        var following = new GivenRoute(RouteText.Read(route.Route), id);
        string? full = null;
        await run.Rewrite(
            null,
            ids,
            (link, state) =>
            {
                var given = RoutesOfLinks.Given(link, state, following);
                full ??= given is null ? link.Slug : null;
                return given ?? state;
            },
            member,
            now,
            _ => { },
            cancel
        );
        if (full is not null)
        {
            return ApiProblem.Invalid(
                "routes",
                new ValidationError(
                    "too-many-pages",
                    $"“{full}” has had {RoutePages.MaxEver} pages or {RouteEditing.MaxRulesEver} rules already. Give it rules of its own first. No link was changed."
                )
            );
        }

        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok(await Of(route, member, db, cancel));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(Mine(db, member).Where(r => r.Id == id), "routes", id, r => r.Name, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("saved route");

    private static SavedRouteVersion Kept(SavedRoute route, Instant until) =>
        new()
        {
            RouteId = route.Id,
            Number = route.Version,
            Since = route.ChangedAt,
            Until = until,
            MadeBy = route.ChangedBy,
            Route = route.Route,
        };

    private static async Task<ProblemHttpResult?> Apply(
        Request request,
        SavedRoute route,
        CurrentMember member,
        CursusDb db,
        LoopCheck loops,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        var name = request.Name?.Trim() ?? route.Name;
        if (name.Length is 0 or > MaxName)
        {
            return ApiProblem.Invalid("name", new ValidationError("route-name", $"Enter a name of at most {MaxName} characters."));
        }

        if (await db.SavedRoutes.AnyAsync(r => r.WorkspaceId == member.WorkspaceId && r.Name == name && r.Id != route.Id, cancel))
        {
            return ApiProblem.Conflict("route-taken", $"There is already a saved route called “{name}”. Choose another name, or change that one.");
        }

        route.Name = name;
        if (request.Routes is not { } body)
        {
            return null;
        }

        var errors = new FieldErrors();
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        var read = RouteReading.Read(body, vocabulary, errors, "routes.");
        if (!errors.Any && read is { Rules.Count: 0, Otherwise: null })
        {
            errors.Add("routes", new("route-empty", "A saved route needs at least one rule, or pages for everyone. Add one."));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (await loops.Find(read, member, vocabulary, cancel) is { } loop)
        {
            return ApiProblem.Invalid("routes", loop);
        }

        var last = route.LastRule;
        if (RouteEditing.After(route.Route.Length == 0 ? null : RouteText.Read(route.Route), read, ref last) is not { } after)
        {
            return ApiProblem.Invalid(
                "routes",
                new ValidationError("too-many-rules", $"This saved route has had {RouteEditing.MaxRulesEver} rules already. Save a new one.")
            );
        }

        (route.Route, route.LastRule) = (RouteText.Of(after), last);
        return null;
    }

    private static async Task<Response> Of(SavedRoute route, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        Of(route, member, await db.Links.CountAsync(l => l.RouteId == route.Id && l.DeletedAt == null, cancel));

    private static Response Of(SavedRoute route, CurrentMember member, int links)
    {
        var read = RouteText.Read(route.Route);
        return new(
            route.Id,
            route.Name,
            RouteReading.Body(read, member.Zone, new Dictionary<byte, int>()),
            RouteWords.Of(read, member.Zone),
            links,
            route.Version,
            route.ChangedAt
        );
    }

    private static IQueryable<SavedRoute> Mine(CursusDb db, CurrentMember member) => db.SavedRoutes.Where(r => r.WorkspaceId == member.WorkspaceId);
}
