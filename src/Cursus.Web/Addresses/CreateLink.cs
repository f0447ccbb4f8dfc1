using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Edge;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Addresses;

/// <summary>POST /links: one link without a post.</summary>
public static class CreateLink
{
    /// <param name="Title">Private name; the words of the page's address where left out.</param>
    /// <param name="Campaign">Key of a campaign. Source, medium and campaign go together: all three, or none for a link without tags.</param>
    /// <param name="Channel">Key of a channel, whose source and medium are taken where none are given.</param>
    /// <param name="Slug">A random one is made where left out.</param>
    public sealed record Request(
        string? Destination, string? Title = null, string? Campaign = null, string? Channel = null, string? Source = null, string? Medium = null,
        string? Term = null, string? Content = null, string? Slug = null, string? Domain = null, int? Redirect = null,
        IReadOnlyList<string>? Tags = null, IReadOnlyList<Guid>? Pixels = null);

    public static void Map(IEndpointRouteBuilder api) => api.MapPost("/links", Handle).ForEditors().WithSummary("Make one link without a post");

    private static async Task<Results<Created<LinkResponse>, ProblemHttpResult>> Handle(
        Request request, CurrentMember member, CursusDb db, LinkTable table, CursusOptions options, IClock clock, CancellationToken cancel)
    {
        var errors = new FieldErrors();
        var vocabulary = await Vocabulary.Load(db, member.WorkspaceId, cancel);
        var destination = vocabulary.Destination(request.Destination, errors);
        var domain = vocabulary.Domain(request.Domain, errors);
        var channel = request.Channel is null ? null : vocabulary.Channel(request.Channel, errors, "channel");
        var campaign = request.Campaign is null ? null : vocabulary.Campaign(request.Campaign, errors);
        var slug = Vocabulary.OptionalSlug(request.Slug, errors, "slug");
        var redirect = Vocabulary.Redirect(request.Redirect, errors);
        var utm = ReadTags(request.Source ?? channel?.Source, request.Medium ?? channel?.Medium, campaign, request.Term, request.Content, errors);
        var tags = await TagsOfLinks.FindOrAdd(db, member.WorkspaceId, request.Tags, errors, cancel);
        if (request.Pixels is { Count: > 0 })
        {
            errors.Add("pixels", new Flaw("pixel-unknown", "There is no such retargeting pixel in this workspace."));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var now = clock.GetCurrentInstant();
        var title = string.IsNullOrWhiteSpace(request.Title) ? PageTitle.FromAddress(destination!.Address) : request.Title.Trim();
        var wish = new SlugWish(slug ?? (Slug.TryParse(SlugMaker.Random(), out var random, out _) ? random : null), title, channel?.Key ?? "");
        var state = (await SlugCheck.Run(db, domain!.Id, [wish], now.InUtc().Year, cancel))[0];
        if (state.IsTaken)
        {
            return SlugTaken.Problem([("slug", state)]);
        }

        var link = new Link
        {
            WorkspaceId = member.WorkspaceId,
            DomainId = domain.Id,
            Slug = state.Slug,
            SlugKey = state.Slug.ToLowerInvariant(),
            Title = title,
            Destination = destination!.AsEntered,
            FinalUrl = (utm is null ? destination.Address : destination.With(utm)).ToString(),
            Source = utm?.Source.Text,
            Medium = utm?.Medium.Text,
            Term = utm?.Term?.Text,
            Content = utm?.Content?.Text,
            CampaignId = campaign?.Id,
            ChannelId = channel?.Id,
            Redirect = redirect,
            CreatedAt = now,
            CreatedBy = member.Id,
            Tags = tags,
        };
        db.Add(link);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException e) when (SlugTaken.Is(e))
        {
            return SlugTaken.Problem([("slug", (await SlugCheck.Run(db, domain.Id, [wish], now.InUtc().Year, cancel))[0])]);
        }

        table.Put(domain.Name, link.SlugKey, new LinkEntry(link.Id, link.FinalUrl, link.Redirect));
        var saved = await db.Links.Where(l => l.Id == link.Id).Select(LinkResponse.Read(db)).SingleAsync(cancel);
        return TypedResults.Created($"/api/v1/links/{link.Id}", LinkResponse.Of(saved, options));
    }

    /// <summary>All three needed tags, or none; anything between is an error at what is missing.</summary>
    internal static UtmTags? ReadTags(string? source, string? medium, Campaign? campaign, string? term, string? content, FieldErrors errors)
    {
        if (source is null && medium is null && campaign is null)
        {
            foreach (var (field, _) in new[] { ("term", term), ("content", content) }.Where(t => !string.IsNullOrWhiteSpace(t.Item2)))
            {
                errors.Add(field, new Flaw("tags-incomplete", "Term and content need source, medium and campaign beside them."));
            }

            return null;
        }

        var (s, m) = (Vocabulary.Tag(source, errors, "source"), Vocabulary.Tag(medium, errors, "medium"));
        var (t, c) = (Vocabulary.OptionalTag(term, errors, "term"), Vocabulary.OptionalTag(content, errors, "content"));
        if (campaign is null)
        {
            errors.Add("campaign", new Flaw("campaign-missing", "Source and medium need a campaign beside them. Choose one."));
        }

        return s is null || m is null || campaign is null ? null : new UtmTags(s, m, TagValue.Of(campaign.Key), t, c);
    }
}
