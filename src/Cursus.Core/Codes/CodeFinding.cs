namespace Cursus.Core.Codes;

/// <summary>Something that makes a code harder to scan.</summary>
/// <param name="Rule">Name of the rule it breaks.</param>
/// <param name="IsRefused">True if a code like this can't be saved, false if it is only a warning.</param>
/// <param name="Reason">What is wrong and why it matters, for people.</param>
/// <param name="FixLabel">What <paramref name="Fix"/> does; null if there is none.</param>
/// <param name="Fix">The style with this fixed and nothing else changed.</param>
public sealed record CodeFinding(string Rule, bool IsRefused, string Reason, string? FixLabel = null, CodeStyle? Fix = null);
