using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Hosting;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Workspaces;

/// <summary>Deletes workspaces whose time is up.</summary>
internal sealed class WorkspaceDeletion(CursusDb db, LinkFeed feed, IClock clock) : IRegularWork
{
    public async Task Run(CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        foreach (var id in await db.Workspaces.Where(w => w.DeleteAt <= now).Select(w => w.Id).ToListAsync(cancel))
        {
            await WorkspaceEnd.Delete(db, id, cancel);
            await feed.CatchUp();
        }
    }
}
