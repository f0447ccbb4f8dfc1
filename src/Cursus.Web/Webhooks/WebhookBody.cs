using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using Cursus.Data;
using Cursus.Data.Webhooks;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Webhooks;

/// <summary>Writes what webhooks are sent: what happened, when, in which workspace, and the thing as it is now.</summary>
internal sealed class WebhookBody(CursusDb db, CursusOptions options)
{
    private static readonly JsonSerializerOptions Json = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>The message as JSON; null where its thing is gone meanwhile.</summary>
    /// <param name="id">The same for all webhooks that are told, and for every try.</param>
    public async Task<string?> Write(string id, WebhookEvent happened, Workspace workspace, CancellationToken cancel)
    {
        var body = new JsonObject
        {
            ["id"] = id,
            ["event"] = ApiNames.Of(happened.Kind),
            ["at"] = happened.At.ToString(),
            ["workspace"] = new JsonObject { ["key"] = workspace.Key, ["name"] = workspace.Name },
        };
        var isThere = happened.Kind switch
        {
            WebhookEventKind.LinkCreated or WebhookEventKind.DestinationChanged or WebhookEventKind.MilestoneReached => await AddLink(
                body,
                happened,
                cancel
            ),
            WebhookEventKind.PageDied or WebhookEventKind.PageBack => await AddPage(body, happened, cancel),
            WebhookEventKind.DigestReady => AddDigest(body, happened, workspace),
            _ => true,
        };
        return isThere ? body.ToJsonString(Json) : null;
    }

    private async Task<bool> AddLink(JsonObject body, WebhookEvent happened, CancellationToken cancel)
    {
        var link = await db
            .Links.Where(l => l.Id == happened.Thing)
            .Select(l => new
            {
                l.Id,
                Domain = l.Domain!.Name,
                l.Slug,
                l.Title,
                l.Destination,
                Channel = l.Channel!.Key,
                Campaign = l.Campaign!.Key,
                Post = db.Placements.Where(p => p.LinkId == l.Id).Select(p => (Guid?)p.PostId).FirstOrDefault(),
            })
            .SingleOrDefaultAsync(cancel);
        if (link is null)
        {
            return false;
        }

        body["link"] = new JsonObject
        {
            ["id"] = link.Id,
            ["shortUrl"] = options.ShortUrl(link.Domain, link.Slug),
            ["title"] = link.Title,
            ["destination"] = link.Destination,
            ["channel"] = link.Channel,
            ["campaign"] = link.Campaign,
            ["postId"] = link.Post,
        };
        if (happened.Kind == WebhookEventKind.DestinationChanged)
        {
            body["before"] = happened.Detail;
        }
        else if (happened.Kind == WebhookEventKind.MilestoneReached)
        {
            body["clicks"] = long.Parse(happened.Detail!, CultureInfo.InvariantCulture);
        }

        return true;
    }

    private async Task<bool> AddPage(JsonObject body, WebhookEvent happened, CancellationToken cancel)
    {
        if (await db.CheckedPages.SingleOrDefaultAsync(p => p.Id == happened.Thing, cancel) is not { } page)
        {
            return false;
        }

        body["page"] = new JsonObject { ["address"] = page.Address, ["status"] = page.Status };
        body["links"] = await db.Links.CountAsync(l => l.WorkspaceId == page.WorkspaceId && l.PageKey == page.Key, cancel);
        return true;
    }

    private bool AddDigest(JsonObject body, WebhookEvent happened, Workspace workspace)
    {
        body["week"] = happened.Detail;
        body["address"] = options.AppAddress is { } app ? $"{app.TrimEnd('/')}/w/{workspace.Key}/digest?week={happened.Detail}" : null;
        return true;
    }
}
