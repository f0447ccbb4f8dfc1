using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Links;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Links.Routes;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Links.Saving;

/// <summary>POST /links: one link without a post.</summary>
public static class CreateLink
{
    /// <param name="Title">Private name; if omitted, the words in the page's address.</param>
    /// <param name="Campaign">Key of a campaign. Source, medium and campaign go together: all three, or none for a link without tags.</param>
    /// <param name="Channel">Key of a channel; its source and medium apply unless given.</param>
    /// <param name="Slug">If omitted, a random one is generated.</param>
    /// <param name="Pixels">IDs of retargeting pixels; those of its campaign, channel and domain fire too.</param>
    /// <param name="OpensAt">When it opens: an instant, or a day or time in the workspace's time zone. Until then visitors go to its
    /// fallback.</param>
    /// <param name="EndsAt">When it ends, in the same forms; a day alone is its last day.</param>
    /// <param name="Routes">Rules by which it leads visitors to other pages.</param>
    /// <param name="RouteId">A saved route that it follows, in place of rules of its own.</param>
    public sealed record Request(
        string? Destination,
        string? Title = null,
        string? Campaign = null,
        string? Channel = null,
        string? Source = null,
        string? Medium = null,
        string? Term = null,
        string? Content = null,
        string? Slug = null,
        string? Domain = null,
        int? Redirect = null,
        IReadOnlyList<string>? Tags = null,
        IReadOnlyList<Guid>? Pixels = null,
        LinkOptionsPatch? Options = null,
        string? Note = null,
        string? Folder = null,
        string? OpensAt = null,
        string? EndsAt = null,
        RouteBody? Routes = null,
        Guid? RouteId = null
    );

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapPost("/links", Handle).ForEditors().MakingLinks().WithSummary("Create a link without a post");

    private static async Task<Results<Created<LinkResponse>, ProblemHttpResult>> Handle(
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkSaving saving,
        LoopCheck loops,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        var plan = Plan(request, vocabulary, errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (await loops.Find(plan!.Destination, member, vocabulary, cancel) is { } loop)
        {
            return ApiProblem.Invalid("destination", loop);
        }

        if (await loops.Find(plan.Settings.Route, member, vocabulary, cancel) is { } routedLoop)
        {
            return ApiProblem.Invalid("routes", routedLoop);
        }

        var (links, taken) = await saving.Save([plan], member, clock.GetCurrentInstant(), _ => SavedBeside.Nothing, cancel);
        if (taken.Count > 0)
        {
            return SlugTaken.Problem([("slug", taken[0].State)]);
        }

        var saved = (await db.Links.Where(l => l.Id == links[0].Id).Read(db, clock.GetCurrentInstant(), cancel)).Single();
        return TypedResults.Created($"/api/v1/links/{saved.Id}", LinkResponse.Of(saved, options));
    }

    /// <summary>Reads the request against the workspace's words; null with what is wrong in <paramref name="errors"/>.</summary>
    /// <param name="mayWait">Whether its short domain may be one that doesn't point here yet.</param>
    internal static LinkPlan? Plan(Request request, Vocabulary vocabulary, FieldErrors errors, bool mayWait = false)
    {
        var destination = vocabulary.Destination(request.Destination, errors);
        var domain = vocabulary.Domain(request.Domain, errors, mayWait: mayWait);
        var channel = request.Channel is null ? null : vocabulary.ActiveChannel(request.Channel, errors, "channel");
        var campaign = request.Campaign is null ? null : vocabulary.Campaign(request.Campaign, errors);
        var slug = Vocabulary.OptionalSlug(request.Slug, errors, "slug");
        // A name that nobody knows has been told of; what is missing because of it would only confuse.
        var isUnknown = (request.Channel is not null && channel is null) || (request.Campaign is not null && campaign is null);
        var utm = isUnknown
            ? null
            : ReadTags(request.Source ?? channel?.Source, request.Medium ?? channel?.Medium, campaign, request.Term, request.Content, errors);
        vocabulary.Words.Check(TagField.Source, utm?.Source, errors, "source");
        vocabulary.Words.Check(TagField.Medium, utm?.Medium, errors, "medium");
        vocabulary.Words.Check(TagField.Term, utm?.Term, errors, "term");
        vocabulary.Words.Check(TagField.Content, utm?.Content, errors, "content");
        var settings = LinkSettings.Read(
            new(request.Redirect, request.Options, request.Note, request.Folder, request.OpensAt, request.EndsAt, request.Routes, request.RouteId),
            wider: null,
            domain,
            vocabulary,
            errors
        );
        var tagNames = TagsOfLinks.Names(request.Tags, errors);
        if (request.Title?.Trim().Length > LinkSettings.MaxTitle)
        {
            errors.Add("title", new ValidationError("title", $"Give the link a title of at most {LinkSettings.MaxTitle} characters."));
        }

        var pixels = vocabulary.Pixels(request.Pixels, errors);
        if (errors.Any)
        {
            return null;
        }

        var title = string.IsNullOrWhiteSpace(request.Title) ? PageTitle.FromAddress(destination!.Address) : request.Title.Trim();
        return new LinkPlan(domain!, slug, title, destination!, utm, vocabulary.Sent(utm), campaign, channel, settings, tagNames, pixels);
    }

    /// <summary>All three needed tags, or none; anything between is an error at what is missing.</summary>
    internal static UtmTags? ReadTags(string? source, string? medium, Campaign? campaign, string? term, string? content, FieldErrors errors)
    {
        if (source is null && medium is null && campaign is null)
        {
            foreach (var (field, _) in new[] { ("term", term), ("content", content) }.Where(t => !string.IsNullOrWhiteSpace(t.Item2)))
            {
                errors.Add(field, new ValidationError("tags-incomplete", "To use term or content, also set source, medium and campaign."));
            }

            return null;
        }

        var (s, m) = (Vocabulary.Tag(source, errors, "source"), Vocabulary.Tag(medium, errors, "medium"));
        var (t, c) = (Vocabulary.OptionalTag(term, errors, "term"), Vocabulary.OptionalTag(content, errors, "content"));
        if (campaign is null)
        {
            errors.Add("campaign", new ValidationError("campaign-missing", "To use source and medium, also choose a campaign."));
        }

        return s is null || m is null || campaign is null ? null : new UtmTags(s, m, TagValue.Of(campaign.Key), t, c);
    }
}
