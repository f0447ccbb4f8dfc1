using System.ComponentModel.DataAnnotations;
using Cursus.Core;
using Cursus.Core.Codes;
using Cursus.Data;
using Cursus.Data.Codes;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Hosting;
using Cursus.Web.Links;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Codes;

/// <summary>/code-styles: the looks that a workspace keeps. One that doesn't scan is not saved.</summary>
public static class CodeStyles
{
    private const int MaxName = 60;

    /// <summary>Saved styles must do for slugs of this length, as most links have; for longer ones they are fitted.</summary>
    private const int SlugToCheck = 16;

    /// <summary>Omitted fields stay as they are.</summary>
    /// <param name="IsDefault">True for the one used by links without a style of their own.</param>
    public sealed record Request(string? Name = null, CodeStyle? Style = null, bool? IsDefault = null);

    /// <param name="Links">How many live links have it.</param>
    public sealed record Response(Guid Id, string Name, CodeStyle Style, bool IsDefault, int Links, Instant CreatedAt);

    /// <param name="Style">Id of the style; null for the workspace's default.</param>
    public sealed record ApplyRequest(Guid? Style, [property: MaxLength(LinkSelection.Most)] IReadOnlyList<Guid> Links);

    /// <param name="Links">How many links use the style now.</param>
    public sealed record Applied(int Links);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/code-styles", List).ForViewers().WithSummary("Styles of QR codes");
        api.MapPost("/code-styles", Add).ForEditors().WithSummary("Save a style; refused if its codes wouldn’t scan");
        api.MapGet("/code-styles/{id:guid}", Get).ForViewers().WithSummary("One style");
        api.MapPatch("/code-styles/{id:guid}", Change).ForEditors().WithSummary("Change a style for all codes that use it");
        api.MapDelete("/code-styles/{id:guid}", Remove).ForEditors().WithSummary("Delete a style; its links use the default");
        api.MapPost("/codes/style", Apply).ForEditors().WithSummary("Apply a style to links");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) => TypedResults.Ok(await page.Of(Rows(db, member).OrderByDescending(r => r.Saved.IsDefault).ThenBy(r => r.Saved.Name), Of, cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Rows(db, member).SingleOrDefaultAsync(r => r.Saved.Id == id, cancel) is { } row
            ? TypedResults.Ok(Of(row))
            : ApiProblem.NotFound("style");

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CodesOfWorkspace codes,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        var saved = new SavedCodeStyle
        {
            WorkspaceId = member.WorkspaceId,
            Name = "",
            Style = "",
            CreatedAt = clock.GetCurrentInstant(),
        };
        if (
            await Set(saved, request with { Name = request.Name ?? "", Style = request.Style ?? CodeStyle.Plain }, codes, db, options, cancel) is
            { } problem
        )
        {
            return problem;
        }

        db.Add(saved);
        await Save(saved, db, cancel);
        return TypedResults.Created($"/api/v1/code-styles/{saved.Id}", Of(await Rows(db, member).SingleAsync(r => r.Saved.Id == saved.Id, cancel)));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Request request,
        CodesOfWorkspace codes,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        if (await db.CodeStyles.SingleOrDefaultAsync(s => s.Id == id && s.WorkspaceId == member.WorkspaceId, cancel) is not { } saved)
        {
            return ApiProblem.NotFound("style");
        }

        if (await Set(saved, request, codes, db, options, cancel) is { } problem)
        {
            return problem;
        }

        await Save(saved, db, cancel);
        return TypedResults.Ok(Of(await Rows(db, member).SingleAsync(r => r.Saved.Id == id, cancel)));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(db.CodeStyles.Where(s => s.Id == id && s.WorkspaceId == member.WorkspaceId), "code-styles", id, s => s.Name, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("style");

    private static async Task<Results<Ok<Applied>, ProblemHttpResult>> Apply(
        ApplyRequest request,
        CodesOfWorkspace codes,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        var style = request.Style is { } id ? await codes.FindStyle(id, cancel) : null;
        if (request.Style is not null && style is null)
        {
            return ApiProblem.NotFound("style");
        }

        var links = await codes.FindLinks(request.Links, cancel);
        if (links.Count < request.Links.Distinct().Count())
        {
            return ApiProblem.NotFound("link");
        }

        if (style is not null && await FirstRefusal(links, style, codes, cancel) is { } refused)
        {
            return refused;
        }

        var ids = links.Select(l => l.Id).ToList();
        return TypedResults.Ok(
            new Applied(
                await db
                    .Links.Where(l => l.WorkspaceId == member.WorkspaceId && ids.Contains(l.Id))
                    .ExecuteUpdateAsync(l => l.SetProperty(x => x.CodeStyleId, request.Style), cancel)
            )
        );
    }

    /// <summary>A style has to do for each link's own address, since longer ones make finer codes.</summary>
    private static async Task<ProblemHttpResult?> FirstRefusal(
        IReadOnlyList<CodesOfWorkspace.LinkRow> links,
        CodeStyle style,
        CodesOfWorkspace codes,
        CancellationToken cancel
    )
    {
        var logo = await codes.FindLogo(style, cancel);
        return links
            .Select(l => CodeFiles.Refusal(FinishedCode.Of(codes.ShortUrl(l), ScannedPath.OwnCode, style, logo), l.Slug))
            .FirstOrDefault(problem => problem is not null);
    }

    private static async Task<ProblemHttpResult?> Set(
        SavedCodeStyle saved,
        Request request,
        CodesOfWorkspace codes,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        saved.Name = request.Name?.Trim() ?? saved.Name;
        saved.IsDefault = request.IsDefault ?? saved.IsDefault;
        if (saved.Name.Length is 0 or > MaxName)
        {
            errors.Add("name", new ValidationError("style-name", $"Enter a style name of at most {MaxName} characters."));
        }

        if (request.Style is { } style)
        {
            var logo = await codes.CheckStyle(style, errors, "style", cancel);
            if (errors.Any)
            {
                return ApiProblem.Invalid(errors);
            }

            var domain = await db
                .Domains.Where(d => d.WorkspaceId == saved.WorkspaceId)
                .Select(d => d.Name)
                .OrderByDescending(d => d.Length)
                .FirstOrDefaultAsync(cancel)
                ?? "short.example";
            if (
                CodeFiles.Refusal(
                    FinishedCode.Of(options.ShortUrl(domain, new string('x', SlugToCheck)), ScannedPath.OwnCode, style, logo),
                    "an address of usual length"
                ) is
                { } refused
            )
            {
                return refused;
            }

            (saved.Style, saved.LogoId) = (CodeStyleJson.Write(style), style.Logo?.Id);
        }

        return errors.Any ? ApiProblem.Invalid(errors)
            : await db.CodeStyles.AnyAsync(s => s.WorkspaceId == saved.WorkspaceId && s.Id != saved.Id && s.Name == saved.Name, cancel)
                ? ApiProblem.Conflict("style-taken", $"There is already a style called “{saved.Name}”. Choose another name.")
            : null;
    }

    /// <summary>Saves; a new default takes the place of the one before in the same transaction.</summary>
    private static async Task Save(SavedCodeStyle saved, CursusDb db, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (saved.IsDefault)
        {
            await db
                .CodeStyles.Where(s => s.WorkspaceId == saved.WorkspaceId && s.Id != saved.Id && s.IsDefault)
                .ExecuteUpdateAsync(s => s.SetProperty(x => x.IsDefault, false), cancel);
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private static Response Of(Row row) =>
        new(row.Saved.Id, row.Saved.Name, CodeStyleJson.ReadStyle(row.Saved.Style), row.Saved.IsDefault, row.Links, row.Saved.CreatedAt);

    private static IQueryable<Row> Rows(CursusDb db, CurrentMember member) =>
        db
            .CodeStyles.AsNoTracking()
            .Where(s => s.WorkspaceId == member.WorkspaceId)
            .Select(s => new Row { Saved = s, Links = db.Links.Count(l => l.CodeStyleId == s.Id && l.DeletedAt == null) });

    private sealed class Row
    {
        public required SavedCodeStyle Saved { get; init; }
        public required int Links { get; init; }
    }
}
