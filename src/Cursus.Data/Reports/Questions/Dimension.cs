using Cursus.Core.Reports;
using Cursus.Data.Reports.Counts;
using NodaTime;

namespace Cursus.Data.Reports.Questions;

/// <summary>A way to group clicks: what people call it, how it is read, and what can be asked by it. <see cref="Dimensions"/> has them all.</summary>
/// <param name="Name">What <c>?by=</c> and the filters call it.</param>
/// <param name="Key">Expression of the group's key: over <c>links l</c> where the link decides, else over <c>counted c</c>; see
/// <see cref="CountedSql"/>.</param>
/// <param name="Label">Expression of what a person reads.</param>
internal sealed record Dimension(string Name, string Key, string Label)
{
    /// <summary>What people call it in a question.</summary>
    public string Words { get; init; } = Name;

    /// <summary>What each click tells that the group is made of; null where the link alone decides.</summary>
    public ClickDetail? Detail { get; init; }

    /// <summary>Tables that both expressions need beside those, one a line; at most one row for a link or a click.</summary>
    public string Join { get; init; } = "";

    /// <summary>What of its link a click is compared with, a column of <c>picked</c>: <c>channel_id</c> or <c>coded_link</c>, the link
    /// itself.</summary>
    public string? ComparisonKey { get; init; }

    /// <summary>True where the link alone decides the group, false where each click does.</summary>
    public bool IsOfLink => Detail is null;

    /// <summary>True where groups are single posts or links, so that nothing but themselves says how good they are.</summary>
    public bool IsSingle { get; init; }

    /// <summary>True where posts belong to groups by their links, so that clicks per post can be asked for.</summary>
    public bool HasPosts => IsOfLink && !IsSingle;

    /// <summary>True where groups are pages that clicks were led to, and not what brought them.</summary>
    public bool IsOfPages { get; init; }

    /// <summary>What is taken to vary independently where groups are compared; null for single links, of which there is nothing to
    /// compare.</summary>
    public UnitKind? Units { get; init; } = UnitKind.Post;

    /// <summary>True where a link may be in several groups, so that their sum is more than all.</summary>
    public bool IsSeveral => IfAny is not null;

    /// <summary>Where a link may be in several groups, the condition that it is in one that is asked for; a join would count it once for
    /// each.</summary>
    public string? IfAny { get; init; }

    /// <summary>Whether people choose it: one that they don't is asked for by a view of its own.</summary>
    public bool IsChosen { get; init; } = true;

    /// <summary>Whether answers can be narrowed to some of its groups.</summary>
    public bool IsFilter { get; init; } = true;

    /// <summary>Whether the file of single clicks has a column of its keys.</summary>
    public bool IsExported { get; init; } = true;

    /// <summary>What is asked next of one of its groups: the name of a dimension.</summary>
    public string? Next { get; init; }

    /// <summary>Keys and names, by SQL, of the groups that are asked for; null where the workspace gives no names.</summary>
    public string? NamesSql { get; init; }

    /// <summary>What groups are called in a question, by key, where Cursus names them.</summary>
    public IReadOnlyDictionary<string, string> KeyNames { get; init; } = new Dictionary<string, string>();

    /// <summary>What a person reads of a label, where that isn't the label itself.</summary>
    public Func<string, string> Shown { get; init; } = label => label;

    /// <summary>All groups in an order of their own, such as the calendar's; null where they stand by clicks.</summary>
    public Func<IsoDayOfWeek, IReadOnlyList<(string Key, string Label)>>? Order { get; init; }
}
