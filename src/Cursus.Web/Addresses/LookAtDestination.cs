using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Urls;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Cursus.Web.Addresses;

/// <summary>GET /destinations/look: whether a page answers and what it calls itself. Nothing waits for it; it only informs.</summary>
public static class LookAtDestination
{
    private const int MaxText = 300;

    /// <summary>Result of the check.</summary>
    public enum State
    {
        /// <summary>The page is there.</summary>
        Answers,

        /// <summary>The page's server says that it is not, or fails.</summary>
        Refuses,

        /// <summary>Nobody answered, or the page must not be asked.</summary>
        Silent,

        /// <summary>The page leads back to one of the workspace's own short domains.</summary>
        Loops,
    }

    /// <param name="Text">A message for people.</param>
    /// <param name="Status">HTTP status, if the page answered.</param>
    /// <param name="Milliseconds">Time until the answer was complete.</param>
    /// <param name="Title">The page's own title; null if it has none.</param>
    /// <param name="LeadsTo">Where the page's redirects end, if elsewhere.</param>
    public sealed record Response(
        State State,
        string Text,
        int? Status,
        int? Milliseconds,
        string? Title,
        string? Description,
        string? Picture,
        string? LeadsTo
    );

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/destinations/look", Handle).ForEditors().WithSummary("Check a page and read its title");

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        string address,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        OutgoingClient outgoing,
        LoopCheck loops,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        if (vocabulary.Destination(address, errors) is not { } destination)
        {
            return ApiProblem.Invalid(errors);
        }

        try
        {
            var page = await outgoing.Get(destination.Address with { Fragment = null }, "text/html", cancel, vocabulary.IsOwnDomain);
            loops.Remember(destination, member.WorkspaceId, page, vocabulary);
            return TypedResults.Ok(Describe(page, vocabulary));
        }
        catch (PageNotFetchedException e)
        {
            return TypedResults.Ok(new Response(State.Silent, e.Error.Text, null, null, null, null, null, null));
        }
    }

    private static Response Describe(FetchedPage page, Vocabulary vocabulary)
    {
        var milliseconds = (int)page.Took.TotalMilliseconds;
        var leadsTo = page.Way.Count > 1 ? page.Way[^1].ToString() : null;
        if (LoopCheck.OwnDomainOn(page, vocabulary) is { } own)
        {
            return new Response(State.Loops, AddressErrors.LeadsBackOnTheWay(own).Text, page.Status, milliseconds, null, null, null, leadsTo);
        }

        if (page.Status >= 400)
        {
            var text = page.Status is 404 or 410
                ? $"The site says this page doesn’t exist ({page.Status}). Check the address."
                : $"The site returns an error ({page.Status}). Open the page yourself to see whether visitors can read it.";
            return new Response(State.Refuses, text, page.Status, milliseconds, null, null, null, leadsTo);
        }

        var (title, description, picture) = Read(page);
        return new Response(State.Answers, "answers", page.Status, milliseconds, title, description, picture, leadsTo);
    }

    /// <summary>Title, description and picture: what the page says for sharing (Open Graph protocol, https://ogp.me), else its own head.</summary>
    private static (string? Title, string? Description, string? Picture) Read(FetchedPage page)
    {
        var read = PageReading.Of(page.Body);
        var picture = Shortened(read.Meta("og:image")) is { } text ? WebAddress.Parse(text, page.Way[^1], out _)?.ToString() : null;
        return (
            Shortened(read.Meta("og:title")) ?? Shortened(read.Title),
            Shortened(read.Meta("og:description")) ?? Shortened(read.Meta("description")),
            picture
        );
    }

    private static string? Shortened(string? text)
    {
        var plain = string.Join(' ', (text ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        return plain.Length == 0 ? null
            : plain.Length > MaxText ? plain[..MaxText]
            : plain;
    }
}
