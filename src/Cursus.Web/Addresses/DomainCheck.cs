using System.Text.Json;
using Cursus.Core.Addresses;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Edge;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;
using DnsClient;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Addresses;

/// <summary>Looks a short domain's records up, writes down what was found, and lets the edge answer on it when they are good.</summary>
internal sealed class DomainCheck(CursusDb db, NameLookup names, LinkFeed feed, CursusOptions options, IClock clock)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    /// <summary>The findings of the last check, or what is still to be found where there was none.</summary>
    public static IReadOnlyList<DomainFinding> Findings(ShortDomain domain, CursusOptions options)
    {
        var saved = JsonSerializer.Deserialize<List<DomainFinding>>(domain.Findings, Json) ?? [];
        return saved.Count > 0 || DomainName.NeedsNoProof(domain.Name)
            ? saved
            : [.. Needed(domain, options).Select(r => new DomainFinding(r.Type, r.Name, r.Values, [], IsGood: false, "Not checked yet."))];
    }

    public async Task Run(ShortDomain domain, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        domain.CheckedAt = now;
        var isGood = false;
        try
        {
            var findings = DomainRecords.Judge(Needed(domain, options), await names.About(domain.Name, cancel), [.. options.EdgeAddresses]);
            domain.Findings = JsonSerializer.Serialize(findings, Json);
            isGood = findings.All(f => f.IsGood);
        }
        catch (Exception e) when (e is DnsResponseException or OperationCanceledException && !cancel.IsCancellationRequested)
        {
            // No name server answered: that says nothing about the records, so what was found before stays.
            domain.NextCheckAt = now + DomainWatch.WhenVerified(isFailing: true);
            await db.SaveChangesAsync(cancel);
            return;
        }

        var becomesVerified = isGood && domain.VerifiedAt is null && await TakeOver(domain, cancel);
        if (becomesVerified)
        {
            domain.VerifiedAt = now;
            domain.IsDefault = !await db.Domains.AnyAsync(d => d.WorkspaceId == domain.WorkspaceId && d.IsDefault, cancel);
        }

        domain.FailingSince = domain.VerifiedAt is null || isGood ? null : domain.FailingSince ?? now;
        domain.NextCheckAt = now + (domain.VerifiedAt is null ? DomainWatch.WhileWaiting(now - domain.CreatedAt) : DomainWatch.WhenVerified(!isGood));
        await db.SaveChangesAsync(cancel);
        if (becomesVerified)
        {
            await feed.CatchUp();
        }
    }

    /// <summary>Whether the domain is free for its workspace. It moves from another one when the proof of that one is no longer in DNS.</summary>
    private async Task<bool> TakeOver(ShortDomain domain, CancellationToken cancel)
    {
        if (await db.Domains.FirstOrDefaultAsync(d => d.Name == domain.Name && d.Id != domain.Id && d.VerifiedAt != null, cancel) is not { } holder)
        {
            return true;
        }

        if ((await names.Proofs(domain.Name, cancel)).Contains(DomainRecords.ProofText(holder.Proof)))
        {
            var text = "Another workspace uses this domain, and its TXT record is still there. Remove that record to move the domain here.";
            domain.Findings = JsonSerializer.Serialize(
                Findings(domain, options).Select(f => f.Type == "TXT" ? f with { IsGood = false, Text = text } : f),
                Json
            );
            return false;
        }

        (holder.VerifiedAt, holder.IsDefault, holder.FailingSince, holder.NextCheckAt) = (
            null,
            false,
            null,
            clock.GetCurrentInstant() + Duration.FromHours(6)
        );

        // The index lets one workspace at a time hold the name, so the old one lets go first.
        await db.SaveChangesAsync(cancel);
        return true;
    }

    private static IReadOnlyList<DomainRecord> Needed(ShortDomain domain, CursusOptions options) =>
        DomainRecords.Needed(domain.Name, domain.Proof, options.EdgeHost, [.. options.EdgeAddresses]);
}
