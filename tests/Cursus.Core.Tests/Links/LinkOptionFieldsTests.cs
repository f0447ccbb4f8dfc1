using System.Reflection;
using CsCheck;
using Cursus.Core.Addresses;
using Cursus.Core.Batches;
using Cursus.Core.Links;

namespace Cursus.Core.Tests.Links;

/// <summary>One description of each option, from which history, bulk edits, lists, files and forms are made. An option that is added to links and
/// forgotten somewhere fails here.</summary>
public class LinkOptionFieldsTests
{
    private static readonly LinkOptions Other = new()
    {
        PassQuery = QueryPassing.VisitorWins,
        Referrer = ReferrerPassing.Hide,
        HideFromSearch = true,
        Nofollow = true,
        Sponsored = true,
        NewTab = true,
        TitleAttribute = "Northmoor",
        AnchorText = "Tickets",
        HandoffDeadline = 250,
        EndedText = "The sale is over. See you in spring.",
    };

    private static readonly Gen<LinkOptions> Options = Gen.Select(
        Gen.Enum<QueryPassing>(),
        Gen.Enum<ReferrerPassing>(),
        Gen.Bool.Array[4],
        Gen.String[Gen.Char["abcü .,"], 1, 200].Select(t => t.Trim() is { Length: > 0 } text ? text : null).Array[3],
        Gen.Short[0, LinkOptions.MaxHandoffDeadline],
        (pass, referrer, on, texts, deadline) =>
            new LinkOptions
            {
                PassQuery = pass,
                Referrer = referrer,
                HideFromSearch = on[0],
                Nofollow = on[1],
                Sponsored = on[2],
                NewTab = on[3],
                TitleAttribute = texts[0],
                AnchorText = texts[1],
                HandoffDeadline = deadline == LinkOptions.UsualHandoffDeadline ? null : deadline,
                EndedText = texts[2],
            }
    );

    [Fact]
    public void Each_option_of_a_link_is_described_once_and_can_be_a_column()
    {
        var names = typeof(LinkOptions).GetProperties(BindingFlags.Public | BindingFlags.Instance).Select(p => p.Name).ToList();
        LinkOptionFields.All.Select(o => $"{o.Field}").ShouldBe(names, ignoreOrder: true);
        LinkOptionFields.All.Select(o => $"{ColumnNames.ColumnOf(o)}").ShouldBe(names, ignoreOrder: true);
        typeof(LinkOptionsPatch).GetProperties(BindingFlags.Public | BindingFlags.Instance).Select(p => p.Name).ShouldBe(names, ignoreOrder: true);
        LinkOptionFields.In(LinkOptionsPatch.Of(Other)).ShouldBe(LinkOptionFields.All);
        LinkOptionFields.In(new()).ShouldBeEmpty();
    }

    [Fact]
    public void What_a_patch_says_is_passed_on_whole_by_each_way_it_can_go()
    {
        LinkOptionsPatch.Of(Other).Over(LinkOptions.Plain).ShouldBe(Other);
        LinkOptionsPatch.Of(LinkOptions.Plain).Over(Other).ShouldBe(LinkOptions.Plain);
        new LinkOptionsPatch().Over(Other).ShouldBe(Other);
        LinkOptionsPatch.Of(Other).Or(LinkOptionsPatch.Of(LinkOptions.Plain)).ShouldBe(LinkOptionsPatch.Of(Other));
        new LinkOptionsPatch().Or(LinkOptionsPatch.Of(Other)).ShouldBe(LinkOptionsPatch.Of(Other));
    }

    /// <summary>As files are read again: an empty cell says nothing.</summary>
    [Fact]
    public void What_is_written_into_a_file_is_read_from_it_as_it_was() =>
        Options.Sample(options =>
        {
            var read = LinkOptionFields
                .All.Select(o => (Field: o, Cell: o.Written(options)))
                .Where(o => o.Cell.Length > 0)
                .Aggregate(new LinkOptionsPatch(), (said, o) => o.Field.Read(o.Cell)!.Or(said));
            LinkOptionFields.Errors(read).ShouldBeEmpty();
            read.Over(LinkOptions.Plain).ShouldBe(options);
        });

    [Theory]
    [InlineData(LinkField.PassQuery, "perhaps")]
    [InlineData(LinkField.Nofollow, "maybe")]
    [InlineData(LinkField.HandoffDeadline, "-5")]
    [InlineData(LinkField.HandoffDeadline, "soon")]
    public void A_cell_that_says_nothing_known_is_not_guessed_at(LinkField field, string cell) =>
        LinkOptionFields.All.Single(o => o.Field == field).Read(cell).ShouldBeNull();

    [Theory]
    [InlineData(LinkField.NewTab, "X", "yes")]
    [InlineData(LinkField.NewTab, "True", "yes")]
    [InlineData(LinkField.Referrer, "Hide, through a page", "hidden by a page")]
    [InlineData(LinkField.Referrer, "HIDDEN", "hidden")]
    public void Cells_may_say_it_as_people_do(LinkField field, string cell, string told)
    {
        var option = LinkOptionFields.All.Single(o => o.Field == field);
        option.Told(option.Read(cell)!.Over(LinkOptions.Plain)).ShouldBe(told);
    }

    [Fact]
    public void What_is_too_much_is_told_by_the_options_own_name()
    {
        var patch = new LinkOptionsPatch
        {
            HandoffDeadline = 5001,
            AnchorText = new('a', 201),
            TitleAttribute = new('a', 200),
            EndedText = new('a', 301),
        };
        LinkOptionFields.Errors(patch).Select(e => e.Key).ShouldBe(["anchorText", "handoffDeadline", "endedText"]);
    }
}
