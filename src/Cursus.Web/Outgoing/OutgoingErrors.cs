using Cursus.Core;

namespace Cursus.Web.Outgoing;

/// <summary>What can go wrong when another server is asked for a page.</summary>
internal static class OutgoingErrors
{
    public static readonly ValidationError TooSlow = new(
        "page-too-slow",
        "The page didn’t respond within five seconds. Open it yourself to check; you can still create the links."
    );

    public static readonly ValidationError TooManyRedirects = new(
        "page-redirects",
        $"The page redirects more than {OutgoingClient.MaxRedirects} times. Paste the final address."
    );

    public static ValidationError Private(string host) =>
        new("page-private", $"{host} is on a private network, so Cursus doesn’t check it. Visitors elsewhere can’t reach it either.");

    public static ValidationError Unknown(string host) =>
        new("page-unknown-host", $"There is no host called {host}. Check the address for a typing mistake.");

    public static ValidationError Silent(string host) =>
        new("page-silent", $"{host} didn’t respond. Open the page yourself to check; you can still create the links.");

    public static ValidationError Insecure(string host) =>
        new(
            "page-insecure",
            $"A secure connection to {host} fails, so browsers warn visitors. Its certificate may have expired, or be for another name."
        );
}
