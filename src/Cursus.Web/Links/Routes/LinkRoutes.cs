using Cursus.Core;
using Cursus.Core.Checking;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;
using Route = Cursus.Core.Routing.Route;

namespace Cursus.Web.Links.Routes;

/// <summary>/links/{id}/routes: by which rules a link leads visitors to which pages.</summary>
public static class LinkRoutes
{
    /// <summary>A visit to try a route on.</summary>
    /// <param name="Country">ISO 3166-1 code; unknown if omitted.</param>
    /// <param name="Device">By the user agent, if there is one.</param>
    /// <param name="System">By the user agent, if there is one.</param>
    /// <param name="Language">Value of the <c>Accept-Language</c> field, such as <c>de</c>.</param>
    /// <param name="At">An instant, or a time in the workspace's time zone; now if omitted.</param>
    /// <param name="Referrer">Address of the page that the visitor left, or a network's name.</param>
    /// <param name="Query">Query of the short address.</param>
    public sealed record Trial(
        string? Country = null,
        RouteDevice? Device = null,
        string? System = null,
        string? Language = null,
        string? At = null,
        string? Referrer = null,
        string? Query = null,
        string? UserAgent = null
    );

    /// <summary>What a visitor would get.</summary>
    /// <param name="Rule">The rule that decides, counted from 1; null for everyone else.</param>
    /// <param name="Destination">As entered; null where the link is closed to the visitor.</param>
    /// <param name="FinalUrl">The same with its tags.</param>
    /// <param name="Why">One sentence for each rule.</param>
    public sealed record TrialResponse(int? Rule, string? Destination, string? FinalUrl, IReadOnlyList<string> Why);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/links/{id:guid}/routes", Show).ForViewers().WithSummary("Rules of a link, in their order");
        api.MapPut("/links/{id:guid}/routes", Put).ForEditors().WithSummary("Set the rules of a link; If-Match names the version you last saw");
        api.MapDelete("/links/{id:guid}/routes", Delete).ForEditors().WithSummary("Lead everybody to the link’s destination again");
        api.MapPost("/routes/check", Check).ForEditors().WithSummary("Check rules before a link has them; answers with each in words");
        api.MapPost("/links/{id:guid}/routes/try", Try).ForViewers().OnlyReading().WithSummary("Try a link’s rules on a made-up visit");
    }

    private static async Task<Results<Ok<RouteBody>, ProblemHttpResult>> Show(
        Guid id,
        CurrentMember member,
        CursusDb db,
        NpgsqlDataSource source,
        CancellationToken cancel
    ) =>
        await EditLink.Find(id, member, db, cancel) is { } link
            ? TypedResults.Ok(await Body(link, member, source, cancel))
            : ApiProblem.NotFound("link");

    private static async Task<Results<Ok<RouteBody>, ProblemHttpResult>> Put(
        Guid id,
        RouteBody body,
        CurrentMember member,
        CursusDb db,
        NpgsqlDataSource source,
        LinkFeed feed,
        LoopCheck loops,
        CursusOptions options,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await EditLink.Find(id, member, db, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        if (await SeenVersion.Check(http.Request, link, db, cancel) is { } overtaken)
        {
            return overtaken;
        }

        var errors = new FieldErrors();
        var rewriting = await LinkRewriting.Load(db, member, options, cancel);
        var saved = RouteReading.Saved(body.RouteId, body, rewriting.Vocabulary, errors, "routeId");
        var route = saved is null ? RouteReading.Read(body, rewriting.Vocabulary, errors) : RouteText.Read(saved.Route);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (await loops.Find(route, member, rewriting.Vocabulary, cancel, link.RoutedPages.Select(p => p.Destination)) is { } loop)
        {
            return ApiProblem.Invalid("rules", loop);
        }

        if (RoutesOfLinks.Numbered(link, route) is not { } numbered)
        {
            return ApiProblem.Invalid(
                "rules",
                new ValidationError(
                    "too-many-pages",
                    $"This link has had {RoutePages.MaxEver} pages or {RouteEditing.MaxRulesEver} rules already. Create a new link for more."
                )
            );
        }

        return await Save(link, numbered, saved?.Id, rewriting, member, db, source, feed, options, http, clock, cancel);
    }

    private static async Task<Results<Ok<RouteBody>, ProblemHttpResult>> Check(
        RouteBody body,
        CurrentMember member,
        CursusDb db,
        LoopCheck loops,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        var route = RouteReading.Read(body, vocabulary, errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        // Numbers tell its rules apart, as they will in a link.
        short last = 0;
        return await loops.Find(route, member, vocabulary, cancel) is { } loop
            ? ApiProblem.Invalid("rules", loop)
            : TypedResults.Ok(RouteReading.Body(RouteEditing.After(null, route, ref last)!, member.Zone, new Dictionary<byte, int>()));
    }

    private static Task<Results<Ok<RouteBody>, ProblemHttpResult>> Delete(
        Guid id,
        CurrentMember member,
        CursusDb db,
        NpgsqlDataSource source,
        LinkFeed feed,
        LoopCheck loops,
        CursusOptions options,
        IClock clock,
        HttpContext http,
        CancellationToken cancel
    ) => Put(id, new RouteBody(), member, db, source, feed, loops, options, clock, http, cancel);

    private static async Task<Results<Ok<TrialResponse>, ProblemHttpResult>> Try(
        Guid id,
        Trial trial,
        CurrentMember member,
        CursusDb db,
        NpgsqlDataSource source,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await EditLink.Find(id, member, db, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        var errors = new FieldErrors();
        var visit = TriedVisit.Read(trial, member.Zone, clock.GetCurrentInstant(), await RulePeople.Counts(source, link.Id, cancel), errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var route = link.Route is { } text ? RouteText.Read(text) : new Route();
        var tried = RouteTrial.Of(route, link.Id, member.Zone, ref visit);
        var closed = tried.Decision is { Outcome.IsClosed: true, Page: null };
        var destination = closed ? null : tried.Decision.Page?.Destination ?? link.Destination;
        return TypedResults.Ok(
            new TrialResponse(
                tried.Decision.Rule + 1,
                destination,
                tried.Decision.Page is null
                    ? closed
                        ? null
                        : link.FinalUrl
                    : FallbackDestination.For(destination!, link.FinalUrl),
                tried.Why
            )
        );
    }

    private static async Task<Results<Ok<RouteBody>, ProblemHttpResult>> Save(
        Link link,
        Route? route,
        Guid? savedRoute,
        LinkRewriting rewriting,
        CurrentMember member,
        CursusDb db,
        NpgsqlDataSource source,
        LinkFeed feed,
        CursusOptions options,
        HttpContext http,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (now, before) = (clock.GetCurrentInstant(), LinkVersions.StateOf(link));
        var patch = new LinkPatch
        {
            Route = Patch.To(route is null or { Rules.Count: 0, Otherwise: null } ? null : RouteText.Of(route)),
            RouteId = Patch.To(savedRoute),
        };
        rewriting.Write(link, before, patch.Over(before), now);
        LinkVersions.Keep(db, link, before, member, now);
        return (await EditLink.Save(link, member, db, feed, options, http, clock, transaction: null, cancel)).Result is ProblemHttpResult problem
            ? problem
            : TypedResults.Ok(await Body(link, member, source, cancel));
    }

    private static async Task<RouteBody> Body(Link link, CurrentMember member, NpgsqlDataSource source, CancellationToken cancel)
    {
        var route = link.Route is { } text ? RouteText.Read(text) : new Route();
        var people = route.Rules.Any(r => r.When.First is not null) ? await RulePeople.Counts(source, link.Id, cancel) : [];
        return RouteReading.Body(route, member.Zone, people, link.RouteId);
    }
}
