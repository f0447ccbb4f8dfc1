namespace Cursus.Core.Clicks.Requests;

/// <summary>Whether a browser fetches ahead of a person who may never arrive.</summary>
public static class PrefetchSignal
{
    /// <param name="secPurpose">Header <c>Sec-Purpose</c> (Fetch Standard, section 3.7): <c>prefetch</c>, with <c>;prerender</c> where the page is
    /// drawn too.</param>
    /// <param name="purpose">Header <c>Purpose</c>, or <c>X-Purpose</c> and <c>X-Moz</c> of older browsers (common practice, no source).</param>
    public static bool Is(ReadOnlySpan<char> secPurpose, ReadOnlySpan<char> purpose) => Says(secPurpose) || Says(purpose);

    private static bool Says(ReadOnlySpan<char> value) =>
        !value.IsEmpty
        && (
            value.Contains("prefetch", StringComparison.OrdinalIgnoreCase)
            || value.Contains("prerender", StringComparison.OrdinalIgnoreCase)
            || value.Equals("preview", StringComparison.OrdinalIgnoreCase)
        );
}
