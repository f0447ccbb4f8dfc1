using System.Diagnostics.CodeAnalysis;
using System.Text.RegularExpressions;

namespace Cursus.Core.Addresses.Slugs;

/// <summary>The last part of a short address. Shown as written, compared without case.</summary>
public sealed partial record Slug
{
    /// <summary>The longest slug that is taken, in characters.</summary>
    public const int MaxLength = 80;

    /// <summary>For so many days the slug of a deleted link is given to no other: an old printed link must not change hands silently.</summary>
    public const int BlockedDays = 180;

    /// <summary>Names that every short domain answers itself, or that would look like them.</summary>
    public static readonly IReadOnlySet<string> Reserved = new HashSet<string>(StringComparer.Ordinal)
    {
        "robots.txt",
        "favicon.ico",
        "sitemap.xml",
        "index.html",
        "ads.txt",
        "security.txt",
        "api",
        "healthz",
        "readyz",
        "cursus",
    };

    private Slug(string text) => Text = text;

    public string Text { get; }

    /// <summary>What makes two slugs the same: the text in lower case.</summary>
    public string Key => Text.ToLowerInvariant();

    /// <summary>Takes letters, digits, hyphen and underscore, and dots inside; refuses reserved names.</summary>
    public static bool TryParse(string? text, [NotNullWhen(true)] out Slug? slug, [NotNullWhen(false)] out ValidationError? error)
    {
        slug = null;
        var trimmed = text?.Trim().TrimStart('/') ?? "";
        error = trimmed switch
        {
            "" => new ValidationError("slug-missing", "Type a slug, or leave this empty to get one automatically."),
            { Length: > MaxLength } => new ValidationError(
                "slug-too-long",
                $"A slug has at most {MaxLength} characters; this one has {trimmed.Length}."
            ),
            _ when !Allowed().IsMatch(trimmed) => new ValidationError(
                "slug-characters",
                "A slug can contain letters a–z, digits, hyphens and underscores, and dots that are not at its start or end."
            ),
            _ when Reserved.Contains(trimmed.ToLowerInvariant()) => new ValidationError(
                "slug-reserved",
                $"“{trimmed}” is reserved. Choose another slug."
            ),
            _ => null,
        };
        slug = error is null ? new Slug(trimmed) : null;
        return error is null;
    }

    /// <summary>A slug that is known to be good, such as one that was saved.</summary>
    /// <exception cref="ArgumentException">It is not good after all.</exception>
    public static Slug Of(string text) => TryParse(text, out var slug, out var error) ? slug : throw new ArgumentException(error.Text, nameof(text));

    public override string ToString() => Text;

    [GeneratedRegex(@"\A[A-Za-z0-9_\-]([A-Za-z0-9_.\-]*[A-Za-z0-9_\-])?\z")]
    private static partial Regex Allowed();
}
