using Cursus.Core.Reports;

namespace Cursus.Core.Tests.Reports;

/// <summary>Made-up answers with the posts behind them.</summary>
internal static class Posts
{
    /// <summary>The posts of a group, by their numbers; zero for those that it doesn't carry.</summary>
    public static UnitCount[] Of(params long[] clicks) =>
        [.. clicks.Index().Where(c => c.Item > 0).Select(c => new UnitCount(c.Index, c.Item, true))];

    /// <summary>An answer by channel; a channel's name is its key with a capital.</summary>
    public static Breakdown Answer(BreakdownMeasure measure, params (string Key, long[] Clicks)[] channels) =>
        Breakdown.Of(Groups(channels), int.MaxValue, Units(channels), measure);

    public static Breakdown Answer(params (string Key, long[] Clicks)[] channels) => Answer(BreakdownMeasure.Clicks, channels);

    public static GroupCount[] Groups(params (string Key, long[] Clicks)[] channels) =>
        [
            .. channels.Select(c => new GroupCount(
                c.Key,
                char.ToUpperInvariant(c.Key[0]) + c.Key[1..],
                c.Clicks.Sum(),
                null,
                null,
                c.Clicks.Count(n => n > 0),
                0,
                c.Clicks.Count(n => n > 0)
            )),
        ];

    public static ClickUnits Units(params (string Key, long[] Clicks)[] channels) =>
        new(
            UnitKind.Post,
            [.. Enumerable.Range(0, channels.Max(c => c.Clicks.Length)).Select(i => i * i)],
            false,
            channels.ToDictionary(c => c.Key, c => Of(c.Clicks))
        );
}
