using Cursus.Core;

namespace Cursus.Web.Outgoing;

/// <summary>What can go wrong when another server is asked for a page.</summary>
internal static class OutgoingFlaws
{
    public static readonly Flaw TooSlow = new("page-too-slow", "The page did not answer within five seconds. Open it yourself to see whether it is up; the links can be sent all the same.");

    public static readonly Flaw TooManyRedirects = new("page-redirects", $"The page sends visitors on more than {OutgoingClient.MaxRedirects} times. Paste the address where they end up.");

    public static Flaw Private(string host) => new("page-private", $"{host} lies inside a private network and is not asked. Visitors elsewhere could not reach it either.");

    public static Flaw Unknown(string host) => new("page-unknown-host", $"There is no such host as {host}. Check the address for a slip.");

    public static Flaw Silent(string host) => new("page-silent", $"{host} did not answer. Open the page yourself to see whether it is up; the links can be sent all the same.");

    public static Flaw Insecure(string host) => new("page-insecure", $"No secure connection to {host} comes about, so browsers warn visitors away. Its certificate may have ended, or be for another name.");
}
