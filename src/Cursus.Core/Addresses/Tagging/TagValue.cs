using System.Diagnostics.CodeAnalysis;

namespace Cursus.Core.Addresses.Tagging;

/// <summary>One UTM value as written. Values are compared as written, so case matters (common practice, no source).</summary>
public sealed record TagValue
{
    /// <summary>The longest value that is taken, in characters.</summary>
    public const int MaxLength = 150;

    private TagValue(string text) => Text = text;

    public string Text { get; }

    /// <summary>Takes a value without surrounding white space; refuses empty, overlong and control characters.</summary>
    public static bool TryParse(string? text, [NotNullWhen(true)] out TagValue? value, [NotNullWhen(false)] out ValidationError? error)
    {
        value = null;
        var trimmed = text?.Trim() ?? "";
        error = trimmed switch
        {
            "" => new ValidationError("tag-missing", "Enter a value; clicks can’t be counted without one."),
            { Length: > MaxLength } => new ValidationError("tag-too-long", $"This value has more than {MaxLength} characters. Shorten it."),
            _ when trimmed.Any(char.IsControl) => new ValidationError(
                "tag-control",
                "This value contains a line break or another invisible character. Type it again."
            ),
            _ => null,
        };
        value = error is null ? new TagValue(trimmed) : null;
        return error is null;
    }

    /// <summary>A value that is known to be good, such as one of the agreed vocabulary.</summary>
    /// <exception cref="ArgumentException">It is not good after all.</exception>
    public static TagValue Of(string text) =>
        TryParse(text, out var value, out var error) ? value : throw new ArgumentException(error.Text, nameof(text));

    public override string ToString() => Text;
}
