namespace Cursus.Core.Retargeting;

/// <summary>How long a network keeps a visitor in an audience.</summary>
public static class AudienceWindow
{
    /// <summary>The windows that marketers choose from, in days (common practice, no source).</summary>
    public static IReadOnlyList<int> Days { get; } = [7, 28, 30, 90, 180];

    /// <summary>The window that advice goes by.</summary>
    public const int Usual = 28;
}
