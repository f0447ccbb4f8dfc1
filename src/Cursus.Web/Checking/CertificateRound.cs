using Cursus.Core.Checking;
using Cursus.Data;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Checking;

/// <summary>Looks at the certificates that short domains show to visitors.</summary>
internal sealed class CertificateRound(CursusDb db, OutgoingClient outgoing, LinkCheckOptions options, CursusOptions installation, IClock clock)
{
    private const int AtOnce = 50;

    public async Task Run(CancellationToken cancel)
    {
        if (options.CertificatePortOf(installation) is not { } port)
        {
            return;
        }

        var due = clock.GetCurrentInstant() - CertificateCare.EachLook;
        var domains = await db
            .Domains.Where(d => d.VerifiedAt != null && (d.CertificateCheckedAt == null || d.CertificateCheckedAt < due))
            .OrderBy(d => d.CertificateCheckedAt)
            .Take(AtOnce)
            .ToListAsync(cancel);
        foreach (var domain in domains)
        {
            var end = await outgoing.CertificateEnd(domain.Name, port, cancel);
            domain.CertificateEndsAt = end is { } at ? Instant.FromDateTimeOffset(at) : null;
            domain.CertificateCheckedAt = clock.GetCurrentInstant();
            await db.SaveChangesAsync(cancel);
        }
    }
}
