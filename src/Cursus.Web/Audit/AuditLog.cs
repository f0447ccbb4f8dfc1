using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Audit;

/// <summary>/audit: who did what in this workspace.</summary>
public static class AuditLog
{
    private const int MostInFile = 100_000;

    private static readonly Dictionary<string, AuditAction> Actions = Enum.GetValues<AuditAction>().ToDictionary(a => ApiNames.Of(a));

    /// <param name="Action">What was done.</param>
    /// <param name="Who">Name at the time.</param>
    /// <param name="Token">Name of the API token that was used; null in a browser.</param>
    /// <param name="Kind">What it was done to, as the API’s paths name it, such as links.</param>
    /// <param name="Thing">Which one: its ID, or its key.</param>
    /// <param name="Name">Its name at the time.</param>
    /// <param name="Detail">What changed.</param>
    public sealed record Response(
        Guid Id,
        Instant At,
        AuditAction Action,
        Guid? AccountId,
        string Who,
        string? Token,
        string Kind,
        string? Thing,
        string? Name,
        string? Detail
    );

    /// <param name="Person">ID of an account.</param>
    /// <param name="Action">What was done.</param>
    /// <param name="Kind">What it was done to.</param>
    /// <param name="Query">Words in the name of the thing, or in what changed.</param>
    /// <param name="From">First day, in the workspace’s time zone.</param>
    /// <param name="To">Last day.</param>
    public sealed record Filter(Guid? Person, string? Action, string? Kind, string? Query, string? From, string? To);

    /// <param name="Id">ID of the account.</param>
    public sealed record Person(Guid Id, string Name);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/audit", List).ForOwners().WithSummary("Audit log, newest first; entries are kept for 400 days");
        api.MapGet("/audit/people", People).ForOwners().WithSummary("People with entries in the audit log");
        api.MapGet("/audit.csv", Export)
            .ForOwners()
            .Holding(Held.Download)
            .NotedAsExport("audit")
            .WithSummary("Export the audit log as CSV")
            .Produces(200, contentType: "text/csv");
    }

    private static async Task<Results<Ok<Page<Response>>, ProblemHttpResult>> List(
        [AsParameters] PageRequest page,
        [AsParameters] Filter filter,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var found = Find(filter, member, db, errors);
        return errors.Any ? ApiProblem.Invalid(errors) : TypedResults.Ok(await page.Of(found, Of, cancel));
    }

    private static async Task<Ok<Page<Person>>> People(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            page.Of<Person>([
                .. (
                    await db
                        .AuditEntries.Where(e => e.WorkspaceId == member.WorkspaceId && e.AccountId != null)
                        .GroupBy(e => e.AccountId!.Value)
                        .Select(g => new { g.Key, Name = g.OrderByDescending(e => e.At).First().Who })
                        .ToListAsync(cancel)
                )
                    .Select(p => new Person(p.Key, p.Name))
                    .OrderBy(p => p.Name, StringComparer.OrdinalIgnoreCase),
            ])
        );

    private static async Task<IResult> Export([AsParameters] Filter filter, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var errors = new FieldErrors();
        var found = Find(filter, member, db, errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var entries = await found.Take(MostInFile).ToListAsync(cancel);
        return CsvFile.Of(
            [
                [$"time ({member.Zone.Id})", "who", "token", "action", "kind", "thing", "name", "detail"],
                .. entries.Select(e =>
                    new[] { CsvFile.Time(e.At, member.Zone), e.Who, e.Token, ApiNames.Of(e.Action), e.Kind, e.Thing, e.Name, e.Detail }
                ),
            ],
            "audit-log.csv"
        );
    }

    private static IOrderedQueryable<AuditEntry> Find(Filter filter, CurrentMember member, CursusDb db, FieldErrors errors)
    {
        var entries = db.AuditEntries.AsNoTracking().Where(e => e.WorkspaceId == member.WorkspaceId);
        if (filter.Person is { } person)
        {
            entries = entries.Where(e => e.AccountId == person);
        }

        if (filter.Action is { Length: > 0 } name)
        {
            if (Actions.TryGetValue(name, out var action))
            {
                entries = entries.Where(e => e.Action == action);
            }
            else
            {
                errors.Add("action", new ValidationError("action", $"Choose one of {string.Join(", ", Actions.Keys)}."));
            }
        }

        if (filter.Kind is { Length: > 0 } kind)
        {
            entries = entries.Where(e => e.Kind == kind);
        }

        if (filter.Query?.Trim() is { Length: > 0 } typed)
        {
            var like = Like.Contains(typed);
            entries = entries.Where(e => EF.Functions.ILike(e.Name ?? "", like) || EF.Functions.ILike(e.Detail ?? "", like));
        }

        if (DayField.Read(filter.From, "from", errors) is { } from)
        {
            var begin = member.Zone.AtStartOfDay(from).ToInstant();
            entries = entries.Where(e => e.At >= begin);
        }

        if (DayField.Read(filter.To, "to", errors) is { } to)
        {
            var end = member.Zone.AtStartOfDay(to.PlusDays(1)).ToInstant();
            entries = entries.Where(e => e.At < end);
        }

        return entries.OrderByDescending(e => e.At).ThenByDescending(e => e.Id);
    }

    /// <summary>As JSON writes it: <c>signed-in</c>.</summary>
    private static Response Of(AuditEntry e) => new(e.Id, e.At, e.Action, e.AccountId, e.Who, e.Token, e.Kind, e.Thing, e.Name, e.Detail);
}
