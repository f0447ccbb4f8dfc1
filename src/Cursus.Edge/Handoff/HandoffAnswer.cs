using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;
using Cursus.Data.Clicks.Journaling;

namespace Cursus.Edge.Handoff;

/// <summary>A visit to a link that has pixels, as it was decided.</summary>
/// <param name="Page">Where it leads; <paramref name="OwnLocation"/> is the address of that.</param>
/// <param name="Location">The same with what was passed on of the visitor's query.</param>
internal sealed record HandoffVisit(
    DomainEntry Domain,
    Guid LinkId,
    string Slug,
    LinkPage Page,
    string OwnLocation,
    string Location,
    int? Deadline,
    bool HidesReferrer,
    IReadOnlyList<PixelEntry> Pixels,
    EdgeHandoffSettings Settings
)
{
    /// <param name="slug">As the visitor typed it.</param>
    /// <param name="query">The visitor's, with or without its question mark.</param>
    public static HandoffVisit Of(
        DomainEntry domain,
        in LinkEntry link,
        in LinkDecision decision,
        string slug,
        string query,
        IReadOnlyList<PixelEntry> pixels,
        EdgeHandoffSettings settings
    ) =>
        new(
            domain,
            link.Id,
            slug,
            decision.Page,
            decision.AddressWith(""),
            TeamMark.Location(decision, query),
            link.HandoffDeadline,
            decision.HidesReferrer,
            pixels,
            settings
        );
}

/// <summary>Answers visits to links with pixels: with the handoff page, or with nothing where the visit is to be redirected plainly; and takes down
/// what became of the pixels.</summary>
internal sealed class HandoffAnswer(ClickJournal journal, EdgeOptions options)
{
    private const string CookieName = "cursus-consent";
    private const string Yes = "yes";
    private const string No = "no";

    /// <summary>What becomes of the pixels at a visit. What is decided before any page is written down at once.</summary>
    public HandoffCourse Decide(Exchange exchange, HandoffVisit visit, VisitReader.Visitor visitor)
    {
        var headers = exchange.Request.Headers;
        var kind = KindOf(exchange, visitor);
        var saysNo = Consent.SaysNo(headers["Sec-GPC"], headers["DNT"]);
        var mustAsk = Consent.MustAsk(visit.Settings.Consent, visit.Settings.Countries, visitor.Country);
        var course = HandoffDecision.Of(kind, saysNo, headers.Cookie.Count > 0 ? Remembered(exchange) : null, mustAsk);
        if (course is HandoffCourse.Declined or HandoffCourse.OptedOut)
        {
            Report(visit, visitor, kind, course == HandoffCourse.Declined ? HandoffOutcome.Declined : HandoffOutcome.OptedOut);
        }

        return course;
    }

    /// <summary>Remembers an answer on this short domain. By the server: browsers keep what scripts store for a few days only.</summary>
    public void Remember(HttpContext context, ConsentAnswer answer) =>
        context.Response.Cookies.Append(
            CookieName,
            answer == ConsentAnswer.Yes ? Yes : No,
            new CookieOptions
            {
                HttpOnly = true,
                Secure = options.PublicScheme == "https",
                SameSite = SameSiteMode.Lax,
                MaxAge = TimeSpan.FromDays(answer == ConsentAnswer.Yes ? Consent.YesDays : Consent.NoDays),
                Path = "/",
            }
        );

    /// <summary>Writes the same outcome down for all pixels. The team's own visits and machines' count for nobody.</summary>
    public void Report(HandoffVisit visit, VisitReader.Visitor visitor, ClickKind kind, HandoffOutcome outcome) =>
        Report(visit, visitor, kind, [.. visit.Pixels.Select(p => new PixelOutcome(p.Id, outcome))]);

    public void Report(HandoffVisit visit, VisitReader.Visitor visitor, ClickKind kind, IReadOnlyList<PixelOutcome> outcomes)
    {
        if (kind == ClickKind.Person)
        {
            journal.Append(new HandoffReport(visitor.At, visit.LinkId, visitor.Hash, outcomes));
        }
    }

    /// <summary>Who it is by headers and user agent together.</summary>
    public static ClickKind KindOf(Exchange exchange, VisitReader.Visitor visitor) =>
        visitor.Kind == ClickKind.Person ? UserAgentReading.KindOf(exchange.Request.Headers.UserAgent.ToString(), visitor.Signs) : visitor.Kind;

    private static ConsentAnswer? Remembered(Exchange exchange) =>
        exchange.ToHttpContext().Request.Cookies[CookieName] switch
        {
            Yes => ConsentAnswer.Yes,
            No => ConsentAnswer.No,
            _ => null,
        };

    /// <summary>The page that a visitor gets.</summary>
    public HandoffPage Page(Exchange exchange, HandoffVisit visit, VisitReader.Visitor visitor, bool isAsking)
    {
        var tags = Destination.TryParse(visit.OwnLocation, out var destination, out _)
            ? UtmTags.In(destination.Address)
            : new Dictionary<TagField, TagValue>();
        var values = new PixelValues(
            "",
            "",
            options.ShortUrl(visit.Domain.Name, visit.Slug),
            visit.Location,
            tags.GetValueOrDefault(TagField.Campaign)?.Text,
            tags.GetValueOrDefault(TagField.Source)?.Text,
            tags.GetValueOrDefault(TagField.Medium)?.Text,
            Random.Shared.NextInt64().ToString("x", System.Globalization.CultureInfo.InvariantCulture),
            visitor.At.ToUnixTimeMilliseconds()
        );
        var question = isAsking
            ? Question(visit.Settings, exchange.Request.Headers.AcceptLanguage.ToString(), visit.Pixels.Select(p => p.Fires.Network.Consent))
            : null;
        return new HandoffPage(
            visit.Slug,
            new HandoffTicket(visit.Page, [.. visit.Pixels.Select(p => p.Id)]),
            exchange.Request.QueryString,
            visit.Location,
            [.. visit.Pixels.Select(p => p.Fires)],
            values,
            visit.Deadline ?? LinkOptions.UsualHandoffDeadline,
            visit.HidesReferrer,
            question,
            visit.Settings.Look
        );
    }

    /// <summary>The question in the language that a visitor prefers, in the workspace's own words where it has some.</summary>
    internal static HandoffQuestion Question(EdgeHandoffSettings settings, string acceptLanguage, IEnumerable<ConsentCategory> categories)
    {
        var language = ConsentWords.LanguageOf(acceptLanguage);
        var words = ConsentWords.In(language).For(categories);
        return new HandoffQuestion(
            language,
            settings.Questions.TryGetValue(language, out var own) ? words with { Question = own } : words,
            settings.Who,
            settings.PrivacyPage
        );
    }
}
