using Cursus.Core.Batches;
using Cursus.Core.Links;
using NodaTime;

namespace Cursus.Core.Tests.Batches;

/// <summary>What becomes of lines whose slug is taken, and of the links that they take over.</summary>
public class TakenSlugsTests
{
    [Fact]
    public void Every_choice_meets_every_holder_as_the_table_says()
    {
        const string Table = """
                       Nobody  Link       FormerAddress  DeletedLink  EarlierLine
            Refuse     Made    Refused    Refused        Refused      Refused
            Skip       Made    Skipped    Skipped        Skipped      Skipped
            Rename     Made    Renamed    Renamed        Renamed      Renamed
            TakeOver   Made    TakenOver  Refused        Refused      Refused
            """;
        var rows = Table.Split('\n').Select(r => r.Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)).ToList();
        rows[0].Length.ShouldBe(Enum.GetValues<SlugHolder>().Length);
        rows.Count.ShouldBe(Enum.GetValues<TakenSlug>().Length + 1);
        foreach (var row in rows.Skip(1))
        {
            foreach (var (holder, outcome) in rows[0].Zip(row.Skip(1)))
            {
                TakenSlugs
                    .Outcome(Enum.Parse<TakenSlug>(row[0]), Enum.Parse<SlugHolder>(holder))
                    .ShouldBe(Enum.Parse<LineOutcome>(outcome), $"{row[0]}, {holder}");
            }
        }
    }

    private static readonly LinkState There = new()
    {
        DomainId = Guid.NewGuid(),
        Slug = "sky",
        Title = "Winter sky",
        Destination = "https://northmoor.example/sky",
        FinalUrl = "https://northmoor.example/sky?utm_source=perch",
        Source = "perch",
        Medium = "social",
        Term = "sky",
        CampaignId = Guid.NewGuid(),
        Note = "Printed on the programme",
        TagIds = [Guid.NewGuid()],
        ImportedClicks = 12,
        IsArchived = true,
    };

    [Fact]
    public void A_line_that_says_only_where_the_link_leads_leaves_all_else_as_it_is() =>
        new ListedLink("https://northmoor.example/new")
            .Onto(There)
            .ToJson()
            .ShouldBe((There with { Destination = "https://northmoor.example/new" }).ToJson());

    [Fact]
    public void A_bound_that_a_line_says_is_taken_and_what_would_end_before_it_opens_keeps_only_that()
    {
        var (first, second) = (Instant.FromUtc(2026, 11, 28, 9, 0), Instant.FromUtc(2026, 11, 29, 18, 0));
        Span(There with { OpensAt = first }, new("https://northmoor.example/", EndsAt: second)).ShouldBe((first, second));
        Span(There with { OpensAt = second }, new("https://northmoor.example/", EndsAt: first)).ShouldBe((null, first));
        Span(There with { EndsAt = first }, new("https://northmoor.example/")).ShouldBe((null, first));

        static (Instant?, Instant?) Span(LinkState there, ListedLink line) => line.Onto(there) is var after ? (after.OpensAt, after.EndsAt) : default;
    }

    [Fact]
    public void What_a_line_says_replaces_what_was_there_and_its_tags_join_those_that_are()
    {
        var (campaign, folder, tag) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        var after = new ListedLink(
            "https://northmoor.example/new",
            "Summer sky",
            "aperta",
            "video",
            null,
            "button",
            campaign,
            301,
            "New",
            folder,
            [tag],
            1204
        ).Onto(There);
        after
            .ToJson()
            .ShouldBe(
                (
                    There with
                    {
                        Destination = "https://northmoor.example/new",
                        Title = "Summer sky",
                        Source = "aperta",
                        Medium = "video",
                        Term = null,
                        Content = "button",
                        CampaignId = campaign,
                        Redirect = 301,
                        Note = "New",
                        FolderId = folder,
                        TagIds = [.. new[] { There.TagIds[0], tag }.Order()],
                        ImportedClicks = 1204,
                    }
                ).ToJson()
            );
    }
}
