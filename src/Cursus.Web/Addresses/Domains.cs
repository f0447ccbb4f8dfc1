using System.Security.Cryptography;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Urls;
using Cursus.Core.Links;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Addresses;

/// <summary>/domains: the workspace's short domains.</summary>
public static class Domains
{
    public sealed record Request(string? Name);

    /// <param name="IsDefault">True makes it the domain of new links.</param>
    /// <param name="BarePage">Where the bare domain goes; an empty string shows a plain page, as with the next two.</param>
    /// <param name="UnknownPage">Where unknown slugs go.</param>
    /// <param name="EndedPage">Where links that have ended go.</param>
    /// <param name="Redirect">Redirect type of new links; 0 for the workspace's.</param>
    /// <param name="HasOwnOptions">Whether new links use the domain's options instead of the workspace's; true if options are sent.</param>
    /// <param name="Options">Options of new links.</param>
    public sealed record Edit(
        bool? IsDefault = null,
        string? BarePage = null,
        string? UnknownPage = null,
        string? EndedPage = null,
        int? Redirect = null,
        bool? HasOwnOptions = null,
        LinkOptionsPatch? Options = null
    );

    /// <param name="Key">The domain's name, as requests and reports write it.</param>
    /// <param name="IsVerified">Whether it points here, so its links work.</param>
    /// <param name="IsApex">Whether it is the registered domain itself, which needs address records instead of a CNAME.</param>
    /// <param name="Records">The DNS records needed and those found; empty if none are needed.</param>
    /// <param name="TimeToLive">TTL for the records, in seconds.</param>
    /// <param name="HasOwnOptions">Whether new links use its options instead of the workspace's.</param>
    /// <param name="FailingSince">Since when the records of a domain that was good have been wrong.</param>
    /// <param name="CertificateEndsAt">When the current certificate expires; null if none was seen.</param>
    /// <param name="Shown">The name as people read it, in Unicode if it has non-ASCII letters.</param>
    public sealed record Response(
        Guid Id,
        string Key,
        string Name,
        string Shown,
        bool IsVerified,
        bool IsDefault,
        string? BarePage,
        string? UnknownPage,
        string? EndedPage,
        int? Redirect,
        bool HasOwnOptions,
        LinkOptions Options,
        Instant CreatedAt,
        bool IsApex,
        IReadOnlyList<DomainFinding> Records,
        int TimeToLive,
        Instant? CheckedAt,
        Instant? NextCheckAt,
        Instant? FailingSince,
        Instant? CertificateEndsAt
    );

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/domains", List).ForViewers().WithSummary("Short domains");
        api.MapPost("/domains", Add).ForOwners().WithSummary("Add a short domain");
        api.MapGet("/domains/{id:guid}", Get).ForViewers().WithSummary("One short domain");
        api.MapPatch("/domains/{id:guid}", Change).ForOwners().WithSummary("Change a short domain");
        api.MapPost("/domains/{id:guid}/check", Check).ForEditors().WithSummary("Check a short domain’s records now");
        api.MapDelete("/domains/{id:guid}", Remove).ForOwners().WithSummary("Delete a short domain that has no links");
    }

    private static Response Of(ShortDomain d, CursusOptions options) =>
        new(
            d.Id,
            d.Name,
            d.Name,
            DomainName.Shown(d.Name),
            d.VerifiedAt is not null,
            d.IsDefault,
            d.BarePage,
            d.UnknownPage,
            d.EndedPage,
            d.Redirect,
            d.HasOwnOptions,
            d.Options,
            d.CreatedAt,
            PublicSuffix.IsApex(d.Name),
            DomainCheck.Findings(d, options),
            DomainRecords.TimeToLive,
            d.CheckedAt,
            d.NextCheckAt,
            d.FailingSince,
            d.CertificateEndsAt
        );

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    ) => TypedResults.Ok(await page.Of(Mine(db, member).OrderByDescending(d => d.IsDefault).ThenBy(d => d.Name), d => Of(d, options), cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(
        Guid id,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    ) =>
        await Mine(db, member).FirstOrDefaultAsync(d => d.Id == id, cancel) is { } domain
            ? TypedResults.Ok(Of(domain, options))
            : ApiProblem.NotFound("domain");

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CursusOptions options,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        if (DomainName.Parse(request.Name ?? "", options, errors, "name") is not { } name)
        {
            return ApiProblem.Invalid(errors);
        }

        // Whoever holds a name that needs proof may move it here by changing the proof; one without proof stays with who came first.
        var isVerified = DomainName.NeedsNoProof(name);
        if (await db.Domains.AnyAsync(d => d.Name == name && (d.WorkspaceId == member.WorkspaceId || (isVerified && d.VerifiedAt != null)), cancel))
        {
            return ApiProblem.Conflict("domain-taken", $"{name} is already in use, here or in another workspace. Choose another name.");
        }

        var now = clock.GetCurrentInstant();
        var domain = new ShortDomain
        {
            WorkspaceId = member.WorkspaceId,
            Name = name,
            CreatedAt = now,
            Proof = RandomNumberGenerator.GetHexString(32, lowercase: true),
            NextCheckAt = isVerified ? null : now,
            VerifiedAt = isVerified ? now : null,
            IsDefault = isVerified && !await Mine(db, member).AnyAsync(d => d.IsDefault, cancel),
        };
        db.Add(domain);
        audit.Add(AuditAction.DomainAdded, "domains", domain.Id, name);
        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Created($"/api/v1/domains/{domain.Id}", Of(domain, options));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Edit request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CursusOptions cursus,
        AuditTrail audit,
        AuditDetail details,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member).FirstOrDefaultAsync(d => d.Id == id, cancel) is not { } domain)
        {
            return ApiProblem.NotFound("domain");
        }

        var before = Settings.Of(domain);
        var errors = new FieldErrors();
        domain.BarePage = Page(request.BarePage, domain.BarePage, domain, errors, "barePage");
        domain.UnknownPage = Page(request.UnknownPage, domain.UnknownPage, domain, errors, "unknownPage");
        domain.EndedPage = Page(request.EndedPage, domain.EndedPage, domain, errors, "endedPage");
        domain.Redirect = request.Redirect switch
        {
            null => domain.Redirect,
            0 => null,
            { } status => Vocabulary.ReadRedirect(status, 302, errors),
        };
        var options = domain.HasOwnOptions ? domain.Options : member.Workspace.Options;
        domain.HasOwnOptions = request.HasOwnOptions ?? (domain.HasOwnOptions || request.Options is not null);
        domain.Options = domain.HasOwnOptions ? Vocabulary.ReadOptions(request.Options, errors).Over(options) : LinkOptions.Plain;
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (request.IsDefault == true && !domain.IsDefault)
        {
            if (domain.VerifiedAt is null)
            {
                return ApiProblem.Conflict(
                    "domain-unverified",
                    $"{domain.Name} doesn’t point here yet, so it can’t be the default. Set its records first."
                );
            }

            await Mine(db, member).Where(d => d.IsDefault).ExecuteUpdateAsync(d => d.SetProperty(x => x.IsDefault, false), cancel);
            domain.IsDefault = true;
        }

        if (details.Of(before, Settings.Of(domain)) is { } detail)
        {
            audit.Add(AuditAction.DomainChanged, "domains", id, domain.Name, detail);
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok(Of(domain, cursus));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Check(
        Guid id,
        CurrentMember member,
        CursusDb db,
        DomainCheck check,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member).FirstOrDefaultAsync(d => d.Id == id, cancel) is not { } domain)
        {
            return ApiProblem.NotFound("domain");
        }

        if (!DomainName.NeedsNoProof(domain.Name))
        {
            await check.Run(domain, cancel);
        }

        return TypedResults.Ok(Of(domain, options));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        AuditTrail audit,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member).FirstOrDefaultAsync(d => d.Id == id, cancel) is not { } domain)
        {
            return ApiProblem.NotFound("domain");
        }

        if (await db.Links.AnyAsync(l => l.DomainId == id, cancel))
        {
            return ApiProblem.Conflict("domain-in-use", $"{domain.Name} has links that would stop working, so it can’t be deleted.");
        }

        db.Remove(domain);
        audit.Add(AuditAction.Deleted, "domains", id, domain.Name);
        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.NoContent();
    }

    /// <summary>What can be changed of a domain, for the audit log.</summary>
    private sealed record Settings(
        bool IsDefault,
        string? BarePage,
        string? UnknownPage,
        string? EndedPage,
        short? Redirect,
        bool HasOwnOptions,
        LinkOptions Options
    )
    {
        public static Settings Of(ShortDomain d) => new(d.IsDefault, d.BarePage, d.UnknownPage, d.EndedPage, d.Redirect, d.HasOwnOptions, d.Options);
    }

    /// <summary>A page of the owner's own in place of a plain one; an empty text takes it away.</summary>
    private static string? Page(string? text, string? given, ShortDomain domain, FieldErrors errors, string field)
    {
        if (text is null)
        {
            return given;
        }

        if (text.Trim().Length == 0)
        {
            return null;
        }

        if (!Destination.TryParse(text, out var destination, out var error))
        {
            errors.Add(field, error);
            return given;
        }

        if (destination.Address.Host == domain.Name)
        {
            errors.Add(field, AddressErrors.LeadsBack(domain.Name));
        }

        return destination.Address.ToString();
    }

    private static IQueryable<ShortDomain> Mine(CursusDb db, CurrentMember member) => db.Domains.Where(d => d.WorkspaceId == member.WorkspaceId);
}
