namespace Cursus.Core.Addresses.Urls;

/// <summary>One <c>name=value</c> of a query, as the WHATWG URL Standard reads it (section 5.1, application/x-www-form-urlencoded parsing).</summary>
internal static class QueryParameter
{
    /// <summary>The parameters of an address as they are written, in order.</summary>
    public static string[] Of(WebAddress address) => string.IsNullOrEmpty(address.Query) ? [] : address.Query.Split('&');

    public static string NameOf(string parameter) => Decode(parameter.Split('=')[0]);

    public static string ValueOf(string parameter)
    {
        var mark = parameter.IndexOf('=', StringComparison.Ordinal);
        return mark < 0 ? "" : Decode(parameter[(mark + 1)..]);
    }

    public static string Write(string name, string value) => $"{name}={Uri.EscapeDataString(value)}";

    private static string Decode(string text) => PercentEncoding.Decode(text.Replace('+', ' '));
}
