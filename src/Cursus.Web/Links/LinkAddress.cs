using Cursus.Core.Addresses.Slugs;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Links;
using Cursus.Web.Addresses;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Links;

/// <summary>Gives a link another short address; under the one before it is still found, as an alias.</summary>
internal static class LinkAddress
{
    /// <summary>Changes the address; the caller holds the transaction and saves. A problem where the slug is taken.</summary>
    public static async Task<ProblemHttpResult?> Change(Link link, ShortDomain domain, Slug slug, CursusDb db, Instant now, CancellationToken cancel)
    {
        var isSame = link.DomainId == domain.Id && link.SlugKey == slug.Key;
        if (!isSame)
        {
            // One of its own earlier addresses becomes the present one again. It goes first, since the database lets no two have the same.
            var isOwn =
                await db.LinkAliases.Where(a => a.LinkId == link.Id && a.DomainId == domain.Id && a.SlugKey == slug.Key).ExecuteDeleteAsync(cancel)
                == 1;
            if (!isOwn && (await SlugCheck.Run(db, [new SlugRequest(domain.Id, slug, link.Title, "")], now, cancel))[0] is { IsTaken: true } taken)
            {
                return SlugTaken.Problem([("slug", taken)]);
            }

            await SlugCheck.Free(db, domain.Id, [slug.Key], now, cancel);
            db.Add(
                new LinkAlias
                {
                    LinkId = link.Id,
                    DomainId = link.DomainId,
                    Slug = link.Slug,
                    SlugKey = link.SlugKey,
                    CreatedAt = now,
                }
            );
        }

        (link.DomainId, link.Slug, link.SlugKey) = (domain.Id, slug.Text, slug.Key);
        return null;
    }

    /// <summary>Saves; false where somebody else took the slug in this moment.</summary>
    public static async Task<bool> TrySave(CursusDb db, CancellationToken cancel)
    {
        try
        {
            await db.SaveChangesAsync(cancel);
            return true;
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException inner && SlugTaken.Is(inner))
        {
            return false;
        }
    }
}
