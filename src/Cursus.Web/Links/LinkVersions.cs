using Cursus.Core.Links;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Links;

/// <summary>Keeps how links were before they were changed.</summary>
internal static class LinkVersions
{
    /// <summary>The link as it stands; its tags and pixels must be loaded.</summary>
    public static LinkState StateOf(Link link) =>
        new()
        {
            DomainId = link.DomainId,
            Slug = link.Slug,
            Title = link.Title,
            Destination = link.Destination,
            FinalUrl = link.FinalUrl,
            Fallback = link.Fallback,
            OpensAt = link.OpensAt,
            EndsAt = link.EndsAt,
            Source = link.Source,
            Medium = link.Medium,
            Term = link.Term,
            Content = link.Content,
            CampaignId = link.CampaignId,
            ChannelId = link.ChannelId,
            Redirect = link.Redirect,
            Options = link.Options,
            Route = link.Route,
            RouteId = link.RouteId,
            Note = link.Note,
            FolderId = link.FolderId,
            TagIds = [.. link.Tags.Select(t => t.Id).Order()],
            PixelIds = [.. link.Pixels.Select(p => p.Id).Order()],
            ImportedClicks = link.ImportedClicks,
            IsArchived = link.ArchivedAt is not null,
            IsDeleted = link.DeletedAt is not null,
        };

    /// <summary>Makes the changed link a new version and keeps the one before; nothing where nothing is different. The caller saves.</summary>
    /// <param name="before">How it was.</param>
    /// <param name="change">The change of many links that this belongs to.</param>
    public static bool Keep(CursusDb db, Link link, LinkState before, CurrentMember by, Instant now, Guid? change = null)
    {
        var former = before.ToJson();
        if (StateOf(link).ToJson() == former)
        {
            return false;
        }

        db.Add(
            new LinkVersion
            {
                LinkId = link.Id,
                Number = link.Version,
                Since = link.ChangedAt ?? link.CreatedAt,
                Until = now,
                MadeBy = link.Version == 1 ? link.CreatedBy : link.ChangedBy,
                ChangeId = link.ChangeId,
                State = former,
            }
        );
        (link.Version, link.ChangedAt, link.ChangedBy, link.ChangeId) = (link.Version + 1, now, by.Id, change);
        Note(db, link, before, by, now);
        return true;
    }

    /// <summary>The audit log tells of where links lead and of those that are gone; all the rest is in the link's own history.</summary>
    private static void Note(CursusDb db, Link link, LinkState before, CurrentMember by, Instant now)
    {
        if (link.DeletedAt is not null && !before.IsDeleted)
        {
            db.Add(AuditTrail.Entry(by, now, AuditAction.Deleted, "links", link.Id, link.Title, link.Destination));
        }
        else if (link.Destination != before.Destination)
        {
            db.Add(
                AuditTrail.Entry(by, now, AuditAction.DestinationChanged, "links", link.Id, link.Title, $"{before.Destination} → {link.Destination}")
            );
        }
    }

    /// <summary>Whether saving failed because somebody else has changed the link meanwhile: its version is another, or the one before is kept
    /// already.</summary>
    public static bool IsOvertaken(DbUpdateException e) =>
        e
            is DbUpdateConcurrencyException
                or { InnerException: PostgresException { SqlState: PostgresErrorCodes.UniqueViolation, ConstraintName: "pk_link_versions" } };
}
