using Cursus.Core;
using Cursus.Core.Links;
using Cursus.Data;
using Cursus.Data.Checking;
using Cursus.Data.Links;
using Cursus.Web.Access;
using Cursus.Web.Checking;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Links;

/// <summary>Which links to find. Values of one filter are alternatives; all filters must match.</summary>
/// <param name="Query">Words from title, short address, destination, note, campaign or tags, whole or in part.</param>
/// <param name="Tag">Names of tags.</param>
/// <param name="Tags"><c>all</c> of the named tags (default), or <c>any</c>.</param>
/// <param name="Campaign">Keys of campaigns.</param>
/// <param name="Channel">Keys of channels.</param>
/// <param name="Domain">Names of short domains.</param>
/// <param name="Folder">Names of folders; an empty string for links without one.</param>
/// <param name="By">IDs of the members who created them.</param>
/// <param name="Since">The earliest day they were created.</param>
/// <param name="Until">The last one.</param>
/// <param name="Pixels">ID of a pixel that fires for them, <c>any</c>, or <c>none</c>.</param>
/// <param name="Batch">Id of a batch that made them.</param>
/// <param name="Page">ID of a destination page in the link check.</param>
/// <param name="State"><c>live</c>, <c>scheduled</c>, <c>ended</c>, <c>dead</c>, <c>never-clicked</c>, <c>archived</c>, <c>deleted</c>, or <c>all</c>
/// except deleted ones. If omitted, links that are neither archived nor deleted.</param>
public sealed record LinkFilter(
    string? Query = null,
    string[]? Tag = null,
    string? Tags = null,
    string[]? Campaign = null,
    string[]? Channel = null,
    string[]? Domain = null,
    string[]? Folder = null,
    Guid[]? By = null,
    string? Since = null,
    string? Until = null,
    string? Pixels = null,
    Guid? Batch = null,
    string? State = null,
    Guid? Page = null
)
{
    /// <summary>The links that fit, whatever their words; what can't be understood is in <paramref name="errors"/>.</summary>
    /// <param name="tags">Ids of the named tags, by which the database knows beforehand how many links have them.</param>
    internal IQueryable<Link> Narrow(CursusDb db, CurrentMember member, Instant now, IReadOnlyDictionary<string, Guid> tags, FieldErrors errors)
    {
        var links = OfState(db.Links.Where(l => l.WorkspaceId == member.WorkspaceId), db, now, errors);
        if (Tag is { Length: > 0 })
        {
            Guid[] ids = [.. tags.Values];
            links = Tags switch
            {
                "any" => links.Where(l => l.Tags.Any(t => ids.Contains(t.Id))),
                null or "all" => Tag.Select(tags.GetValueOrDefault).Aggregate(links, (found, id) => found.Where(l => l.Tags.Any(t => t.Id == id))),
                _ => Unknown(links, errors, "tags", "Tags are combined with “all” or “any”."),
            };
        }

        links = Campaign is { Length: > 0 } ? links.Where(l => Campaign.Contains(l.Campaign!.Key)) : links;
        links = Channel is { Length: > 0 } ? links.Where(l => Channel.Contains(l.Channel!.Key)) : links;
        links = Domain is { Length: > 0 } ? links.Where(l => Domain.Contains(l.Domain!.Name)) : links;
        links = Folder is { Length: > 0 } ? links.Where(l => Folder.Contains(l.Folder == null ? "" : l.Folder.Name)) : links;
        links = By is { Length: > 0 } ? links.Where(l => l.CreatedBy != null && By.Contains(l.CreatedBy.Value)) : links;
        links = Batch is null ? links : links.Where(l => db.BatchLines.Any(b => b.BatchId == Batch && b.LinkId == l.Id));
        links = Page is null
            ? links
            : links.Where(l =>
                db.CheckedPages.Any(p =>
                    p.Id == Page && p.WorkspaceId == l.WorkspaceId && (p.Key == l.PageKey || l.RoutedPages.Any(r => r.IsUsed && r.PageKey == p.Key))
                )
            );
        return WithPixels(Made(links, member.Zone, errors), db, errors);
    }

    private static IQueryable<Link> LeadingTo(IQueryable<Link> links, IQueryable<CheckedPage> pages) =>
        links.Where(l =>
            l.DeletedAt == null
            && pages.Any(p => p.WorkspaceId == l.WorkspaceId && (p.Key == l.PageKey || l.RoutedPages.Any(r => r.IsUsed && r.PageKey == p.Key)))
        );

    /// <summary>Those that the lists show unless something else is asked for.</summary>
    private static IQueryable<Link> Listed(IQueryable<Link> links) => links.Where(l => l.DeletedAt == null && l.ArchivedAt == null);

    /// <summary>Those that are within their time; see <see cref="LinkSchedule.StageAt"/>.</summary>
    private static IQueryable<Link> Open(IQueryable<Link> links, Instant now) => links.Where(l => !(l.EndsAt <= now) && !(l.OpensAt > now));

    private IQueryable<Link> OfState(IQueryable<Link> links, CursusDb db, Instant now, FieldErrors errors) =>
        State switch
        {
            null => Listed(links),
            "live" => Open(Listed(links), now),
            "scheduled" => links.Where(l => l.DeletedAt == null && l.OpensAt > now && !(l.EndsAt <= now)),
            "ended" => links.Where(l => l.DeletedAt == null && l.EndsAt <= now),
            "never-clicked" => Listed(links).Where(l => !(l.OpensAt > now) && !db.LinkTotals.Any(t => t.LinkId == l.Id)),
            "dead" => Open(LeadingTo(links, CarePages.Dead(db)), now),
            "archived" => links.Where(l => l.DeletedAt == null && l.ArchivedAt != null),
            "deleted" => links.Where(l => l.DeletedAt != null),
            "all" => links.Where(l => l.DeletedAt == null),
            _ => Unknown(links, errors, "state", "State is one of live, scheduled, ended, dead, never-clicked, archived, deleted and all."),
        };

    private IQueryable<Link> WithPixels(IQueryable<Link> links, CursusDb db, FieldErrors errors) =>
        Pixels switch
        {
            null => links,
            "any" => links.Where(l => db.PixelsOfLinks.Any(p => p.LinkId == l.Id)),
            "none" => links.Where(l => !db.PixelsOfLinks.Any(p => p.LinkId == l.Id)),
            _ when Guid.TryParse(Pixels, out var pixel) => links.Where(l => db.PixelsOfLinks.Any(p => p.LinkId == l.Id && p.PixelId == pixel)),
            _ => Unknown(links, errors, "pixels", "Give a pixel’s ID, or “any” or “none”."),
        };

    private IQueryable<Link> Made(IQueryable<Link> links, DateTimeZone zone, FieldErrors errors)
    {
        if (Day(Since, errors, "since") is { } first)
        {
            var from = zone.AtStartOfDay(first).ToInstant();
            links = links.Where(l => l.CreatedAt >= from);
        }

        if (Day(Until, errors, "until") is { } last)
        {
            var to = zone.AtStartOfDay(last.PlusDays(1)).ToInstant();
            links = links.Where(l => l.CreatedAt < to);
        }

        return links;
    }

    private static LocalDate? Day(string? text, FieldErrors errors, string field)
    {
        if (text is null)
        {
            return null;
        }

        if (LocalDatePattern.Iso.Parse(text) is { Success: true, Value: { Year: > 1900 and < 9000 } day })
        {
            return day;
        }

        errors.Add(field, new ValidationError("day", $"“{text}” isn’t a valid date. Write it as year-month-day, such as 2026-11-23."));
        return null;
    }

    private static IQueryable<Link> Unknown(IQueryable<Link> links, FieldErrors errors, string field, string text)
    {
        errors.Add(field, new ValidationError(field, text));
        return links;
    }
}

/// <summary>The links that were found.</summary>
/// <param name="Links">Not yet in any order.</param>
/// <param name="Words">What was asked for.</param>
/// <param name="IsNear">Whether these are only similar matches, because no link has the words as typed.</param>
internal sealed record FoundLinks(IQueryable<Link> Links, string Typed, IReadOnlyList<string> Words, bool IsNear)
{
    /// <summary>Finds links by a filter; the caller holds a transaction, in which they are read.</summary>
    /// <returns>Null with what is wrong in <paramref name="errors"/>.</returns>
    public static async Task<FoundLinks?> Of(
        LinkFilter filter,
        CursusDb db,
        CurrentMember member,
        Instant now,
        FieldErrors errors,
        CancellationToken cancel
    )
    {
        string[] names = filter.Tag ?? [];
        var tags =
            names.Length == 0
                ? []
                : await db
                    .Tags.Where(t => t.WorkspaceId == member.WorkspaceId && names.Contains(t.Name))
                    .ToDictionaryAsync(t => t.Name, t => t.Id, cancel);
        var links = filter.Narrow(db, member, now, tags, errors);
        if (errors.Any)
        {
            return null;
        }

        if (string.IsNullOrWhiteSpace(filter.Query))
        {
            return new FoundLinks(links, "", [], IsNear: false);
        }

        var words = SearchWords.Of(filter.Query);
        if (words.Count == 0)
        {
            return new FoundLinks(links.Where(l => false), filter.Query, words, IsNear: false);
        }

        // Words that some link has are no slips, whatever the other filters leave of them.
        var anywhere = db.Links.Where(l => l.WorkspaceId == member.WorkspaceId && (l.DeletedAt == null || filter.State == "deleted"));
        if (await anywhere.Having(words).AnyAsync(cancel))
        {
            return new FoundLinks(links.Having(words), filter.Query, words, IsNear: false);
        }

        await LinkSearch.AllowSlips(db, cancel);
        return new FoundLinks(links.NearlyHaving(words), filter.Query, words, IsNear: true);
    }
}
