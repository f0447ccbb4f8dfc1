using System.Globalization;
using CsCheck;
using Cursus.Core.Addresses;
using Cursus.Core.Links;

namespace Cursus.Core.Tests.Links;

public class LinkInheritanceTests
{
    private static readonly LinkLevel Workspace = LinkLevel.Of(
        307,
        new LinkOptions
        {
            PassQuery = QueryPassing.LinkWins,
            Nofollow = true,
            TitleAttribute = "Northmoor",
            HandoffDeadline = 250,
        }
    );

    /// <summary>Row, post, short domain, workspace; “-” where a level says nothing.</summary>
    [Theory]
    [InlineData("-", "-", "-", "307", 307)]
    [InlineData("-", "-", "301", "307", 301)]
    [InlineData("-", "308", "301", "307", 308)]
    [InlineData("302", "308", "301", "307", 302)]
    [InlineData("302", "-", "-", "307", 302)]
    [InlineData("-", "-", "-", "-", 302)]
    public void The_narrowest_level_that_says_a_thing_decides_it(string row, string post, string domain, string workspace, int redirect) =>
        (
            (int)
                LinkInheritance
                    .Of([
                        .. new[] { row, post, domain, workspace }.Select(r => new LinkLevel
                        {
                            Redirect = r == "-" ? null : short.Parse(r, CultureInfo.InvariantCulture),
                        }),
                    ])
                    .Redirect
        ).ShouldBe(redirect);

    [Fact]
    public void Each_option_is_inherited_by_itself_and_nothing_can_be_said_instead_of_something()
    {
        var row = new LinkLevel(Options: new() { Nofollow = false, TitleAttribute = "" });
        var post = new LinkLevel(Options: new() { Referrer = ReferrerPassing.Hide, HandoffDeadline = LinkOptions.UsualHandoffDeadline });
        var options = LinkInheritance.Of(row, post, LinkLevel.Of(301, options: null), Workspace).Options;
        options.ShouldBe(new LinkOptions { PassQuery = QueryPassing.LinkWins, Referrer = ReferrerPassing.Hide });
    }

    [Fact]
    public void A_level_with_options_of_its_own_says_all_of_them() =>
        LinkInheritance.Of(LinkLevel.Of(redirect: null, LinkOptions.Plain), Workspace).ShouldBe(((short)307, LinkOptions.Plain));

    /// <summary>Recounted one thing at a time.</summary>
    [Fact]
    public void Whatever_levels_say_the_first_word_counts()
    {
        var level = Gen.Select(
            OneOf<short?>(null, 301, 302, 307, 308),
            OneOf<QueryPassing?>(null, QueryPassing.Off, QueryPassing.LinkWins, QueryPassing.VisitorWins),
            OneOf<bool?>(null, true, false),
            OneOf(null, "", "Northmoor", "Tickets"),
            OneOf<int?>(null, 0, 250, LinkOptions.UsualHandoffDeadline),
            (redirect, pass, isNew, text, deadline) =>
                new LinkLevel(
                    redirect,
                    new()
                    {
                        PassQuery = pass,
                        NewTab = isNew,
                        AnchorText = text,
                        HandoffDeadline = deadline,
                    }
                )
        );
        level
            .Array[0, 5]
            .Sample(levels =>
            {
                var (redirect, options) = LinkInheritance.Of(levels);
                redirect.ShouldBe(levels.Select(l => l.Redirect).FirstOrDefault(r => r is not null) ?? 302);
                options.PassQuery.ShouldBe(levels.FirstOrDefault(l => l.Options!.PassQuery is not null)?.Options!.PassQuery ?? QueryPassing.Off);
                options.NewTab.ShouldBe(levels.FirstOrDefault(l => l.Options!.NewTab is not null)?.Options!.NewTab ?? false);
                (options.AnchorText ?? "").ShouldBe(levels.FirstOrDefault(l => l.Options!.AnchorText is not null)?.Options!.AnchorText ?? "");
                ((int)(options.HandoffDeadline ?? 800)).ShouldBe(
                    levels.FirstOrDefault(l => l.Options!.HandoffDeadline is not null)?.Options!.HandoffDeadline ?? 800
                );
                options.Sponsored.ShouldBeFalse();
            });
    }

    [Theory]
    [InlineData("link", "campaign", "workspace", "link")]
    [InlineData(null, "campaign", "workspace", "campaign")]
    [InlineData(null, null, "workspace", "workspace")]
    [InlineData(null, null, null, null)]
    public void Visitors_go_to_the_nearest_fallback(string? link, string? campaign, string? workspace, string? fallback) =>
        LinkInheritance.Fallback(link, campaign, workspace).ShouldBe(fallback);

    private static Gen<T> OneOf<T>(params T[] choices) => Gen.Int[0, choices.Length - 1].Select(i => choices[i]);
}
