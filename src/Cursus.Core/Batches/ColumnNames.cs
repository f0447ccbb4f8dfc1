using System.Collections.Frozen;
using Cursus.Core.Addresses;
using Cursus.Core.Links;

namespace Cursus.Core.Batches;

/// <summary>Reads from a column's name what it says of the links. Names are common practice in spreadsheets of the trade; there is no published
/// source.</summary>
public static class ColumnNames
{
    private static readonly FrozenDictionary<string, ListField> Fields = new (ListField Field, string[] Names)[]
    {
        (
            ListField.Destination,
            [
                "destination",
                "address",
                "url",
                "link",
                "page",
                "pageaddress",
                "webaddress",
                "website",
                "target",
                "landingpage",
                "longurl",
                "longaddress",
                "originalurl",
            ]
        ),
        (ListField.Title, ["title", "name", "posttitle", "linktitle"]),
        (ListField.Channel, ["channel", "network", "platform"]),
        (ListField.Campaign, ["campaign", "utmcampaign"]),
        (ListField.Source, ["source", "utmsource"]),
        (ListField.Medium, ["medium", "utmmedium"]),
        (ListField.Term, ["term", "utmterm", "keyword"]),
        (ListField.Content, ["content", "utmcontent", "variant"]),
        (ListField.Slug, ["slug", "path"]),
        (ListField.ShortAddress, ["shortaddress", "shorturl", "shortlink"]),
        (ListField.Domain, ["domain", "shortdomain"]),
        (ListField.Tags, ["tags", "tag", "labels"]),
        (ListField.Folder, ["folder"]),
        (ListField.Group, ["group", "groups", "category", "collection"]),
        (ListField.Note, ["note", "notes", "comment", "remark"]),
        (ListField.Redirect, ["redirect", "redirecttype"]),
        (ListField.PublishedOn, ["publishedon", "published", "date", "day"]),
        (ListField.OpensAt, ["opens", "opensat", "openson", "startsat", "starts", "startdate", "activefrom", "validfrom"]),
        (
            ListField.EndsAt,
            [
                "ends",
                "endsat",
                "endson",
                "enddate",
                "expires",
                "expiresat",
                "expireson",
                "expiry",
                "expirydate",
                "expirationdate",
                "validuntil",
                "activeuntil",
            ]
        ),
        (ListField.SavedRoute, ["savedroute", "route"]),
        (ListField.Split, ["split"]),
        (ListField.Rules, ["rules"]),
        (ListField.CreatedAt, ["createdat", "created", "createdon", "datecreated", "creationdate", "createdate", "madeon"]),
        (
            ListField.ImportedClicks,
            ["importedclicks", "broughtalong", "clicksbroughtalong", "clicks", "totalclicks", "clickcount", "clickstotal", "visits"]
        ),
    }
        .Concat(LinkOptionFields.All.Select(o => (Field: ColumnOf(o), Names: NamesOf(o))))
        .SelectMany(f => f.Names.Select(name => (name, f.Field)))
        .ToFrozenDictionary(f => f.name, f => f.Field);

    /// <summary>The column that says a link's option; it has the option's name.</summary>
    public static ListField ColumnOf(LinkOptionField option)
    {
        ArgumentNullException.ThrowIfNull(option);
        return Enum.Parse<ListField>($"{option.Field}");
    }

    private static string[] NamesOf(LinkOptionField option) =>
        [.. new[] { option.Name, $"{option.Field}" }.Select(n => string.Concat(AsciiWords.Of(n))).Distinct()];

    /// <summary>The field that a column of this name holds; null where the name says nothing. Case, accents, spaces and punctuation don't
    /// matter.</summary>
    public static ListField? FieldOf(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        return Fields.TryGetValue(string.Concat(AsciiWords.Of(name)), out var field) ? field : null;
    }

    /// <summary>Fields for a row of column names; each field is given once, to the first column that names it.</summary>
    public static IReadOnlyList<ListField?> FieldsOf(IReadOnlyList<string> names)
    {
        ArgumentNullException.ThrowIfNull(names);
        var given = new HashSet<ListField>();
        return [.. names.Select(name => FieldOf(name) is { } field && given.Add(field) ? field : (ListField?)null)];
    }
}
