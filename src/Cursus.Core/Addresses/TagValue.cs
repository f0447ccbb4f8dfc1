using System.Diagnostics.CodeAnalysis;

namespace Cursus.Core.Addresses;

/// <summary>One UTM value as written. Values are compared as written, so case matters (common practice, no source).</summary>
public sealed record TagValue
{
    /// <summary>The longest value that is taken, in characters.</summary>
    public const int MaxLength = 150;

    private TagValue(string text) => Text = text;

    public string Text { get; }

    /// <summary>Takes a value without surrounding white space; refuses empty, overlong and control characters.</summary>
    public static bool TryParse(string? text, [NotNullWhen(true)] out TagValue? value, [NotNullWhen(false)] out Flaw? flaw)
    {
        value = null;
        var trimmed = text?.Trim() ?? "";
        flaw = trimmed switch
        {
            "" => new Flaw("tag-missing", "Enter a value; clicks can’t be counted without one."),
            { Length: > MaxLength } => new Flaw("tag-too-long", $"This value has more than {MaxLength} characters. Shorten it."),
            _ when trimmed.Any(char.IsControl) => new Flaw("tag-control", "This value contains a line break or another invisible character. Type it again."),
            _ => null,
        };
        value = flaw is null ? new TagValue(trimmed) : null;
        return flaw is null;
    }

    /// <summary>A value that is known to be good, such as one of the agreed vocabulary.</summary>
    /// <exception cref="ArgumentException">It is not good after all.</exception>
    public static TagValue Of(string text) => TryParse(text, out var value, out var flaw) ? value : throw new ArgumentException(flaw.Text, nameof(text));

    public override string ToString() => Text;
}
