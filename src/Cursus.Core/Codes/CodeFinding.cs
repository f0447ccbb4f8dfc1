namespace Cursus.Core.Codes;

/// <summary>Something that makes a code harder to scan.</summary>
/// <param name="Rule">Name of the rule that it breaks.</param>
/// <param name="IsRefused">True where a code like this can't be saved, false where it is a word of caution.</param>
/// <param name="Reason">What is wrong and why it matters, for people.</param>
/// <param name="FixLabel">What <paramref name="Fix"/> does; null without one.</param>
/// <param name="Fix">The style with this mended and all else as it is.</param>
public sealed record CodeFinding(string Rule, bool IsRefused, string Reason, string? FixLabel = null, CodeStyle? Fix = null);
