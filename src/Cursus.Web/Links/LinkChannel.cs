using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Links;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Links;

/// <summary>Which channel a link may be counted for when it is changed: all its clicks go with it.</summary>
internal static class LinkChannel
{
    /// <summary>Why the link can't be of this channel; null where it can. A post's placements are told apart by channel and variant.</summary>
    public static async Task<ValidationError?> Hindrance(CursusDb db, Link link, Guid? channel, CancellationToken cancel)
    {
        if (await db.Placements.FirstOrDefaultAsync(p => p.LinkId == link.Id, cancel) is not { } placement || channel == link.ChannelId)
        {
            return null;
        }

        if (channel is null)
        {
            return new ValidationError("channel-missing", "This link belongs to a post, so it needs a channel. Choose one.");
        }

        return await db.Placements.AnyAsync(
            p =>
                p.PostId == placement.PostId
                && p.LinkId != link.Id
                && p.Link!.ChannelId == channel
                && p.Link.DeletedAt == null
                && p.Variant == placement.Variant,
            cancel
        )
            ? new ValidationError("variant-twice", "The post already has a link for this channel. Choose another channel.")
            : null;
    }
}
