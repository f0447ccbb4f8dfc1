using NpgsqlTypes;

namespace Cursus.Data.Links;

/// <summary>The words that a link is found by, kept by triggers in the database: its addresses, title, destination, note, campaign and
/// tags.</summary>
public sealed class LinkText
{
    public Guid LinkId { get; init; }

    /// <summary>In lower case, without accents, each with a space before and behind it.</summary>
    public required string Words { get; init; }

    /// <summary>The same words by how much they tell: slug and title first, then campaign and tags, then destination and note.</summary>
    public required NpgsqlTsVector Vector { get; init; }
}
