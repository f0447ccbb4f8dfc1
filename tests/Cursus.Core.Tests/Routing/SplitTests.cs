using CsCheck;
using Cursus.Core.Routing;

namespace Cursus.Core.Tests.Routing;

/// <summary>Who gets which page of a split.</summary>
public class SplitTests
{
    private static readonly Guid Link = new("0193b2a0-5d5f-7b52-9e5f-5a3c1d4e6f70");

    private static readonly Gen<int[]> Weights = Gen.Int[0, 60]
        .Array[2, 20]
        .Select(parts =>
        {
            var sum = parts.Sum();
            var weights = parts.Select(p => sum == 0 ? 0 : p * 100 / sum).ToArray();
            weights[0] += 100 - weights.Sum();
            return weights;
        });

    /// <summary>Chi-square goodness of fit with two degrees of freedom; the critical value at 0.1 % is 13.816 (NIST/SEMATECH e-Handbook of
    /// Statistical Methods, section 1.3.6.7.4; from memory).</summary>
    [Fact]
    public void A_million_visitors_are_shared_as_the_weights_say()
    {
        int[] weights = [50, 30, 20];
        var split = Split(weights);
        var got = new int[3];
        for (var visitor = 0L; visitor < 1_000_000; visitor++)
        {
            got[PageOf(split, visitor)]++;
        }

        weights.Index().Sum(w => Math.Pow(got[w.Index] - (w.Item * 10_000), 2) / (w.Item * 10_000)).ShouldBeLessThan(13.816, string.Join(' ', got));
    }

    [Fact]
    public void A_visitor_stays_and_only_those_move_that_have_to() =>
        Gen.Select(Weights, Gen.Int[1, 4], Gen.Int[0, int.MaxValue])
            .Sample(
                (first, changes, seed) =>
                {
                    var random = new Random(seed);
                    var (weights, split) = (first, Split(first));
                    for (var change = 0; change < changes; change++)
                    {
                        var next = Shaken(weights, random);
                        var moved = Split(next, split);
                        var must = weights.Zip(next, (had, has) => Math.Max(0, had - has)).Sum() * (SplitSlots.Count / 100);
                        Enumerable.Range(0, SplitSlots.Count).Count(slot => Owner(split, slot) != Owner(moved, slot)).ShouldBe(must);
                        (weights, split) = (next, moved);
                    }

                    split.Pages.Select(p => p.Slots.Sum(r => r.Length)).ShouldBe(weights.Select(w => w * 10));
                },
                iter: 500
            );

    [Fact]
    public void A_new_page_takes_its_share_from_the_others_and_gives_it_back_when_it_goes()
    {
        var half = Split([50, 50]);
        var thirds = SplitSlots.Moved([half.Pages[0].Slots, half.Pages[1].Slots, []], [40, 40, 20]);
        thirds[2].Sum(r => r.Length).ShouldBe(200);
        var back = SplitSlots.Moved([thirds[0], thirds[1]], [50, 50]);
        Enumerable
            .Range(0, SplitSlots.Count)
            .Count(slot => thirds[0].Any(r => In(r, slot)) && !back[0].Any(r => In(r, slot)))
            .ShouldBe(0, "nobody who had stayed moves when the third page goes");
    }

    /// <summary>Chi-square test of independence of two halvings: one degree of freedom, 10.828 at 0.1 % (source as above).</summary>
    [Fact]
    public void What_a_visitor_got_of_one_split_says_nothing_of_another_nor_of_another_link()
    {
        var (one, other) = (Split([50, 50]), Split([50, 50], id: Guid.Parse("5f0f0c1e-7a0a-4e5b-8d7f-2b6f7b1f8a11")));
        Independent(v => PageOf(one, v), v => PageOf(other, v)).ShouldBeLessThan(10.828);
        Independent(v => PageOf(one, v), v => PageOf(one, v, Guid.Parse("0193b2a0-5d5f-7b52-9e5f-000000000001"))).ShouldBeLessThan(10.828);
    }

    [Fact]
    public void The_visitors_of_a_dead_page_are_shared_by_the_others_and_come_back_with_it()
    {
        var split = Split([50, 30, 20]) with { HandsOverDead = true };
        var ill = split with { Pages = [.. split.Pages.Select(p => p with { IsDead = p.Number == 0 })] };
        var dead = split with { Pages = [.. split.Pages.Select(p => p with { IsDead = true })] };
        var got = new int[3];
        for (var visitor = 0L; visitor < 100_000; visitor++)
        {
            var own = PageOf(split, visitor);
            var page = Got(ill, visitor);
            got[page]++;
            (own == 0 || page == own).ShouldBeTrue("who has a page that is well keeps it");
            Got(ill with { HandsOverDead = false }, visitor).ShouldBe(own);
        }

        got[0].ShouldBe(0);
        ((double)got[1] / got[2]).ShouldBe(1.5, 0.03);
        Got(dead, 7).ShouldBe(PageOf(split, 7), "with all of them dead, it is as if none was");

        static int Got(RouteOutcome outcome, long visitor) => RouteDecision.Everyone(new() { Otherwise = outcome }, Link, visitor).Page!.Number;
    }

    [Fact]
    public void Weights_that_make_no_whole_are_no_split()
    {
        Should.Throw<ArgumentException>(() => SplitSlots.Of([50, 40]));
        Should.Throw<ArgumentException>(() =>
            SplitSlots.Moved(
                [
                    [],
                ],
                [50, 50]
            )
        );
    }

    private static RouteOutcome Split(int[] weights, RouteOutcome? before = null, Guid? id = null)
    {
        var slots = before is null ? SplitSlots.Of(weights) : SplitSlots.Moved([.. before.Pages.Select(p => p.Slots)], weights);
        return new()
        {
            Id = id ?? before?.Id ?? new("8f14e45f-ceea-467f-9b5a-6d2f1a1c2b3d"),
            Pages = [.. weights.Select((w, i) => new RoutePage($"https://northmoor.example/{i}", w, slots[i], Number: (byte)i))],
        };
    }

    private static int[] Shaken(int[] weights, Random random)
    {
        var next = weights.ToArray();
        for (var i = 0; i < 3; i++)
        {
            var (from, to) = (random.Next(next.Length), random.Next(next.Length));
            var share = random.Next(next[from] + 1);
            (next[from], next[to]) = (from == to ? next[from] : next[from] - share, from == to ? next[to] : next[to] + share);
        }

        return next;
    }

    private static int PageOf(RouteOutcome split, long visitor, Guid? link = null) => Owner(split, SplitSlots.Of(visitor, link ?? Link, split.Id));

    private static int Owner(RouteOutcome split, int slot) => split.Pages.Single(p => p.Slots.Any(r => In(r, slot))).Number;

    private static bool In(SlotRange range, int slot) => slot >= range.From && slot < range.To;

    private static double Independent(Func<long, int> one, Func<long, int> other)
    {
        const int visitors = 100_000;
        var both = new double[2, 2];
        for (var visitor = 0L; visitor < visitors; visitor++)
        {
            both[one(visitor), other(visitor)]++;
        }

        return (from i in new[] { 0, 1 } from j in new[] { 0, 1 } select (i, j)).Sum(c =>
        {
            var expected = (both[c.i, 0] + both[c.i, 1]) * (both[0, c.j] + both[1, c.j]) / visitors;
            return Math.Pow(both[c.i, c.j] - expected, 2) / expected;
        });
    }
}
