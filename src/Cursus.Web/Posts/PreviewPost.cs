using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>POST /posts/preview: what POST /posts would make of the same request, without saving anything. Slugs that are missing are proposed.</summary>
public static class PreviewPost
{
    /// <param name="ProposedTitle">A title to offer where none was typed.</param>
    /// <param name="Destination">The address as a browser reads it; null where it is none.</param>
    /// <param name="Errors">What is wrong, by field.</param>
    public sealed record Response(string ProposedTitle, string? Destination, IReadOnlyDictionary<string, string[]> Errors, IReadOnlyList<Row> Placements);

    /// <param name="Alternatives">Three free slugs where this one is taken.</param>
    /// <param name="FinalUrl">Where visitors would be sent; null where something needed is missing.</param>
    public sealed record Row(string? Slug, bool IsTaken, IReadOnlyList<string> Alternatives, string? ShortUrl, string? FinalUrl);

    public static void Map(IEndpointRouteBuilder api) => api.MapPost("/posts/preview", Handle).ForEditors().WithSummary("What saving a post would make");

    private static async Task<Ok<Response>> Handle(
        PostRequest request, CurrentMember member, CursusDb db, CursusOptions options, IClock clock, CancellationToken cancel)
    {
        var plan = await PostPlan.Make(request, member, db, clock.GetCurrentInstant().InZone(member.Zone).Date, cancel);
        var slugs = plan.Domain is null ? null : await plan.CheckSlugs(db, cancel);
        var rows = plan.Placements.Select((placement, i) =>
        {
            // A malformed slug has its error at the field; a proposal beside it would only confuse.
            var isMalformed = plan.Errors.ByField.ContainsKey($"placements[{i}].slug");
            var state = isMalformed ? null : slugs?[i];
            return new Row(
                state?.Slug, state?.IsTaken ?? false, state?.Alternatives ?? [], state is null ? null : options.ShortUrl(plan.Domain!.Name, state.Slug), placement.FinalUrl);
        });
        return TypedResults.Ok(new Response(plan.ProposedTitle, plan.Destination?.Address.ToString(), plan.Errors.ByField, [.. rows]));
    }
}
