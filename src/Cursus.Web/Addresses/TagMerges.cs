using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Tagging;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Links;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Addresses;

/// <summary>/tag-merges: two spellings of one UTM value counted and sent as one. What was recorded stays, so a merge can be taken back.</summary>
public static class TagMerges
{
    /// <param name="From">The spelling to replace.</param>
    /// <param name="Into">The agreed one.</param>
    public sealed record Request(TagField Field, string? From, string? Into);

    /// <param name="Links">Number of links that this merge sends and counts under the agreed value.</param>
    public sealed record Response(Guid Id, TagField Field, string From, string Into, Instant MergedAt, string? MergedBy, int Links);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/tag-merges", List).ForViewers().WithSummary("Merged UTM values, newest first");
        api.MapPost("/tag-merges", Add).ForOwners().WithSummary("Merge a UTM value into another");
        api.MapDelete("/tag-merges/{id:guid}", Undo).ForOwners().WithSummary("Undo a merge: links get and count under their own value again");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            await page.Of(Read(db, db.TagMerges.Where(m => m.WorkspaceId == member.WorkspaceId).OrderByDescending(m => m.MergedAt)), m => m, cancel)
        );

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var (merge, problem) = await Merge(request, member, db, clock, "", cancel);
        if (merge is null)
        {
            return problem!;
        }

        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Created($"/api/v1/tag-merges/{merge.Id}", await Read(db, db.TagMerges.Where(m => m.Id == merge.Id)).SingleAsync(cancel));
    }

    /// <summary>Saves a merge, with the finished addresses of its links; or says what is wrong with it. The caller holds the transaction.</summary>
    /// <param name="prefix">What errors’ fields begin with.</param>
    internal static async Task<(TagMerge? Merge, ProblemHttpResult? Problem)> Merge(
        Request request,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        string prefix,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var (from, into) = (Vocabulary.Tag(request.From, errors, prefix + "from"), Vocabulary.Tag(request.Into, errors, prefix + "into"));
        if (from is not null && from == into)
        {
            errors.Add(prefix + "into", new ValidationError("merge-same", "These are the same value. Choose a different one to merge into."));
        }

        if (errors.Any)
        {
            return (null, ApiProblem.Invalid(errors));
        }

        var merges = db.TagMerges.Where(m => m.WorkspaceId == member.WorkspaceId && m.Field == request.Field);
        if (
            await merges.FirstOrDefaultAsync(m => m.FromValue == from!.Text || m.FromValue == into!.Text || m.IntoValue == from!.Text, cancel) is
            { } other
        )
        {
            return (
                null,
                ApiProblem.Conflict(
                    "merge-chain",
                    $"“{other.FromValue}” is already merged into “{other.IntoValue}”. Undo that first, or merge into “{other.IntoValue}”."
                )
            );
        }

        if (
            request.Field == TagField.Campaign
            && !await db.Campaigns.AnyAsync(c => c.WorkspaceId == member.WorkspaceId && c.Key == into!.Text, cancel)
        )
        {
            return (
                null,
                ApiProblem.Invalid(
                    prefix + "into",
                    new ValidationError("campaign-unknown", $"This workspace has no campaign “{into}”. Choose an existing one.")
                )
            );
        }

        var merge = new TagMerge
        {
            WorkspaceId = member.WorkspaceId,
            Field = request.Field,
            FromValue = from!.Text,
            IntoValue = into!.Text,
            MergedAt = clock.GetCurrentInstant(),
            MergedBy = member.Id,
        };
        db.Add(merge);
        await SendAgain(merge, db, cancel);
        return (merge, null);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Undo(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        AuditTrail audit,
        CancellationToken cancel
    )
    {
        if (await db.TagMerges.FirstOrDefaultAsync(m => m.Id == id && m.WorkspaceId == member.WorkspaceId, cancel) is not { } merge)
        {
            return ApiProblem.NotFound("merge");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        db.Remove(merge);
        audit.Add(AuditAction.Deleted, "tag-merges", id, merge.FromValue);
        await SendAgain(merge, db, cancel);
        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return TypedResults.NoContent();
    }

    /// <summary>Saves, with the finished addresses of all links that carry the given-up value written anew.</summary>
    private static async Task SendAgain(TagMerge merge, CursusDb db, CancellationToken cancel)
    {
        await db.SaveChangesAsync(cancel);
        var merged = await TagWords.ReadMerged(db, merge.WorkspaceId, cancel);
        var links = await Carrying(db, merge.WorkspaceId, merge.Field, merge.FromValue).Include(l => l.Campaign).ToListAsync(cancel);
        foreach (var link in links)
        {
            if (RecordedTags.Of(link, link.Campaign?.Key) is { } recorded)
            {
                link.FinalUrl = Destination.Of(link.Destination).With(merged.Of(recorded)).ToString();
            }
        }

        await db.SaveChangesAsync(cancel);
    }

    private static IQueryable<Link> Carrying(CursusDb db, Guid workspaceId, TagField field, string value) =>
        db.Links.Where(l =>
            l.WorkspaceId == workspaceId
            && (
                (field == TagField.Source && l.Source == value)
                || (field == TagField.Medium && l.Medium == value)
                || (field == TagField.Campaign && l.Campaign!.Key == value)
                || (field == TagField.Term && l.Term == value)
                || (field == TagField.Content && l.Content == value)
            )
        );

    private static IQueryable<Response> Read(CursusDb db, IQueryable<TagMerge> merges) =>
        merges.Select(m => new Response(
            m.Id,
            m.Field,
            m.FromValue,
            m.IntoValue,
            m.MergedAt,
            db.Everybody.Where(x => x.Id == m.MergedBy).Select(x => x.Account!.Name).FirstOrDefault(),
            db.Links.Count(l =>
                l.WorkspaceId == m.WorkspaceId
                && (
                    (m.Field == TagField.Source && l.Source == m.FromValue)
                    || (m.Field == TagField.Medium && l.Medium == m.FromValue)
                    || (m.Field == TagField.Campaign && l.Campaign!.Key == m.FromValue)
                    || (m.Field == TagField.Term && l.Term == m.FromValue)
                    || (m.Field == TagField.Content && l.Content == m.FromValue)
                )
            )
        ));
}
