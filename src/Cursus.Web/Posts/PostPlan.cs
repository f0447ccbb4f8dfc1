using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Problems;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>One placement as it would be saved.</summary>
internal sealed record PlannedPlacement(Channel? Channel, string? Variant, UtmTags? Tags, string? FinalUrl, Slug? Slug, string Title);

/// <summary>
/// A post as it would be saved, with everything that is wrong with it. Saving and previewing both go by this plan, so that what is shown while
/// typing is what will be saved.
/// </summary>
internal sealed class PostPlan
{
    public const int MaxPlacements = 100;
    public const int MaxTitle = 200;

    public FieldErrors Errors { get; } = new();
    public string Title { get; private init; } = "";
    public Destination? Destination { get; private set; }
    public Campaign? Campaign { get; private set; }
    public ShortDomain? Domain { get; private set; }
    public LocalDate PublishedOn { get; private set; }
    public short Redirect { get; private set; }
    public List<PlannedPlacement> Placements { get; } = [];

    /// <summary>A title to offer where none was typed: the words of the page's address.</summary>
    public string ProposedTitle { get; private set; } = "";

    public static async Task<PostPlan> Make(PostRequest request, CurrentMember member, CursusDb db, LocalDate today, CancellationToken cancel)
    {
        var plan = new PostPlan { Title = request.Title?.Trim() ?? "", PublishedOn = request.PublishedOn ?? today };
        var vocabulary = await Vocabulary.Load(db, member.WorkspaceId, cancel);
        plan.Destination = vocabulary.Destination(request.Destination, plan.Errors);
        plan.Campaign = vocabulary.Campaign(request.Campaign, plan.Errors);
        plan.Domain = vocabulary.Domain(request.Domain, plan.Errors);
        plan.Redirect = Vocabulary.Redirect(request.Redirect, plan.Errors);
        plan.ProposedTitle = plan.Destination is { } page ? PageTitle.FromAddress(page.Address) : "";
        if (plan.Title.Length is 0 or > MaxTitle)
        {
            plan.Errors.Add("title", new Flaw("title", $"Give the post a title of at most {MaxTitle} characters, so that it is found again."));
        }

        if (request.Pixels is { Count: > 0 })
        {
            plan.Errors.Add("pixels", new Flaw("pixel-unknown", "There is no such retargeting pixel in this workspace."));
        }

        var placements = request.Placements ?? [];
        if (placements.Count is 0 or > MaxPlacements)
        {
            plan.Errors.Add("placements", new Flaw("placements", $"Choose at least one channel, and at most {MaxPlacements} placements."));
        }

        for (var i = 0; i < Math.Min(placements.Count, MaxPlacements); i++)
        {
            plan.Add(placements[i] ?? new PlacementRequest(null), $"placements[{i}]", vocabulary);
        }

        return plan;
    }

    /// <summary>What each row's slug comes to; rows without one are offered a readable one.</summary>
    public Task<IReadOnlyList<SlugState>> CheckSlugs(CursusDb db, CancellationToken cancel) => SlugCheck.Run(
        db,
        Domain!.Id,
        [.. Placements.Select(p => new SlugWish(p.Slug, Title.Length > 0 ? Title : ProposedTitle, p.Channel?.Key ?? ""))],
        PublishedOn.Year,
        cancel);

    private void Add(PlacementRequest row, string field, Vocabulary vocabulary)
    {
        var channel = vocabulary.Channel(row.Channel, Errors, $"{field}.channel");
        var variant = string.IsNullOrWhiteSpace(row.Variant) ? null : row.Variant.Trim();
        if (channel is not null && Placements.Any(p => p.Channel == channel && p.Variant == variant))
        {
            Errors.Add($"{field}.variant", new Flaw("variant-twice", $"{channel.Name} stands twice. Name the variants, such as “logo” and “button”, so that they can be told apart."));
        }

        var source = channel is null ? null : Vocabulary.Tag(row.Source ?? channel.Source, Errors, $"{field}.source");
        var medium = channel is null ? null : Vocabulary.Tag(row.Medium ?? channel.Medium, Errors, $"{field}.medium");
        var term = Vocabulary.OptionalTag(row.Term, Errors, $"{field}.term");
        var content = Vocabulary.OptionalTag(row.Content ?? variant, Errors, $"{field}.content");
        var slug = Vocabulary.OptionalSlug(row.Slug, Errors, $"{field}.slug");
        var tags = source is null || medium is null || Campaign is null ? null : new UtmTags(source, medium, TagValue.Of(Campaign.Key), term, content);
        var finalUrl = tags is null || Destination is null ? null : Destination.With(tags).ToString();
        Placements.Add(new PlannedPlacement(channel, variant, tags, finalUrl, slug, string.IsNullOrWhiteSpace(row.Title) ? Title : row.Title.Trim()));
    }
}
