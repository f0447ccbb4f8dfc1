using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Links.Bulk;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>
/// Merging one channel into another: its links and all their clicks, past ones too, count for the other from then on, and everything that names it
/// names the other. Links keep their addresses, so source and medium stay what visitors already carry.
/// </summary>
internal static class ChannelMerge
{
    /// <param name="Into">Key of the channel that stays.</param>
    public sealed record Request(string? Into);

    /// <summary>What retiring, merging or deleting a channel is about.</summary>
    /// <param name="Links">Links that are not deleted.</param>
    /// <param name="Posts">Posts with such a link.</param>
    /// <param name="Sites">Referring sites assigned to it.</param>
    /// <param name="Recipes">Recipes that use it.</param>
    public sealed record Usage(int Links, int Posts, int Sites, int Recipes);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/channels/{id:guid}/usage", UsageOf).ForViewers().WithSummary("What a channel is used for");
        api.MapPost("/channels/{id:guid}/merge", Merge)
            .ForOwners()
            .WithSummary("Merge a channel into another; its links, clicks and pixels go to the other");
    }

    private static async Task<Results<Ok<Usage>, ProblemHttpResult>> UsageOf(
        Guid id,
        CurrentMember member,
        CursusDb db,
        SavedRequest saved,
        CancellationToken cancel
    )
    {
        if (await Channels.Mine(db, member).FirstOrDefaultAsync(c => c.Id == id, cancel) is not { } channel)
        {
            return ApiProblem.NotFound("channel");
        }

        var links = db.Links.Where(l => l.ChannelId == id && l.DeletedAt == null);
        var recipes = await db.Recipes.Where(r => r.WorkspaceId == member.WorkspaceId).Select(r => r.Content).ToListAsync(cancel);
        return TypedResults.Ok(
            new Usage(
                await links.CountAsync(cancel),
                await links.Where(l => l.Placement != null).Select(l => l.Placement!.PostId).Distinct().CountAsync(cancel),
                await db.ReferrerRules.CountAsync(r => r.ChannelId == id, cancel),
                recipes.Count(content => saved.Read(content).Placements?.Any(p => p.Channel == channel.Key) == true)
            )
        );
    }

    private static async Task<Results<Ok<Channels.Response>, ProblemHttpResult>> Merge(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        BulkEditRun links,
        SavedRequest saved,
        LinkFeed feed,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        var from = await Channels.Mine(db, member).AsNoTracking().FirstOrDefaultAsync(c => c.Id == id, cancel);
        if (from is null)
        {
            return ApiProblem.NotFound("channel");
        }

        var into = await Channels.Mine(db, member).AsNoTracking().FirstOrDefaultAsync(c => c.Key == request.Into && c.Id != id, cancel);
        if (into is null)
        {
            return ApiProblem.Invalid("into", new ValidationError("channel-unknown", "Choose another channel of this workspace to merge into."));
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await TellApart(db, from, into, cancel);
        var ids = await db.Links.Where(l => l.ChannelId == id).OrderBy(l => l.Id).Select(l => l.Id).ToListAsync(cancel);
        await links.Rewrite(null, ids, (_, state) => state with { ChannelId = into.Id }, member, clock.GetCurrentInstant(), _ => { }, cancel);
        await db.ReferrerRules.Where(r => r.ChannelId == id).ExecuteUpdateAsync(r => r.SetProperty(x => x.ChannelId, into.Id), cancel);
        await db.Database.ExecuteSqlAsync(
            $"insert into channel_pixels (channel_id, pixel_id) select {into.Id}, pixel_id from channel_pixels where channel_id = {id} on conflict do nothing",
            cancel
        );
        await Rename(db, member, saved, from.Key, into.Key, cancel);
        audit.Add(AuditAction.Deleted, "channels", id, from.Name, $"merged into “{into.Name}”");
        await db.SaveChangesAsync(cancel);
        await Channels.Mine(db, member).Where(c => c.Id == id).ExecuteDeleteAsync(cancel);
        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok(Channels.Of(into));
    }

    /// <summary>Where a post has links for both channels, those of the one that goes get its name as their variant, so that they can still be told
    /// apart.</summary>
    private static async Task TellApart(CursusDb db, Channel from, Channel into, CancellationToken cancel)
    {
        var both = await db
            .Placements.Where(p => p.Link!.ChannelId == from.Id)
            .Where(p => db.Placements.Any(o => o.PostId == p.PostId && o.Link!.ChannelId == into.Id && o.Variant == p.Variant))
            .ToListAsync(cancel);
        foreach (var placement in both)
        {
            placement.Variant = string.Join(' ', new[] { from.Name, placement.Variant }.Where(part => !string.IsNullOrEmpty(part)));
        }

        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Recipes, drafts, saved views and saved filters name channels by their keys.</summary>
    private static async Task Rename(CursusDb db, CurrentMember member, SavedRequest saved, string from, string into, CancellationToken cancel)
    {
        foreach (var recipe in await db.Recipes.Where(r => r.WorkspaceId == member.WorkspaceId).ToListAsync(cancel))
        {
            recipe.Content = WithChannel(recipe.Content, saved, from, into);
        }

        foreach (var draft in await db.Drafts.Where(d => d.WorkspaceId == member.WorkspaceId).ToListAsync(cancel))
        {
            draft.Content = WithChannel(draft.Content, saved, from, into);
        }

        foreach (var view in await db.SavedViews.Where(v => v.WorkspaceId == member.WorkspaceId).ToListAsync(cancel))
        {
            view.Question = WithChannel(view.Question, from, into);
        }

        foreach (var filter in await db.SavedFilters.Where(f => f.WorkspaceId == member.WorkspaceId).ToListAsync(cancel))
        {
            filter.Filter = WithChannel(filter.Filter, from, into);
        }
    }

    private static string WithChannel(string content, SavedRequest saved, string from, string into)
    {
        var request = saved.Read(content);
        return request.Placements?.Any(p => p.Channel == from) != true
            ? content
            : saved.Write(
                request with
                {
                    Placements =
                    [
                        .. request.Placements.Select(p => p.Channel == from ? p with { Channel = into } : p).DistinctBy(p => (p.Channel, p.Variant)),
                    ],
                }
            );
    }

    /// <summary>A query string with one channel’s key for the other’s; several stand apart as a view keeps them, or in one list as a filter
    /// does.</summary>
    private static string WithChannel(string query, string from, string into)
    {
        var asked = QueryHelpers.ParseQuery(query);
        if (!asked.TryGetValue("channel", out var values) || !values.Any(v => v!.Split(',').Contains(from)))
        {
            return query;
        }

        asked["channel"] = values.Select(v => string.Join(',', v!.Split(',').Select(c => c == from ? into : c).Distinct())).Distinct().ToArray();
        return QueryHelpers.AddQueryString("", asked)[1..];
    }
}
