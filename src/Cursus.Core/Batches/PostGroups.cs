namespace Cursus.Core.Batches;

/// <summary>What decides which post a link of a list belongs to.</summary>
/// <param name="Page">The destination as it was entered.</param>
/// <param name="Variant">Tells two links in one channel apart.</param>
public sealed record GroupedLink(string Page, string Title, string Campaign, string Channel, string? Variant);

/// <summary>Gathers links of a list into posts, so that they are counted for each post like links that were sent one post at a time.</summary>
public static class PostGroups
{
    /// <summary>
    /// Places in <paramref name="links"/>, by post: links with the same page, title and campaign are one post, in the order of the list. A channel
    /// that comes a second time with the same variant begins another post, since a post stands once in each channel and variant. Null entries belong
    /// to no post.
    /// </summary>
    public static IReadOnlyList<IReadOnlyList<int>> Of(IReadOnlyList<GroupedLink?> links)
    {
        ArgumentNullException.ThrowIfNull(links);
        var posts = new List<List<int>>();
        var open = new Dictionary<(string, string, string, int Round), List<int>>();
        var rounds = new Dictionary<GroupedLink, int>();
        for (var place = 0; place < links.Count; place++)
        {
            if (links[place] is not { } link)
            {
                continue;
            }

            var round = rounds[link] = rounds.GetValueOrDefault(link) + 1;
            var key = (link.Page, link.Title, link.Campaign, round);
            if (!open.TryGetValue(key, out var post))
            {
                posts.Add(open[key] = post = []);
            }

            post.Add(place);
        }

        return posts;
    }
}
