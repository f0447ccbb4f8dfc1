using Cursus.Core.Checking;
using Cursus.Data;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Checking;

/// <summary>A short domain whose certificate ends soon, or has ended.</summary>
public sealed record EndingCertificate(string Domain, Instant EndsAt)
{
    /// <summary>Those of a workspace, the first to end first.</summary>
    internal static async Task<IReadOnlyList<EndingCertificate>> Of(CursusDb db, Guid workspaceId, Instant now, CancellationToken cancel)
    {
        var seen = await db
            .Domains.Where(d => d.WorkspaceId == workspaceId && d.CertificateEndsAt != null)
            .OrderBy(d => d.CertificateEndsAt)
            .Select(d => new EndingCertificate(d.Name, d.CertificateEndsAt!.Value))
            .ToListAsync(cancel);
        return [.. seen.Where(c => CertificateCare.EndsSoon(c.EndsAt, now))];
    }
}
