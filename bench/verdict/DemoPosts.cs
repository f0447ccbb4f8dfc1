using System.Text.Json;

namespace Cursus.Bench.Verdicts;

/// <summary>The demo's own placements with their channels' names exchanged at random, so that no channel is better than another.</summary>
internal static class DemoPosts
{
    private sealed record Post(string Title, Dictionary<string, Dictionary<int, long>> Channels);

    /// <summary>Draws pairs of channels and exchanges their names.</summary>
    /// <param name="file">Posts with clicks by channel and day, days counted backwards from today.</param>
    public static Func<int, int, World?> From(string file)
    {
        var posts = JsonSerializer.Deserialize<List<Post>>(File.ReadAllText(file), JsonSerializerOptions.Web)!;
        var channels = posts.SelectMany(p => p.Channels.Keys).Distinct().Order().ToList();
        return (days, number) =>
        {
            var luck = new Luck("demo", days, number);
            var (a, b) = (luck.Below(channels.Count), luck.Below(channels.Count - 1));
            var (one, other) = (channels[a], channels[b < a ? b : b + 1]);
            var byDay = new[] { new long[days], new long[days] };
            var drawn = new List<(double, Dictionary<int, (long, bool)>)>();
            foreach (var post in posts)
            {
                var isExchanged = luck.Coin();
                var (places, day) = (new Dictionary<int, (long, bool)>(), double.MinValue);
                foreach (var (channel, clicks) in post.Channels.Where(c => c.Key == one || c.Key == other))
                {
                    var place = channel == one != isExchanged ? 0 : 1;
                    var went = days - 1 - clicks.Keys.Max();
                    places[place] = (clicks.Where(c => c.Key < days).Sum(c => c.Value), went >= 0);
                    day = Math.Max(day, went);
                    foreach (var (ago, count) in clicks.Where(c => c.Key < days))
                    {
                        byDay[place][days - 1 - ago] += count;
                    }
                }

                if (places.Count > 0)
                {
                    drawn.Add((day, places));
                }
            }

            return World.Of(drawn, byDay, 0);
        };
    }
}
