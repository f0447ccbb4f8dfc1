using System.Text;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Urls;
using Cursus.Core.Checking;
using Cursus.Core.Routing;

namespace Cursus.Core.Links;

/// <summary>Why a link answers as it does.</summary>
public enum LinkRule : byte
{
    /// <summary>Nothing stands in the way: it leads to its destination.</summary>
    Destination,

    /// <summary>It was deleted.</summary>
    Deleted,

    /// <summary>It is yet to open.</summary>
    Scheduled,

    /// <summary>It has ended.</summary>
    Ended,

    /// <summary>The page behind its destination is dead.</summary>
    DeadPage,

    /// <summary>Its route decided.</summary>
    Route,
}

/// <summary>The kinds of responses to a visitor of a link.</summary>
public enum LinkResponseKind : byte
{
    /// <summary>A redirect.</summary>
    Redirect,

    /// <summary>A page that leads on without telling the destination where the visitor came from.</summary>
    OnwardPage,

    /// <summary>The page that fires pixels, or asks first, and leads on.</summary>
    HandoffPage,

    /// <summary>Says that the link will open later.</summary>
    ScheduledPage,

    /// <summary>Says that the link has ended, or leads to the page that the domain has for that.</summary>
    EndedPage,

    /// <summary>Says that what others get is closed to this visitor.</summary>
    ClosedPage,
}

/// <summary>What one visitor of a link gets. Everything that follows from a visit (the click that is written down, the response, a report on pixels)
/// is made from this and decides nothing again.</summary>
public readonly ref struct LinkDecision
{
    public LinkResponseKind Kind { get; private init; }

    /// <summary>What decided.</summary>
    public LinkRule Rule { get; private init; }

    /// <summary>Number of the rule of its route that decided; 0 where none did.</summary>
    public byte RouteRule { get; private init; }

    /// <summary>What a visitor reads to whom it is closed; null for the usual words.</summary>
    public string? ClosedText { get; private init; }

    /// <summary>Which of the link's pages the visitor is led to, where it leads on.</summary>
    public LinkPage Page { get; private init; }

    /// <summary>The address of that page, as UTF-8, without what the visitor brought along.</summary>
    public ReadOnlySpan<byte> Address { get; private init; }

    /// <summary>HTTP status of a redirect.</summary>
    public short Status { get; private init; }

    /// <summary>What happens to the visitor's own parameters.</summary>
    public QueryPassing PassQuery { get; private init; }

    public bool HidesReferrer { get; private init; }

    public bool HidesFromSearch { get; private init; }

    /// <summary>Whether the visitor is led to a page, so that the visit counts as a click.</summary>
    public bool LeadsOn => Kind < LinkResponseKind.ScheduledPage;

    /// <summary>Decides for one visitor.</summary>
    /// <param name="now">Asked for only where the link has a schedule.</param>
    /// <param name="isTeam">The workspace's own people can open a link before it opens for others.</param>
    public static LinkDecision Of(scoped in LinkTarget target, NodaTime.Instant now, bool isTeam)
    {
        if (target.IsDeleted)
        {
            return new() { Kind = LinkResponseKind.EndedPage, Rule = LinkRule.Deleted };
        }

        var rule = (target.Schedule.IsAlways ? LinkStage.Open : target.Schedule.StageAt(now)) switch
        {
            LinkStage.Ended => LinkRule.Ended,
            LinkStage.Scheduled when !isTeam => LinkRule.Scheduled,
            _ when target.IsDead && !target.Fallback.IsEmpty => LinkRule.DeadPage,
            _ => LinkRule.Destination,
        };
        return rule == LinkRule.Destination ? LeadOn(target, rule, LinkPage.Destination)
            : !target.Fallback.IsEmpty ? LeadOn(target, rule, LinkPage.Fallback)
            : new() { Kind = rule == LinkRule.Scheduled ? LinkResponseKind.ScheduledPage : LinkResponseKind.EndedPage, Rule = rule };
    }

    /// <summary>Decides for one visitor of a link that has a route.</summary>
    /// <param name="zone">By whose clock hours are meant.</param>
    /// <param name="isAsked">Whether rules are asked; machines and previews get what everyone else gets.</param>
    /// <param name="visit">Asked only where the link is open, and only what its rules ask for.</param>
    public static LinkDecision OfRoute<T>(
        scoped in LinkTarget target,
        Guid link,
        NodaTime.DateTimeZone zone,
        bool isTeam,
        bool isAsked,
        scoped ref T visit
    )
        where T : IRouteVisit, allows ref struct
    {
        var decision = Of(target, visit.Now, isTeam);
        if (target.Route is not { Route: { } route } || decision.Rule is not (LinkRule.Destination or LinkRule.DeadPage))
        {
            return decision;
        }

        var routed = isAsked ? RouteDecision.Of(route, link, zone, ref visit) : RouteDecision.Everyone(route, link, visit.Visitor);
        var rule = routed.Rule is { } place ? route.Rules[place].Number : (byte)0;
        return routed switch
        {
            { Outcome: null } => decision,
            { Page: null } => new()
            {
                Kind = LinkResponseKind.ClosedPage,
                Rule = LinkRule.Route,
                RouteRule = rule,
                ClosedText = routed.Outcome.ClosedText,
            },
            { Page.IsDead: true } when !target.Fallback.IsEmpty => LeadOn(target, LinkRule.DeadPage, LinkPage.Fallback) with { RouteRule = rule },
            _ => LeadOn(target, LinkRule.Route, (LinkPage)routed.Page.Number) with { RouteRule = rule },
        };
    }

    /// <summary>What was decided once, for the later steps of a visit, whatever would be decided at this moment. A page that the link no longer has
    /// is its destination.</summary>
    /// <param name="isTeam">Nobody else learns where a link will lead before it opens.</param>
    public static LinkDecision Again(scoped in LinkTarget target, LinkPage page, NodaTime.Instant now, bool isTeam)
    {
        page = target.AddressOf(page).IsEmpty ? LinkPage.Destination : page;
        return target.IsDeleted ? new() { Kind = LinkResponseKind.EndedPage, Rule = LinkRule.Deleted }
            : page == LinkPage.Destination && !isTeam && target.Schedule.StageAt(now) == LinkStage.Scheduled
                ? new() { Kind = LinkResponseKind.ScheduledPage, Rule = LinkRule.Scheduled }
            : LeadOn(target, LinkRule.Destination, page);
    }

    /// <summary>The same where the link has pixels, once it is known what becomes of them at this visit.</summary>
    public LinkDecision With(HandoffCourse handoff) =>
        LeadsOn && handoff is HandoffCourse.Fire or HandoffCourse.Ask ? this with { Kind = LinkResponseKind.HandoffPage } : this;

    /// <summary>Where a visitor is led whose short address carries a query.</summary>
    /// <param name="query">With or without its question mark.</param>
    public string AddressWith(string query) => PassedQuery.WriteInto(Encoding.UTF8.GetString(Address), query, PassQuery);

    private static LinkDecision LeadOn(scoped in LinkTarget target, LinkRule rule, LinkPage page) =>
        new()
        {
            Kind = target.Referrer == ReferrerPassing.HideByPage ? LinkResponseKind.OnwardPage : LinkResponseKind.Redirect,
            Rule = rule,
            Page = page,
            Address = target.AddressOf(page),

            // Where a link leads now is not for good if it has led, or will lead, elsewhere.
            Status =
                page == LinkPage.Fallback || !target.Schedule.IsAlways || target.Route is not null
                    ? FallbackDestination.Redirect(target.Redirect)
                    : target.Redirect,
            PassQuery = target.PassQuery,
            HidesReferrer = target.Referrer != ReferrerPassing.Keep,
            HidesFromSearch = target.HideFromSearch,
        };
}
