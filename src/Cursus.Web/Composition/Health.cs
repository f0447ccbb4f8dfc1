using Cursus.Data;
using Cursus.Data.Clicks.Journaling;
using Cursus.Data.Schema;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Clicks;

namespace Cursus.Web.Composition;

/// <summary>/healthz: the process is alive. /readyz: the database answers and the edge knows its links; to members, and on the machine itself, with
/// how the edge and the way of the clicks stand.</summary>
public static class Health
{
    /// <param name="LostClicks">Clicks since the start that were answered and could not be written down, because the disk under the journal or the
    /// journal was full.</param>
    /// <param name="DamagedClicks">Clicks found since the start that can't be read from the journal any more, because its disk has changed
    /// them.</param>
    /// <param name="Links">Links that the edge holds in memory.</param>
    /// <param name="LinkBytes">Bytes of memory that they take.</param>
    /// <param name="LoadedInSeconds">How long it took at the start to read them; null while they are read.</param>
    /// <param name="WaitingBytes">Bytes of clicks in the journal that are not in the database yet.</param>
    /// <param name="OldestWaitingSeconds">For how long the oldest of them has waited.</param>
    /// <param name="ShippedClicks">Clicks that this process has brought into the database.</param>
    /// <param name="LastBatch">Clicks of the last batch.</param>
    public sealed record Readiness(
        bool Database,
        bool Edge,
        long LostClicks,
        long DamagedClicks,
        int Links,
        long LinkBytes,
        double? LoadedInSeconds,
        long WaitingBytes,
        double OldestWaitingSeconds,
        long ShippedClicks,
        int LastBatch
    );

    public static void MapHealth(this WebApplication app)
    {
        app.MapGet("/healthz", () => Results.Text("alive")).ForAnybody().ExcludeFromDescription();
        app.MapGet(
                "/readyz",
                async (
                    HttpContext context,
                    CursusDb db,
                    MemberHandler members,
                    LinkFeed feed,
                    LinkTable links,
                    Prepared prepared,
                    ClickJournal journal,
                    ShippingState shipping,
                    CancellationToken cancel
                ) =>
                {
                    var readiness = new Readiness(
                        prepared.IsDone && await db.Database.CanConnectAsync(cancel),
                        feed.IsLoaded,
                        journal.Lost,
                        journal.Damaged,
                        links.Count,
                        links.Size,
                        feed.LoadedIn?.TotalSeconds,
                        shipping.WaitingBytes,
                        Math.Round(shipping.OldestWaiting.TotalSeconds, 3),
                        shipping.Shipped,
                        shipping.LastBatch
                    );
                    var status = readiness is { Database: true, Edge: true } ? 200 : 503;
                    return IsHere(context) || (readiness.Database && await members.Find(context) is not null)
                        ? Results.Json(readiness, statusCode: status)
                        : Results.Json(new { readiness.Database, readiness.Edge }, statusCode: status);
                }
            )
            .ForAnybody()
            .ExcludeFromDescription();
    }

    /// <summary>Whether somebody asks on the machine itself; through a proxy everybody seems to.</summary>
    private static bool IsHere(HttpContext context) =>
        context.Connection.RemoteIpAddress is { } address
        && System.Net.IPAddress.IsLoopback(address)
        && !context.Request.Headers.ContainsKey("X-Forwarded-For");
}
