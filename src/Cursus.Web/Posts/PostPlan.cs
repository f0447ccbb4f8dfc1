using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Addresses.Tagging;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Links;
using Cursus.Web.Links.Saving;
using Cursus.Web.Problems;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>One placement as it would be saved.</summary>
internal sealed record PlannedPlacement(
    Channel? Channel,
    string? Variant,
    UtmTags? Tags,
    UtmTags? Sent,
    string? FinalUrl,
    Slug? Slug,
    SlugKind? SlugKind,
    string Title,
    ShortDomain? Domain,
    LinkSettings Settings,
    IReadOnlyList<string> TagNames,
    IReadOnlyList<Guid> PixelIds,
    IReadOnlyList<TagHint> Hints
);

/// <summary>A value in a row that is probably a misspelling of an agreed one.</summary>
/// <param name="Field">Field of the row: <c>source</c>, <c>medium</c>, <c>term</c>, <c>content</c> or <c>variant</c>.</param>
public sealed record TagHint(string Field, string Value, string Agreed, TagSlipKind Kind);

/// <summary>
/// A post as it would be saved, with everything that is wrong with it. Saving and previewing both go by this plan, so that what is shown while
/// typing is what will be saved.
/// </summary>
internal sealed class PostPlan
{
    public const int MaxPlacements = 100;
    public const int MaxTitle = LinkSettings.MaxTitle;

    public FieldErrors Errors { get; } = new();
    public required Vocabulary Vocabulary { get; init; }
    public string Title { get; private init; } = "";
    public Destination? Destination { get; private set; }
    public Campaign? Campaign { get; private set; }
    public LocalDate PublishedOn { get; private set; }
    public List<PlannedPlacement> Placements { get; } = [];

    /// <summary>Retargeting pixels that fire for all links of the post.</summary>
    public IReadOnlyList<Guid> PixelIds { get; private set; } = [];

    /// <summary>A title to offer where none was typed: the words of the page's address.</summary>
    public string ProposedTitle { get; private set; } = "";

    public static async Task<PostPlan> Make(
        PostRequest request,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        LocalDate today,
        CancellationToken cancel
    )
    {
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        var plan = new PostPlan
        {
            Vocabulary = vocabulary,
            Title = request.Title?.Trim() ?? "",
            PublishedOn = request.PublishedOn ?? today,
        };
        plan.Destination = vocabulary.Destination(request.Destination, plan.Errors);
        plan.Campaign = vocabulary.Campaign(request.Campaign, plan.Errors);
        plan.ProposedTitle = plan.Destination is { } page ? PageTitle.FromAddress(page.Address) : "";
        if (plan.Title.Length is 0 or > MaxTitle)
        {
            plan.Errors.Add(
                "title",
                new ValidationError("title", $"Enter a title of at most {MaxTitle} characters, so that you can find the post later.")
            );
        }

        plan.PixelIds = vocabulary.Pixels(request.Pixels, plan.Errors);

        // What stands for all rows is checked once, so that one slip is told once.
        var domain = vocabulary.Domain(request.Domain, plan.Errors);
        var asked = new LinkSettingsRequest(
            request.Redirect,
            request.Options,
            request.Note,
            request.Folder,
            request.OpensAt,
            request.EndsAt,
            request.Routes,
            request.RouteId
        );
        var forAll = LinkSettings.Read(asked, wider: null, domain, vocabulary, plan.Errors);
        var tagNames = TagsOfLinks.Names(request.Tags, plan.Errors);
        var placements = request.Placements ?? [];
        if (placements.Count is 0 or > MaxPlacements)
        {
            plan.Errors.Add("placements", new ValidationError("placements", $"Choose at least one channel, and at most {MaxPlacements} placements."));
        }

        for (var i = 0; i < Math.Min(placements.Count, MaxPlacements); i++)
        {
            var row = placements[i] ?? new PlacementRequest(null);
            var field = $"placements[{i}]";
            var rowDomain = row.Domain is null ? domain : vocabulary.Domain(row.Domain, plan.Errors, $"{field}.domain");
            var askedOfRow = new LinkSettingsRequest(
                row.Redirect,
                row.Options,
                row.Note,
                row.Folder,
                row.OpensAt,
                row.EndsAt,
                row.Routes,
                row.RouteId
            );
            var settings =
                askedOfRow.IsSilent && row.Domain is null
                    ? forAll
                    : LinkSettings.Read(askedOfRow, wider: asked, rowDomain, vocabulary, plan.Errors, $"{field}.");
            plan.Add(
                row,
                field,
                request.PastedTags ?? PastedTags.Replace,
                rowDomain,
                settings,
                row.Tags is null ? tagNames : TagsOfLinks.Names(row.Tags, plan.Errors, $"{field}.tags"),
                vocabulary
            );
        }

        return plan;
    }

    /// <summary>What each row's slug comes to; rows without one are offered a readable one, and rows that want a random one nothing.</summary>
    /// <param name="usual">What rows want that don't say.</param>
    public async Task<IReadOnlyList<SlugState?>> CheckSlugs(CursusDb db, SlugKind usual, Instant now, CancellationToken cancel)
    {
        var asked = Placements.Where(p => p.Domain is not null && (p.Slug is not null || (p.SlugKind ?? usual) != SlugKind.Random)).ToList();
        var requests = asked
            .Select(p => new SlugRequest(p.Domain!.Id, p.Slug, Title.Length > 0 ? Title : ProposedTitle, p.Channel?.Key ?? ""))
            .ToList();
        var states = new Queue<SlugState>(await SlugCheck.Run(db, requests, now, cancel));
        var isAsked = asked.ToHashSet<object>(ReferenceEqualityComparer.Instance);
        return [.. Placements.Select(p => isAsked.Contains(p) ? states.Dequeue() : null)];
    }

    /// <summary>The links to save. Call only where nothing is wrong.</summary>
    public IReadOnlyList<LinkPlan> Links() =>
        [
            .. Placements.Select(p => new LinkPlan(
                p.Domain!,
                p.Slug,
                p.Title,
                Destination!,
                p.Tags,
                p.Sent,
                Campaign,
                p.Channel,
                p.Settings,
                p.TagNames,
                p.PixelIds
            )),
        ];

    private void Add(
        PlacementRequest row,
        string field,
        PastedTags pasted,
        ShortDomain? domain,
        LinkSettings settings,
        IReadOnlyList<string> tagNames,
        Vocabulary vocabulary
    )
    {
        var channel = vocabulary.ActiveChannel(row.Channel, Errors, $"{field}.channel");
        var variant = string.IsNullOrWhiteSpace(row.Variant) ? null : row.Variant.Trim();
        if (channel is not null && Placements.Any(p => p.Channel == channel && p.Variant == variant))
        {
            Errors.Add(
                $"{field}.variant",
                new ValidationError(
                    "variant-twice",
                    $"{channel.Name} is there twice. Name the variants, for example “logo” and “button”, to tell them apart."
                )
            );
        }

        var source = channel is null ? null : Vocabulary.Tag(row.Source ?? channel.Source, Errors, $"{field}.source");
        var medium = channel is null ? null : Vocabulary.Tag(row.Medium ?? channel.Medium, Errors, $"{field}.medium");
        var term = Vocabulary.OptionalTag(row.Term, Errors, $"{field}.term");
        var content = Vocabulary.OptionalTag(row.Content ?? variant, Errors, $"{field}.content");
        var slug = Vocabulary.OptionalSlug(row.Slug, Errors, $"{field}.slug");
        var tags =
            source is null || medium is null || Campaign is null ? null : new UtmTags(source, medium, TagValue.Of(Campaign.Key), term, content);
        tags = tags is not null && Destination is not null && pasted == PastedTags.Keep ? tags.KeepingThoseOf(Destination.Address) : tags;
        var isVariant = string.IsNullOrWhiteSpace(row.Content) && variant is not null;
        (TagField Field, TagValue? Value, string At)[] values =
        [
            (TagField.Source, source, "source"),
            (TagField.Medium, medium, "medium"),
            (TagField.Term, term, "term"),
            (TagField.Content, content, isVariant ? "variant" : "content"),
        ];
        foreach (var (tagField, value, at) in values)
        {
            vocabulary.Words.Check(tagField, value, Errors, $"{field}.{at}");
        }

        var hints = values
            .Select(v => (v.At, v.Value, Slip: v.Value is null ? null : vocabulary.Words.SlipOf(v.Field, v.Value.Text)))
            .Where(v => v.Slip is not null)
            .Select(v => new TagHint(v.At, v.Value!.Text, v.Slip!.Agreed, v.Slip.Kind));
        var sent = vocabulary.Sent(tags);
        var finalUrl = sent is null || Destination is null ? null : Destination.With(sent).ToString();
        Placements.Add(
            new PlannedPlacement(
                channel,
                variant,
                tags,
                sent,
                finalUrl,
                slug,
                row.SlugKind,
                string.IsNullOrWhiteSpace(row.Title) ? Title : row.Title.Trim(),
                domain,
                settings,
                tagNames,
                vocabulary.Pixels(row.Pixels, Errors, $"{field}.pixels"),
                [.. hints]
            )
        );
    }
}
