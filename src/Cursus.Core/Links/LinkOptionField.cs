using System.Globalization;
using System.Text.Json;
using Cursus.Core.Addresses;

namespace Cursus.Core.Links;

/// <summary>How an option is chosen in a form.</summary>
public enum LinkOptionKind
{
    /// <summary>One of <see cref="LinkOptionField.Choices"/>.</summary>
    Choice,

    /// <summary>On or off.</summary>
    Switch,

    /// <summary>A text of at most <see cref="LinkOptionField.Max"/> characters, or none.</summary>
    Text,

    /// <summary>A whole number from zero to <see cref="LinkOptionField.Max"/>.</summary>
    Number,
}

/// <summary>Where an option stands in forms.</summary>
public enum LinkOptionSection
{
    /// <summary>What visitors meet on the way.</summary>
    Visit,

    /// <summary>What search engines see, and web pages that the link stands in.</summary>
    Page,
}

/// <summary>One value of a choice.</summary>
/// <param name="Value">As requests and files have it.</param>
/// <param name="Label">As forms offer it.</param>
/// <param name="Told">As the history tells it; null where that is how links usually are.</param>
public sealed record LinkOptionChoice(string Value, string Label, string? Told);

/// <summary>One option of a link, as everything knows it that reads, shows or writes options: forms, the history, bulk edits, lists and
/// files.</summary>
public sealed record LinkOptionField
{
    private LinkOptionField(LinkField field, string label, string name)
    {
        (Field, Label, Name) = (field, label, name);
    }

    /// <summary>What the history calls it.</summary>
    public LinkField Field { get; }

    /// <summary>As requests name it.</summary>
    public string Key => JsonNamingPolicy.CamelCase.ConvertName($"{Field}");

    /// <summary>Above its field in forms.</summary>
    public string Label { get; }

    /// <summary>What it is called where it stands alone: in the history and, in lower case, above columns of files and lists.</summary>
    public string Name { get; }

    public LinkOptionKind Kind { get; private init; }

    public LinkOptionSection Section { get; private init; }

    public IReadOnlyList<LinkOptionChoice> Choices { get; private init; } = [];

    /// <summary>The longest text, or the greatest number.</summary>
    public int? Max { get; private init; }

    /// <summary>The number where nobody says another one.</summary>
    public int? Usual { get; private init; }

    /// <summary>In an empty field.</summary>
    public string? Placeholder { get; private init; }

    /// <summary>Below its label.</summary>
    public string? Description { get; private init; }

    /// <summary>What it is, for people; null where nothing special is.</summary>
    public required Func<LinkOptions, string?> Told { get; init; }

    /// <summary>What it is, for files, which lists are read from again.</summary>
    public required Func<LinkOptions, string> Written { get; init; }

    /// <summary>What a cell of a list says; null where it says nothing that is known.</summary>
    public required Func<string, LinkOptionsPatch?> Read { get; init; }

    /// <summary>Whether a request says anything of it.</summary>
    public required Func<LinkOptionsPatch, bool> IsIn { get; init; }

    /// <summary>What is wrong with what a request says of it.</summary>
    public Func<LinkOptionsPatch, ValidationError?> Check { get; private init; } = _ => null;

    /// <summary>What a cell may say, to go on in “Enter …”.</summary>
    public required string Expected { get; init; }

    internal static LinkOptionField Switch(
        LinkField field,
        string label,
        string name,
        Func<LinkOptions, bool> of,
        Func<LinkOptionsPatch, bool?> said,
        Func<bool, LinkOptionsPatch> patch
    ) =>
        new(field, label, name)
        {
            Kind = LinkOptionKind.Switch,
            Section = LinkOptionSection.Page,
            IsIn = p => said(p) is not null,
            Told = o => of(o) ? "yes" : null,
            Written = o => of(o) ? "yes" : "no",
            Read = text =>
                text.ToLowerInvariant() switch
                {
                    "yes" or "true" or "on" or "1" or "x" => patch(true),
                    "no" or "false" or "off" or "0" => patch(false),
                    _ => null,
                },
            Expected = "yes or no",
        };

    internal static LinkOptionField Choice<T>(
        LinkField field,
        string label,
        string name,
        Func<LinkOptions, T> of,
        Func<LinkOptionsPatch, T?> said,
        Func<T, LinkOptionsPatch> patch,
        params (T Value, string Label, string? Told)[] choices
    )
        where T : struct, Enum =>
        new(field, label, name)
        {
            Kind = LinkOptionKind.Choice,
            Section = LinkOptionSection.Visit,
            Choices = [.. choices.Select(c => new LinkOptionChoice(Wire(c.Value), c.Label, c.Told))],
            IsIn = p => said(p) is not null,
            Told = o => choices.First(c => c.Value.Equals(of(o))).Told,
            Written = o => Wire(of(o)),
            Read = text =>
                choices.Where(c => new[] { Wire(c.Value), c.Label, c.Told }.Contains(text, StringComparer.OrdinalIgnoreCase)).Take(1).ToList()
                    is [var choice]
                    ? patch(choice.Value)
                    : null,
            Expected = string.Join(", ", choices.Select(c => Wire(c.Value))),
        };

    internal static LinkOptionField Text(
        LinkField field,
        string label,
        string name,
        string placeholder,
        Func<LinkOptions, string?> of,
        Func<LinkOptionsPatch, string?> said,
        Func<string, LinkOptionsPatch> patch,
        LinkOptionSection section = LinkOptionSection.Page,
        int max = LinkOptions.MaxText,
        string? description = null
    ) =>
        new(field, label, name)
        {
            Kind = LinkOptionKind.Text,
            Section = section,
            Max = max,
            Placeholder = placeholder,
            Description = description,
            IsIn = p => said(p) is not null,
            Told = of,
            Written = o => of(o) ?? "",
            Read = patch,
            Check = p =>
                said(p)?.Trim().Length > max
                    ? new ValidationError("option-too-long", $"This text has more than {Grouped(max)} characters. Shorten it.")
                    : null,
            Expected = $"at most {Grouped(max)} characters",
        };

    internal static LinkOptionField Number(
        LinkField field,
        string label,
        string name,
        string unit,
        int usual,
        int max,
        Func<LinkOptions, int?> of,
        Func<LinkOptionsPatch, int?> said,
        Func<int, LinkOptionsPatch> patch,
        ValidationError wrong,
        string description
    ) =>
        new(field, label, name)
        {
            Kind = LinkOptionKind.Number,
            Section = LinkOptionSection.Visit,
            Max = max,
            Usual = usual,
            Placeholder = $"{usual}",
            Description = description,
            IsIn = p => said(p) is not null,
            Told = o => of(o) is { } number ? $"{number} {unit}" : null,
            Written = o => $"{of(o) ?? usual}",
            Read = text => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? patch(number) : null,
            Check = p => said(p) is { } number && (number < 0 || number > max) ? wrong : null,
            Expected = $"0 to {Grouped(max)}",
        };

    private static string Grouped(int number) => number.ToString("N0", CultureInfo.InvariantCulture);

    private static string Wire<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.KebabCaseLower.ConvertName($"{value}");
}
