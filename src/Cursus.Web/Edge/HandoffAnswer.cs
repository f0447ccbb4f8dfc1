using Cursus.Core.Addresses;
using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;
using Cursus.Data.Clicks;
using Cursus.Web.Hosting;

namespace Cursus.Web.Edge;

/// <summary>A visit to a link that has pixels.</summary>
/// <param name="Location">Where it leads, with what was passed on of the visitor's query.</param>
internal sealed record HandoffVisit(
    DomainEntry Domain, Guid LinkId, string Slug, string OwnLocation, string Location, int? Deadline, ReferrerPassing Referrer, IReadOnlyList<PixelEntry> Pixels, EdgeHandoffSettings Settings)
{
    /// <param name="slug">As the visitor typed it.</param>
    /// <param name="query">The visitor's, with or without its question mark.</param>
    public static HandoffVisit Of(DomainEntry domain, in LinkEntry link, string slug, string query, (IReadOnlyList<PixelEntry> Pixels, EdgeHandoffSettings Settings) fired) =>
        new(domain, link.Id, slug, link.Location, link.LocationWith(query), link.HandoffDeadline, link.Referrer, fired.Pixels, fired.Settings);
}

/// <summary>Answers visits to links with pixels: with the handoff page, or with nothing where the visit is to be redirected plainly; and takes down what became of the pixels.</summary>
internal sealed class HandoffAnswer(ClickJournal journal, CursusOptions options)
{
    private const string CookieName = "cursus-consent";
    private const string Yes = "yes";
    private const string No = "no";

    /// <summary>The page that the visitor gets, or null for a plain redirect. What is decided before any page is written down at once.</summary>
    public HandoffPage? Decide(Exchange exchange, HandoffVisit visit, VisitReader.Visitor visitor)
    {
        var headers = exchange.Request.Headers;
        var kind = KindOf(exchange, visitor);
        var saysNo = Consent.SaysNo(headers["Sec-GPC"], headers["DNT"]);
        var mustAsk = Consent.MustAsk(visit.Settings.Consent, visit.Settings.Countries, visitor.Country);
        switch (HandoffDecision.Of(kind, saysNo, headers.Cookie.Count > 0 ? Remembered(exchange) : null, mustAsk))
        {
            case HandoffCourse.Fire:
                return Page(exchange, visit, visitor, isAsking: false);
            case HandoffCourse.Ask:
                return Page(exchange, visit, visitor, isAsking: true);
            case HandoffCourse.Declined:
                Report(visit, visitor, kind, HandoffOutcome.Declined);
                return null;
            case HandoffCourse.OptedOut:
                Report(visit, visitor, kind, HandoffOutcome.OptedOut);
                return null;
            default:
                return null;
        }
    }

    /// <summary>The page without a question, for a visitor who has just said yes.</summary>
    public HandoffPage Fire(Exchange exchange, HandoffVisit visit, VisitReader.Visitor visitor) => Page(exchange, visit, visitor, isAsking: false);

    /// <summary>Remembers an answer on this short domain. By the server: browsers keep what scripts store for a few days only.</summary>
    public void Remember(HttpContext context, ConsentAnswer answer) => context.Response.Cookies.Append(CookieName, answer == ConsentAnswer.Yes ? Yes : No, new CookieOptions
    {
        HttpOnly = true,
        Secure = options.PublicScheme == "https",
        SameSite = SameSiteMode.Lax,
        MaxAge = TimeSpan.FromDays(answer == ConsentAnswer.Yes ? Consent.YesDays : Consent.NoDays),
        Path = "/",
    });

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

    private static ConsentAnswer? Remembered(Exchange exchange) => exchange.ToHttpContext().Request.Cookies[CookieName] switch
    {
        Yes => ConsentAnswer.Yes,
        No => ConsentAnswer.No,
        _ => null,
    };

    private HandoffPage Page(Exchange exchange, HandoffVisit visit, VisitReader.Visitor visitor, bool isAsking)
    {
        var tags = Destination.TryParse(visit.OwnLocation, out var destination, out _) ? UtmTags.In(destination.Address) : new Dictionary<TagField, TagValue>();
        var values = new PixelValues(
            "", "", options.ShortUrl(visit.Domain.Name, visit.Slug), visit.Location, tags.GetValueOrDefault(TagField.Campaign)?.Text, tags.GetValueOrDefault(TagField.Source)?.Text,
            tags.GetValueOrDefault(TagField.Medium)?.Text, Random.Shared.NextInt64().ToString("x", System.Globalization.CultureInfo.InvariantCulture), visitor.At.ToUnixTimeMilliseconds());
        var question = isAsking ? Question(visit.Settings, exchange.Request.Headers.AcceptLanguage.ToString(), visit.Pixels.Select(p => p.Fires.Network.Consent)) : null;
        return new HandoffPage(
            visit.Slug, exchange.Request.QueryString, visit.Location, [.. visit.Pixels.Select(p => p.Fires)], values, visit.Deadline ?? HandoffPage.DefaultDeadline,
            visit.Referrer != ReferrerPassing.Keep, question, visit.Settings.Look);
    }

    /// <summary>The question in the language that a visitor prefers, in the workspace's own words where it has some.</summary>
    internal static HandoffQuestion Question(EdgeHandoffSettings settings, string acceptLanguage, IEnumerable<ConsentCategory> categories)
    {
        var language = ConsentWords.LanguageOf(acceptLanguage);
        var words = ConsentWords.In(language).For(categories);
        return new HandoffQuestion(
            language, settings.Questions.TryGetValue(language, out var own) ? words with { Question = own } : words, settings.Who, settings.PrivacyPage);
    }
}
