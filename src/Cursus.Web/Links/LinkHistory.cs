using Cursus.Core;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Links;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>GET /links/{id}/history and POST /links/{id}/restore: who changed what and when, what came of each destination, and going back.</summary>
public static class LinkHistory
{
    /// <param name="Version">Numbered from 1, which is the link as created.</param>
    /// <param name="Since">Since when.</param>
    /// <param name="Until">Until when; null for the current version.</param>
    /// <param name="MadeBy">Who made the change; null if that member has left.</param>
    /// <param name="Many">The bulk change this was part of, if any.</param>
    /// <param name="Destination">As entered.</param>
    /// <param name="FinalUrl">Where visitors went during that time.</param>
    /// <param name="Clicks">People's clicks during that version; null if individual clicks from then have been deleted.</param>
    /// <param name="IsRouted">Whether it had rules then, so that not all of those clicks went to the destination.</param>
    /// <param name="Differences">What changed from the previous version; empty for the first.</param>
    public sealed record Entry(
        int Version,
        Instant Since,
        Instant? Until,
        string? MadeBy,
        string? Many,
        string Destination,
        string FinalUrl,
        long? Clicks,
        bool IsRouted,
        IReadOnlyList<LinkDifference> Differences
    );

    /// <param name="Version">Number of the version to go back to.</param>
    public sealed record RestoreRequest(int? Version);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/links/{id:guid}/history", List).ForViewers().WithSummary("Versions of a link with their clicks, current version first");
        api.MapPost("/links/{id:guid}/restore", Restore)
            .ForEditors()
            .WithSummary("Restore an earlier version of a link; If-Match names the version you last saw");
    }

    private static async Task<Results<Ok<Page<Entry>>, ProblemHttpResult>> List(
        Guid id,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        if (await EditLink.Find(id, member, db, cancel, deletedToo: true) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        var versions = await db.LinkVersions.AsNoTracking().Where(v => v.LinkId == id).OrderBy(v => v.Number).ToListAsync(cancel);
        var present = new LinkVersion
        {
            LinkId = id,
            Number = link.Version,
            Since = link.ChangedAt ?? link.CreatedAt,
            Until = Instant.MaxValue,
            MadeBy = link.Version == 1 ? link.CreatedBy : link.ChangedBy,
            ChangeId = link.ChangeId,
            State = LinkVersions.StateOf(link).ToJson(),
        };
        versions.Add(present);
        var names = await MemberNames.Of(db, member, cancel);
        var changeIds = versions.Select(v => v.ChangeId).OfType<Guid>().ToList();
        var changes = await db.LinkChanges.Where(c => changeIds.Contains(c.Id)).ToDictionaryAsync(c => c.Id, c => c.What, cancel);
        var clicks = await Clicks(id, versions, db, cancel);
        var keptFrom = member.Workspace.ClicksKeptFrom is { } day ? member.Zone.AtStartOfDay(day).ToInstant() : Instant.MinValue;
        var rewriting = await LinkRewriting.Load(db, member, options, cancel);
        var states = versions.ConvertAll(v => LinkState.FromJson(v.State));
        var entries = versions
            .Select(
                (version, i) =>
                    new Entry(
                        version.Number,
                        version.Since,
                        version == present ? null : version.Until,
                        version.MadeBy is { } by ? names.GetValueOrDefault(by) : null,
                        version.ChangeId is { } change ? changes.GetValueOrDefault(change) : null,
                        states[i].Destination,
                        states[i].FinalUrl,
                        version.Since < keptFrom ? null : clicks.GetValueOrDefault(version.Number),
                        states[i].Route is not null,
                        i == 0 ? [] : LinkDifference.Between(states[i - 1], states[i], rewriting.NameOf, member.Zone)
                    )
            )
            .Reverse()
            .ToList();
        return TypedResults.Ok(new Page<Entry>(entries, null, entries.Count));
    }

    private static async Task<Results<Ok<LinkResponse>, ProblemHttpResult>> Restore(
        Guid id,
        RestoreRequest request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CursusOptions options,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await EditLink.Find(id, member, db, cancel, deletedToo: true) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        if (await SeenVersion.Check(http.Request, link, db, cancel) is { } overtaken)
        {
            return overtaken;
        }

        if (await db.LinkVersions.AsNoTracking().FirstOrDefaultAsync(v => v.LinkId == id && v.Number == request.Version, cancel) is not { } version)
        {
            return ApiProblem.Invalid("version", new ValidationError("version", "This link has no such version. Choose one from its history."));
        }

        if (link.SlugFreedAt is not null)
        {
            return EditLink.SlugGivenAway(link);
        }

        var (now, before, state) = (clock.GetCurrentInstant(), LinkVersions.StateOf(link), LinkState.FromJson(version.State));
        var rewriting = await LinkRewriting.Load(db, member, options, cancel);
        var errors = new FieldErrors();
        rewriting.Vocabulary.Destination(state.Destination, errors);
        if (await LinkChannel.Hindrance(db, link, state.ChannelId, cancel) is { } hindrance)
        {
            errors.Add("channel", hindrance);
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (
            rewriting.DomainOf(state.DomainId) is { } domain
            && await LinkAddress.Change(link, domain, Slug.Of(state.Slug), db, now, cancel) is { } taken
        )
        {
            return taken;
        }

        rewriting.Write(link, before, state, now);
        LinkVersions.Keep(db, link, before, member, now);
        return await EditLink.Save(link, member, db, feed, options, http, clock, transaction, cancel);
    }

    /// <summary>People's clicks while each version held, by its number.</summary>
    private static async Task<Dictionary<int, long>> Clicks(Guid link, IReadOnlyList<LinkVersion> versions, CursusDb db, CancellationToken cancel)
    {
        var (numbers, since, until) = (
            versions.Select(v => v.Number).ToArray(),
            versions.Select(v => v.Since).ToArray(),
            versions.Select(v => v.Until).ToArray()
        );

        // The first version also has clicks from before the link's row said so: a demo or an import may bring them along.
        since[0] = Instant.MinValue;
        var counted = await db
            .Database.SqlQuery<VersionClicks>(
                $"""
                select v.number, count(*) as clicks from unnest({numbers}, {since}, {until}) as v (number, since, until)
                join clicks c on c.link_id = {link} and c.kind = 0 and c.at >= v.since and c.at < v.until group by v.number
                """
            )
            .ToListAsync(cancel);
        return counted.ToDictionary(c => c.Number, c => c.Clicks);
    }

    private sealed record VersionClicks(int Number, long Clicks);
}
