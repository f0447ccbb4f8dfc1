using CsCheck;
using Cursus.Core.Batches;

namespace Cursus.Core.Tests.Batches;

public class PostGroupsTests
{
    private static readonly Gen<GroupedLink?> Links = Gen.Select(
            Gen.OneOf("a", "b"),
            Gen.OneOf("x", "y"),
            Gen.OneOf("c", "d"),
            Gen.OneOf("perch", "guildhall"),
            Gen.OneOf<string?>(null, "logo"),
            Gen.Bool
        )
        .Select((page, title, campaign, channel, variant, isNone) => isNone ? null : new GroupedLink(page, title, campaign, channel, variant));

    [Fact]
    public void Lines_with_one_page_title_and_campaign_are_one_post()
    {
        GroupedLink On(string page, string channel) => new(page, "Winter sky", "winter-members", channel, null);
        PostGroups
            .Of([On("a", "perch"), On("b", "perch"), null, On("a", "guildhall")])
            .ShouldBe([
                [0, 3],
                [1],
            ]);
    }

    [Fact]
    public void A_channel_that_comes_again_begins_another_post()
    {
        GroupedLink On(string channel, string? variant) => new("a", "Winter sky", "winter-members", channel, variant);
        PostGroups
            .Of([On("perch", null), On("perch", "logo"), On("perch", null), On("guildhall", null)])
            .ShouldBe([
                [0, 1, 3],
                [2],
            ]);
    }

    [Fact]
    public void Each_link_is_in_exactly_one_post_and_no_post_stands_twice_in_one_channel_and_variant() =>
        Links
            .List[0, 40]
            .Sample(links =>
            {
                var posts = PostGroups.Of(links);
                posts.SelectMany(p => p).Order().ShouldBe(Enumerable.Range(0, links.Count).Where(i => links[i] is not null));
                foreach (var post in posts)
                {
                    post.Select(i => (links[i]!.Page, links[i]!.Title, links[i]!.Campaign)).Distinct().Count().ShouldBe(1);
                    post.Select(i => (links[i]!.Channel, links[i]!.Variant)).ShouldBeUnique();
                }
            });
}
