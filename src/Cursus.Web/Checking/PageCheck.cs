using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Urls;
using Cursus.Core.Checking;
using Cursus.Web.Outgoing;
using NodaTime;

namespace Cursus.Web.Checking;

/// <summary>Asks one page: about itself first, and for itself where that doesn't settle it.</summary>
internal class PageCheck(OutgoingClient outgoing, SiteRules rules, LinkCheckOptions options)
{
    public const string UserAgent = "Cursus/1.0 (link check)";

    private const string Html = "text/html";
    private const int MaxTitle = 300;

    /// <summary>What came of it.</summary>
    /// <param name="known">What is known of the page so far.</param>
    /// <param name="isOwn">Hosts that are the workspace's own short domains.</param>
    public virtual async Task<PageAnswer> Ask(string address, PageState known, Func<string, bool> isOwn, CancellationToken cancel)
    {
        if (!Destination.TryParse(address, out var destination, out _))
        {
            return new PageAnswer { Trouble = PageTrouble.UnknownHost };
        }

        var page = destination.Address with { Fragment = null };
        return await About(page, known, isOwn, cancel) ?? await Get(page, isOwn, isHeadOnly: false, cancel);
    }

    /// <summary>The answer to a question about the page, where it settles it: many servers don't answer such questions as they would the page
    /// itself.</summary>
    private async Task<PageAnswer?> About(WebAddress page, PageState known, Func<string, bool> isOwn, CancellationToken cancel)
    {
        var answer = await Get(page, isOwn, isHeadOnly: true, cancel);
        var isSame = answer.Validator is not null && answer.Validator == known.Validator && answer.LeadsTo == known.LeadsTo;
        return answer switch
        {
            { Trouble: PageTrouble.UnknownHost or PageTrouble.Private or PageTrouble.Robots or PageTrouble.LeadsBack } => answer,
            { Trouble: PageTrouble.None, Status: >= 200 and < 300 } when isSame => answer with { IsUnchanged = true },
            _ => null,
        };
    }

    private async Task<PageAnswer> Get(WebAddress page, Func<string, bool> isOwn, bool isHeadOnly, CancellationToken cancel)
    {
        try
        {
            var asking = new Asking(UserAgent, TimeSpan.FromSeconds(options.Patience), isHeadOnly, rules.Against);
            var got = await outgoing.Get(page, Html, asking, cancel, isOwn);
            var end = got.Way[^1];
            return new PageAnswer
            {
                Trouble = isOwn(end.Host) ? PageTrouble.LeadsBack : PageTrouble.None,
                Status = got.Status,
                LeadsTo = got.Way.Count > 1 && end != page ? end.ToString() : null,
                IsPermanent = got.IsMovedForGood,
                EndsAtFrontPage = got.Way.Count > 1 && end is { Path: "/", Query: null } && page.Path != "/",
                Text = got.Body.Length > 0 ? Read(got.Body) : null,
                Validator = got.Validator,
                RetryAfter = got.RetryAfter is { } wait ? Duration.FromTimeSpan(wait) : null,
            };
        }
        catch (PageNotFetchedException e)
        {
            return new PageAnswer { Trouble = TroubleOf(e.Error.Code) };
        }
    }

    private static PageTrouble TroubleOf(string code) =>
        code switch
        {
            "page-too-slow" => PageTrouble.TooSlow,
            "page-redirects" => PageTrouble.Circles,
            "page-private" => PageTrouble.Private,
            "page-unknown-host" => PageTrouble.UnknownHost,
            "page-insecure" => PageTrouble.Insecure,
            "page-robots" => PageTrouble.Robots,
            _ => PageTrouble.Silent,
        };

    private static PageText Read(byte[] body)
    {
        var page = PageReading.Of(body);
        var title = page.Title?.Trim();
        return new PageText(string.IsNullOrEmpty(title) ? null : title[..Math.Min(title.Length, MaxTitle)], page.Headings, page.Text);
    }
}
