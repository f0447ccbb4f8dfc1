using Cursus.Data;
using Cursus.Web.Hosting;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Addresses;

/// <summary>Goes round the short domains whose next check is due.</summary>
internal sealed class DomainRounds(CursusDb db, DomainCheck check, IClock clock) : IRegularWork
{
    private const int AtOnce = 20;

    public async Task Run(CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        foreach (var domain in await db.Domains.Where(d => d.NextCheckAt <= now).OrderBy(d => d.NextCheckAt).Take(AtOnce).ToListAsync(cancel))
        {
            await check.Run(domain, cancel);
        }
    }
}
