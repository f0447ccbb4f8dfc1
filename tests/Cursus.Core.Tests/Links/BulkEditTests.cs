using CsCheck;
using Cursus.Core.Links;
using NodaTime;

namespace Cursus.Core.Tests.Links;

/// <summary>One change made to many links, and what it leaves alone.</summary>
public class BulkEditTests
{
    private static readonly Guid[] Ids = [.. Enumerable.Range(1, 6).Select(i => new Guid(i, 0, 0, new byte[8]))];

    private static readonly Gen<IReadOnlyList<Guid>> SomeIds = Gen.Int[0, 63]
        .Select(bits => (IReadOnlyList<Guid>)[.. Ids.Where((_, i) => (bits >> i & 1) == 1)]);

    private static readonly Gen<LinkState> Links = Gen.Select(SomeIds, SomeIds, Gen.Bool, Gen.Bool, Gen.Int[0, 5])
        .Select(
            (tags, pixels, archived, tagged, page) =>
                new LinkState
                {
                    DomainId = Ids[0],
                    Slug = $"page-{page}",
                    Title = $"Page {page}",
                    Destination = $"https://old.northmoor.example/page/{page}",
                    FinalUrl = $"https://old.northmoor.example/page/{page}",
                    Source = tagged ? "perch" : null,
                    Medium = tagged ? "social" : null,
                    TagIds = tags,
                    PixelIds = pixels,
                    IsArchived = archived,
                }
        );

    [Fact]
    public void A_change_of_nothing_changes_nothing() => Links.Sample(link => new BulkEdit().Of(link, null, out _)!.ToJson().ShouldBe(link.ToJson()));

    [Fact]
    public void Added_tags_are_there_once_removed_ones_are_gone_and_the_others_stay() =>
        Gen.Select(Links, SomeIds, SomeIds)
            .Sample(
                (link, add, remove) =>
                {
                    var changed = new BulkEdit { AddTags = add, RemoveTags = remove }.Of(link, null, out var error)!;
                    error.ShouldBeNull();
                    foreach (var id in Ids)
                    {
                        changed.TagIds.Count(t => t == id).ShouldBe(!remove.Contains(id) && (add.Contains(id) || link.TagIds.Contains(id)) ? 1 : 0);
                    }

                    (changed with { TagIds = link.TagIds }).ToJson().ShouldBe(link.ToJson());
                }
            );

    [Fact]
    public void A_change_made_twice_is_the_change_made_once() =>
        Gen.Select(Links, SomeIds, SomeIds, Gen.Bool)
            .Sample(
                (link, add, remove, archive) =>
                {
                    var change = new BulkEdit
                    {
                        AddPixels = add,
                        RemovePixels = remove,
                        Set = new() { IsArchived = archive, FolderId = Ids[2] },
                        Replace = new("old.", "www."),
                    };
                    var once = change.Of(link, null, out _)!;
                    change.Of(once, null, out _)!.ToJson().ShouldBe(once.ToJson());
                }
            );

    [Fact]
    public void A_wish_for_one_bound_leaves_the_other_and_a_link_that_would_end_before_it_opens_is_left()
    {
        var (first, second) = (Instant.FromUtc(2026, 11, 28, 9, 0), Instant.FromUtc(2026, 11, 29, 18, 0));
        var link = Links.Single() with { OpensAt = first };
        (
            new BulkEdit { Set = new() { EndsAt = second } }.Of(link, null, out _) is { OpensAt: var opens, EndsAt: var ends }
                ? (opens, ends)
                : default
        ).ShouldBe((first, second));
        new BulkEdit { Set = new() { EndsAt = first } }
            .Of(link, null, out var error)
            .ShouldBeNull();
        error!.Code.ShouldBe("ends-before-opening");
        new BulkEdit
        {
            Set = new() { OpensAt = Patch.To<Instant?>(null), EndsAt = first },
        }
            .Of(link, null, out _)!
            .OpensAt.ShouldBeNull();
    }

    [Fact]
    public void A_link_that_is_counted_under_nothing_takes_its_channels_words_with_the_campaign_or_is_left()
    {
        var link = Links.Single() with { Source = null, Medium = null };
        var change = new BulkEdit { Set = new() { CampaignId = Ids[3] } };
        change.Of(link, null, out var error).ShouldBeNull();
        error!.Code.ShouldBe("tags-incomplete");
        var counted = change.Of(link, ("perch", "social"), out _)!;
        (counted.Source, counted.Medium, counted.CampaignId).ShouldBe(("perch", "social", Ids[3]));
        BulkEdit.MovesVisitors(link, counted).ShouldBeTrue();
        new BulkEdit { AddTags = Ids }
            .Of(link, ("perch", "social"), out _)!
            .Source.ShouldBeNull();
    }

    [Fact]
    public void A_folder_that_becomes_none_takes_a_link_out_of_any()
    {
        var link = Links.Single() with { FolderId = Ids[1] };
        new BulkEdit { Set = new() { FolderId = Patch.To<Guid?>(null) } }
            .Of(link, null, out _)!
            .FolderId.ShouldBeNull();
        new BulkEdit().Of(link, null, out _)!.FolderId.ShouldBe(Ids[1]);
    }

    [Theory]
    [InlineData("https://old.northmoor.example/a?b=c#d", "old.northmoor.example", "www.northmoor.example", "https://www.northmoor.example/a?b=c#d")]
    [InlineData("https://OLD.northmoor.example/a", "old.", "", "https://northmoor.example/a")]
    [InlineData("http://northmoor.example/a", "http://", "https://", "https://northmoor.example/a")]
    [InlineData("https://northmoor.example/2025/a/2025", "2025", "2026", "https://northmoor.example/2026/a/2026")]
    [InlineData("https://northmoor.example/a", "perch", "guildhall", "https://northmoor.example/a")]
    public void A_part_of_a_destination_is_replaced_wherever_it_stands(string destination, string find, string with, string replaced)
    {
        new FindAndReplace(find, with).TryApply(destination, out var result, out var error).ShouldBeTrue();
        (result, error).ShouldBe((replaced, null));
    }

    [Theory]
    [InlineData("https://", "javascript:")]
    [InlineData("northmoor.example", "")]
    public void What_would_be_no_address_any_more_is_refused(string find, string with)
    {
        new FindAndReplace(find, with).TryApply("https://northmoor.example/a", out var result, out var error).ShouldBeFalse();
        result.ShouldBeNull();
        error.ShouldNotBeNull();
    }
}
