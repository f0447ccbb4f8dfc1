using Cursus.Core;
using Cursus.Core.Checking;
using Cursus.Data;
using Cursus.Data.Checking;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Audit;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Checking;

/// <summary>/link-checks/settings: whether a workspace's links are checked, by which words a page counts as changed, and where visitors of dead pages
/// go.</summary>
public static class HowLinksAreChecked
{
    /// <param name="GoneWords">Words that mean a page is gone.</param>
    /// <param name="ShippedWords">Those a workspace starts with.</param>
    /// <param name="Fallback">Where visitors go while a destination is broken, unless the campaign or link has its own fallback.</param>
    public sealed record Response(bool IsOn, IReadOnlyList<string> GoneWords, IReadOnlyList<string> ShippedWords, string? Fallback);

    /// <summary>Omitted fields stay as they are; an empty fallback removes it.</summary>
    public sealed record Edit(bool? IsOn = null, IReadOnlyList<string>? GoneWords = null, string? Fallback = null);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/link-checks/settings", Get).ForViewers().WithSummary("Link check settings");
        api.MapPatch("/link-checks/settings", Change).ForOwners().WithSummary("Change link check settings");
    }

    private static async Task<Ok<Response>> Get(CurrentMember member, CursusDb db, CancellationToken cancel) =>
        TypedResults.Ok(Of(await Find(db, member, cancel)));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Edit request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CursusOptions options,
        AuditTrail audit,
        AuditDetail details,
        IClock clock,
        CancellationToken cancel
    )
    {
        var settings = await Find(db, member, cancel);
        var (errors, before) = (new FieldErrors(), Of(settings));
        settings.IsOn = request.IsOn ?? settings.IsOn;
        settings.GoneWords = request.GoneWords is null ? settings.GoneWords : ReadWords(request.GoneWords, errors);
        settings.Fallback = (await Vocabulary.Load(db, member, options, cancel)).Fallback(request.Fallback, settings.Fallback, errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (details.Of(before, Of(settings)) is { } detail)
        {
            audit.Add(AuditAction.SettingsChanged, "link-check", detail: detail);
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.SaveChangesAsync(cancel);
        if (request.GoneWords is not null)
        {
            // Pages are read anew with the new words, though they themselves may not have changed.
            var now = clock.GetCurrentInstant();
            await db
                .CheckedPages.Where(p => p.WorkspaceId == member.WorkspaceId && p.Validator != null)
                .ExecuteUpdateAsync(p => p.SetProperty(x => x.Validator, (string?)null), cancel);
            await db
                .CheckedPages.Where(p => p.WorkspaceId == member.WorkspaceId && (p.Verdict == PageVerdict.Fine || p.Verdict == PageVerdict.Changed))
                .ExecuteUpdateAsync(p => p.SetProperty(x => x.NextCheckAt, now), cancel);
        }

        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok(Of(settings));
    }

    private static string[] ReadWords(IReadOnlyList<string> typed, FieldErrors errors)
    {
        string[] words = [.. typed.Select(w => (w ?? "").Trim()).Where(w => w.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase)];
        if (words.Length > GoneWords.Most)
        {
            errors.Add("goneWords", new ValidationError("words-many", $"List at most {GoneWords.Most} words."));
        }

        if (words.FirstOrDefault(w => w.Length is < 3 or > GoneWords.MaxLength) is { } wrong)
        {
            errors.Add(
                "goneWords",
                new ValidationError(
                    "word",
                    $"“{wrong}” can’t be used. Enter 3 to {GoneWords.MaxLength} characters, for example “no longer available”."
                )
            );
        }

        return words;
    }

    /// <summary>The workspace's settings, or new ones with the defaults that are saved with the next change.</summary>
    private static async Task<LinkCheckSettings> Find(CursusDb db, CurrentMember member, CancellationToken cancel)
    {
        var settings = await db.LinkCheckSettings.SingleOrDefaultAsync(s => s.WorkspaceId == member.WorkspaceId, cancel);
        return settings ?? db.Add(new LinkCheckSettings { WorkspaceId = member.WorkspaceId }).Entity;
    }

    private static Response Of(LinkCheckSettings s) => new(s.IsOn, s.GoneWords, GoneWords.Defaults, s.Fallback);
}
