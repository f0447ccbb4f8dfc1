using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Tagging;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>POST /posts/preview: what POST /posts would make of the same request, without saving anything. Slugs that are missing are
/// proposed.</summary>
public static class PreviewPost
{
    /// <param name="ProposedTitle">A suggested title if none was typed.</param>
    /// <param name="Destination">The address as a browser reads it; null if it isn't one.</param>
    /// <param name="Pasted">What the address carried besides the page; null if nothing.</param>
    /// <param name="Errors">What is wrong, by field.</param>
    public sealed record Response(
        string ProposedTitle,
        string? Destination,
        Pasted? Pasted,
        IReadOnlyDictionary<string, string[]> Errors,
        IReadOnlyList<Row> Placements
    );

    /// <summary>What the pasted address carried.</summary>
    /// <param name="ClickIds">Names of parameters that identify a single visitor.</param>
    /// <param name="WithoutClickIds">The address without them; null if there are none.</param>
    /// <param name="Fragment">Without the hash sign.</param>
    /// <param name="WithoutFragment">The address without a fragment that only tells links apart; null if it has none.</param>
    public sealed record Pasted(
        string? Source,
        string? Medium,
        string? Campaign,
        string? Term,
        string? Content,
        IReadOnlyList<string> ClickIds,
        string? WithoutClickIds,
        string? Fragment,
        string? WithoutFragment
    );

    /// <param name="Alternatives">Three free slugs if this one is taken.</param>
    /// <param name="Blocked">The deleted link that still reserves the slug, if that is why it is taken.</param>
    /// <param name="Hints">Values that are probably misspellings of agreed ones.</param>
    /// <param name="FinalUrl">Where visitors would go; null if something is missing.</param>
    public sealed record Row(
        string? Slug,
        bool IsTaken,
        IReadOnlyList<string> Alternatives,
        BlockedSlug? Blocked,
        string? ShortUrl,
        string? FinalUrl,
        IReadOnlyList<TagHint> Hints
    );

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapPost("/posts/preview", Handle).ForEditors().MakingLinks().WithSummary("Preview a post");

    private static async Task<Ok<Response>> Handle(
        PostRequest request,
        CurrentMember member,
        CursusDb db,
        LoopCheck loops,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var plan = await PostPlan.Make(request, member, db, options, now.InZone(member.Zone).Date, cancel);
        if (plan.Destination is not null && loops.Known(plan.Destination, member.WorkspaceId) is { } loop)
        {
            plan.Errors.Add("destination", loop);
        }

        var slugs = await plan.CheckSlugs(db, member.Workspace.SlugKind, now, cancel);
        var rows = plan.Placements.Select(
            (placement, i) =>
            {
                // A malformed slug has its error at the field; a proposal beside it would only confuse.
                var isMalformed = plan.Errors.ByField.ContainsKey($"placements[{i}].slug");
                var state = isMalformed ? null : slugs[i];
                var shortUrl = state is null ? null : options.ShortUrl(placement.Domain!.Name, state.Slug);
                return new Row(
                    state?.Slug,
                    state?.IsTaken ?? false,
                    state?.Alternatives ?? [],
                    state?.Blocked,
                    shortUrl,
                    placement.FinalUrl,
                    placement.Hints
                );
            }
        );
        return TypedResults.Ok(
            new Response(
                plan.ProposedTitle,
                plan.Destination?.Address.ToString(),
                PastedIn(plan.Destination, plan.Vocabulary),
                plan.Errors.ByField,
                [.. rows]
            )
        );
    }

    private static Pasted? PastedIn(Destination? destination, Vocabulary vocabulary)
    {
        if (destination is null)
        {
            return null;
        }

        var tags = UtmTags.In(destination.Address);
        var clickIds = ClickIds.In(destination.Address);
        return tags.Count == 0 && clickIds.Count == 0 && destination.Address.Fragment is null
            ? null
            : new Pasted(
                tags.GetValueOrDefault(TagField.Source)?.Text,
                tags.GetValueOrDefault(TagField.Medium)?.Text,
                tags.GetValueOrDefault(TagField.Campaign)?.Text,
                tags.GetValueOrDefault(TagField.Term)?.Text,
                tags.GetValueOrDefault(TagField.Content)?.Text,
                clickIds,
                clickIds.Count == 0 ? null : ClickIds.Strip(destination.Address).ToString(),
                destination.Address.Fragment,
                destination.Address.Fragment is { } fragment && TellApartFragment.Is(fragment, vocabulary.ChannelWords)
                    ? (destination.Address with { Fragment = null }).ToString()
                    : null
            );
    }
}
