namespace Cursus.Core.Addresses.Tagging;

/// <summary>UTM values that were given up for others: what a link is sent and counted under, whatever was recorded when it was made.</summary>
public sealed class MergedValues(IReadOnlyDictionary<(TagField Field, string From), string> into)
{
    public static readonly MergedValues None = new(new Dictionary<(TagField, string), string>());

    /// <summary>The value that stands for this one today.</summary>
    public TagValue Of(TagField field, TagValue value) => into.TryGetValue((field, value.Text), out var agreed) ? TagValue.Of(agreed) : value;

    /// <summary>The tags with each value replaced by the one that stands for it.</summary>
    public UtmTags Of(UtmTags tags) =>
        new(
            Of(TagField.Source, tags.Source),
            Of(TagField.Medium, tags.Medium),
            Of(TagField.Campaign, tags.Campaign),
            tags.Term is null ? null : Of(TagField.Term, tags.Term),
            tags.Content is null ? null : Of(TagField.Content, tags.Content)
        );
}
