using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using NodaTime;

namespace Cursus.Web.Tests.Clicks;

public class RecentVisitsTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 11, 2, 12, 0);

    [Fact]
    public void Repeats_are_those_of_a_naive_count_however_many_visitors_are_forgotten_on_the_way()
    {
        // 400,000 visits of an hour and a half by 90,000 visitors of three links, a third of them in quick rows, in batches as they are shipped.
        var random = new Random(7);
        Guid[] links = [Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid()];
        var visits = new List<ReadClick>();
        for (var (id, at) = (1L, Noon); visits.Count < 400_000; id++)
        {
            at += Duration.FromMilliseconds(random.Next(0, 30));
            var row = random.Next(3) == 0 ? random.Next(2, 5) : 1;
            var (link, visitor) = (links[random.Next(3)], random.Next(90_000));
            for (var (quick, then) = (0, at); quick < row; quick++, then += Duration.FromMilliseconds(random.Next(1, 12_000)))
            {
                visits.Add(Visit(id, link, then, visitor, random.Next(10) == 0 ? ClickKind.Machine : ClickKind.Person));
            }
        }

        visits.Sort((one, other) => one.Click.At.CompareTo(other.Click.At));
        var last = new Dictionary<(Guid, long), Instant>();
        var naive = visits.ConvertAll(visit =>
        {
            if (visit.Told.Kind != ClickKind.Person)
            {
                return visit.Told.Kind;
            }

            var isRepeat =
                last.TryGetValue((visit.Click.LinkId, visit.Told.Visitor), out var before) && visit.Click.At - before < Duration.FromSeconds(10);
            last[(visit.Click.LinkId, visit.Told.Visitor)] = visit.Click.At;
            return isRepeat ? ClickKind.Repeat : ClickKind.Person;
        });

        var recent = new RecentVisits();
        var marked = new List<ClickKind>();
        foreach (var chunk in visits.Chunk(5000))
        {
            List<ReadClick> batch = [.. chunk];
            recent.Mark(batch);
            marked.AddRange(batch.Select(v => v.Told.Kind));
        }

        marked.SequenceEqual(naive).ShouldBeTrue();
        naive.Count(k => k == ClickKind.Repeat).ShouldBeGreaterThan(50_000, "there was something to find");
    }

    [Fact]
    public void What_another_process_has_stored_makes_repeats_and_is_not_stored_again()
    {
        var link = Guid.NewGuid();
        List<ReadClick> batch =
        [
            Visit(1, link, Noon, 5, ClickKind.Person) with
            {
                IsStored = true,
            },
            Visit(2, link, Noon + Duration.FromSeconds(9), 5, ClickKind.Person),
            Visit(3, link, Noon + Duration.FromSeconds(18), 5, ClickKind.Person),
            Visit(4, link, Noon + Duration.FromSeconds(28), 5, ClickKind.Person),
        ];
        new RecentVisits().Mark(batch);
        batch
            .Select(v => (v.Id, v.Told.Kind))
            .ShouldBe([(2, ClickKind.Repeat), (3, ClickKind.Repeat), (4, ClickKind.Person)], "each is held against the one before, repeat or not");
    }

    private static ReadClick Visit(long id, Guid link, Instant at, long visitor, ClickKind kind) =>
        new(id, new Click(at, link, kind, visitor, default, default, "", "", ""), 0, new EnrichedClick(kind, visitor, "", "", "", "", "", ""));
}
