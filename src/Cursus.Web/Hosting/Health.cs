using Cursus.Data;
using Cursus.Data.Clicks;
using Cursus.Web.Edge;

namespace Cursus.Web.Hosting;

/// <summary>/healthz: the process is alive. /readyz: the database answers and the edge knows its links.</summary>
public static class Health
{
    public sealed record Readiness(bool Database, bool Edge, long LostClicks);

    public static void MapHealth(this WebApplication app)
    {
        app.MapGet("/healthz", () => Results.Text("alive")).ExcludeFromDescription();
        app.MapGet("/readyz", async (CursusDb db, LinkFeed feed, ClickJournal journal, CancellationToken cancel) =>
        {
            var readiness = new Readiness(await db.Database.CanConnectAsync(cancel), feed.IsLoaded, journal.Lost);
            return Results.Json(readiness, statusCode: readiness is { Database: true, Edge: true } ? 200 : 503);
        }).ExcludeFromDescription();
    }
}
