using System.Text;
using CsCheck;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Links;
using Cursus.Edge;
using NodaTime;

namespace Cursus.Web.Tests.Edge;

public class LinkTableTests
{
    private static readonly Guid Id = Guid.NewGuid();

    [Fact]
    public void A_slug_is_found_without_case_with_all_that_the_edge_needs()
    {
        var table = new LinkTable();
        table.Put(
            LinkEntry.Write(
                Id,
                "geminids",
                "https://northmoor.example/a?b=ü",
                new(7, 3, 4),
                new(308, QueryPassing.VisitorWins, ReferrerPassing.HideByPage, HideFromSearch: true, 250, 11, 12)
            )
        );
        table.TryFind(7, "GemiNids", out var link).ShouldBeTrue();
        var target = link.Target;
        (link.Id, Location(link), (int)target.Redirect, target.IsDeleted).ShouldBe((Id, "https://northmoor.example/a?b=ü", 308, false));
        (target.PassQuery, target.Referrer, target.HideFromSearch).ShouldBe((QueryPassing.VisitorWins, ReferrerPassing.HideByPage, true));
        (link.Domain, link.Campaign, link.Channel, link.HandoffDeadline).ShouldBe((7, 3, 4, 250));
        link.Pixels.ShouldBe([11, 12]);
    }

    [Fact]
    public void A_link_without_pixels_of_its_own_takes_no_room_for_them()
    {
        var record = Record(7, "geminids", "https://northmoor.example/");
        record.Length.ShouldBe(36 + "geminids".Length + "https://northmoor.example/".Length);
        var link = new LinkEntry(record);
        link.HandoffDeadline.ShouldBeNull();
        link.Pixels.ShouldBeEmpty();
        link.Length.ShouldBe(record.Length);
    }

    [Theory]
    [InlineData(7, "geminid")]
    [InlineData(7, "geminidss")]
    [InlineData(8, "geminids")]
    [InlineData(7, "")]
    [InlineData(7, "gemini\u0307ds")]
    [InlineData(7, "ｇeminids")]
    public void Whatever_is_not_quite_it_is_not_found(int domain, string slug)
    {
        var table = new LinkTable();
        table.Put(Record(7, "geminids", "https://northmoor.example/"));
        table.TryFind(domain, slug, out _).ShouldBeFalse();
        table.TryFind(7, new string('a', Slug.MaxLength + 1), out _).ShouldBeFalse();
    }

    /// <summary>With the neighbours in the table behind it, so that a field read too far would show.</summary>
    [Fact]
    public void What_few_links_have_comes_back_as_it_was() =>
        Gen.Select(
                Gen.Long[0, 4_000_000_000_000].Nullable(),
                Gen.Long[0, 4_000_000_000_000].Nullable(),
                Gen.String[Gen.Char["abc/?ü"], 1, 60].Null(),
                Gen.Bool,
                Gen.Short[0, 5000].Nullable(),
                Gen.Int[1, 99].Array[0, 20]
            )
            .Array[1, 9]
            .Sample(links =>
            {
                var table = new LinkTable();
                for (var i = 0; i < links.Length; i++)
                {
                    var (opens, ends, fallback, isDead, deadline, pixels) = links[i];
                    table.Put(
                        LinkEntry.Write(
                            Id,
                            $"s{i}",
                            "https://northmoor.example/sale",
                            new(7, 3, 4),
                            new(302, QueryPassing.LinkWins, ReferrerPassing.Keep, HideFromSearch: false, deadline, pixels)
                            {
                                Schedule = new(At(opens), At(ends)),
                                Fallback = fallback,
                                IsDead = isDead,
                                EndedText = fallback,
                            }
                        )
                    );
                }

                for (var i = 0; i < links.Length; i++)
                {
                    var (opens, ends, fallback, isDead, deadline, pixels) = links[i];
                    table.TryFind(7, $"S{i}", out var link).ShouldBeTrue();
                    var target = link.Target;
                    (target.Schedule, target.IsDead, link.HandoffDeadline).ShouldBe((new LinkSchedule(At(opens), At(ends)), isDead, deadline));
                    Encoding.UTF8.GetString(target.Fallback).ShouldBe(fallback ?? "");
                    link.EndedText.ShouldBe(fallback);
                    (Location(link), link.Campaign, target.PassQuery).ShouldBe(("https://northmoor.example/sale", 3, QueryPassing.LinkWins));
                    link.Pixels.ShouldBe(pixels);
                }

                static Instant? At(long? milliseconds) => milliseconds is { } known ? Instant.FromUnixTimeMilliseconds(known) : null;
            });

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void Fields_of_a_later_version_are_passed_over(bool hasOwn)
    {
        var record = LinkEntry.Write(
            Id,
            "sale",
            "https://northmoor.example/sale",
            new(7),
            new(302, QueryPassing.Off, ReferrerPassing.Keep, HideFromSearch: false, null)
            {
                Fallback = hasOwn ? "https://northmoor.example/all" : null,
            }
        );
        var fieldsAt = 36 + "salehttps://northmoor.example/sale".Length;
        byte[] fields = [200, 3, 0, 0, 0, 1, 2, 3, .. record[Math.Min(record.Length, fieldsAt + 4)..], 201, 0, 0, 0, 0];
        byte[] later = [.. record[..fieldsAt], (byte)fields.Length, 0, 0, 0, .. fields];
        later[34] |= 32;

        var table = new LinkTable();
        table.Put(later);
        table.Put(Record(7, "next", "https://northmoor.example/next"));
        table.TryFind(7, "sale", out var link).ShouldBeTrue();
        link.Length.ShouldBe(later.Length);
        Location(link).ShouldBe("https://northmoor.example/sale");
        Encoding.UTF8.GetString(link.Target.Fallback).ShouldBe(hasOwn ? "https://northmoor.example/all" : "");
        table.Records.Select(r => r.Length).Order().Last().ShouldBe(later.Length);
    }

    [Fact]
    public void A_link_that_was_deleted_is_known_and_leads_nowhere()
    {
        var table = new LinkTable();
        table.Put(Record(1, "gone", null));
        table.TryFind(1, "gone", out var link).ShouldBeTrue();
        link.Target.IsDeleted.ShouldBeTrue();
        link.Target.Destination.IsEmpty.ShouldBeTrue();
    }

    /// <summary>Held against a plain dictionary over thousands of random changes, through growing and rewriting.</summary>
    [Fact]
    public void After_any_changes_it_holds_what_a_dictionary_would() =>
        Gen.Select(Gen.Int[1, 3], Gen.Int[0, 3000], Gen.Int[0, 400], Gen.Int[0, 5])
            .Array[0, 20_000]
            .Sample(
                changes =>
                {
                    var table = new LinkTable();
                    var expected = new Dictionary<(int, string), string>();
                    foreach (var (domain, number, length, what) in changes)
                    {
                        var slug = $"slug-{number}";
                        if (what == 0)
                        {
                            table.Remove(domain, slug);
                            expected.Remove((domain, slug));
                        }
                        else
                        {
                            var location = "https://northmoor.example/" + new string('x', length);
                            table.Put(Record(domain, slug, location));
                            expected[(domain, slug)] = location;
                        }
                    }

                    table.Count.ShouldBe(expected.Count);
                    for (var number = 0; number <= 3000; number++)
                    {
                        for (var domain = 1; domain <= 3; domain++)
                        {
                            var isFound = table.TryFind(domain, $"SLUG-{number}", out var link);
                            (isFound ? Location(link) : null).ShouldBe(expected.GetValueOrDefault((domain, $"slug-{number}")));
                        }
                    }
                },
                iter: 5,
                threads: 1
            );

    [Fact]
    public async Task Visitors_who_read_while_links_are_changed_see_each_link_old_or_new_and_never_half()
    {
        var table = new LinkTable();
        string[] locations = ["https://northmoor.example/short", "https://northmoor.example/" + new string('y', 300)];
        for (var i = 0; i < 2000; i++)
        {
            table.Put(Record(1, $"s{i}", locations[0]));
        }

        using var done = new CancellationTokenSource();
        var reading = Task.Run(
            () =>
            {
                var random = new Random(1);
                while (!done.IsCancellationRequested)
                {
                    table.TryFind(1, $"s{random.Next(2000)}", out var link).ShouldBeTrue();
                    locations.ShouldContain(Location(link));
                }
            },
            TestContext.Current.CancellationToken
        );
        for (var i = 0; i < 200_000; i++)
        {
            table.Put(Record(1, $"s{i % 2000}", locations[i / 2000 % 2]));
        }

        await done.CancelAsync();
        await reading;
    }

    [Fact]
    public void A_link_of_ordinary_length_takes_less_than_four_hundred_bytes()
    {
        var table = new LinkTable();
        for (var i = 0; i < 200_000; i++)
        {
            table.Put(
                Record(
                    1,
                    $"winter-members-{i}",
                    $"https://www.northmoor.example/events/winter/{i}?utm_source=guildhall&utm_medium=social&utm_campaign=winter-members"
                )
            );
        }

        (table.Size / table.Count).ShouldBeLessThan(400);
    }

    private static string Location(LinkEntry link) => Encoding.UTF8.GetString(link.Target.Destination);

    private static byte[] Record(int domain, string slug, string? location) =>
        LinkEntry.Write(Id, slug, location, new(domain), new(302, QueryPassing.Off, ReferrerPassing.Keep, HideFromSearch: false, null));
}
