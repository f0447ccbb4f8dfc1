using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Addresses.Tagging;

/// <summary>The five UTM values of one link. Source, medium and campaign are needed; term and content may be absent (common practice, no
/// source).</summary>
public sealed record UtmTags(TagValue Source, TagValue Medium, TagValue Campaign, TagValue? Term = null, TagValue? Content = null)
{
    /// <summary>Writes the tags into <paramref name="address"/>: what is there stays in place and order and as encoded; an earlier value of the same
    /// tag is replaced where it stands, repeats of it are dropped; the fragment stays last (RFC 3986, section 3).</summary>
    public WebAddress WriteInto(WebAddress address)
    {
        var missing = Pairs().ToDictionary(p => p.Name, p => p.Value);
        var written = new HashSet<string>();
        var parameters = new List<string>();
        foreach (var parameter in QueryParameter.Of(address))
        {
            var name = QueryParameter.NameOf(parameter);
            if (written.Contains(name))
            {
                continue;
            }

            if (missing.Remove(name, out var value))
            {
                written.Add(name);
                parameters.Add(QueryParameter.Write(name, value));
            }
            else
            {
                parameters.Add(parameter);
            }
        }

        parameters.AddRange(Pairs().Where(p => missing.ContainsKey(p.Name)).Select(p => QueryParameter.Write(p.Name, p.Value)));
        return address with { Query = string.Join('&', parameters) };
    }

    /// <summary>UTM values that stand in an address already, the first of each; empty ones don't count.</summary>
    public static IReadOnlyDictionary<TagField, TagValue> In(WebAddress address)
    {
        var found = new Dictionary<TagField, TagValue>();
        foreach (var parameter in QueryParameter.Of(address))
        {
            if (
                Fields.TryGetValue(QueryParameter.NameOf(parameter), out var field)
                && TagValue.TryParse(QueryParameter.ValueOf(parameter), out var value, out _)
            )
            {
                found.TryAdd(field, value);
            }
        }

        return found;
    }

    /// <summary>These tags, but with the values that <paramref name="address"/> carries already in their places.</summary>
    public UtmTags KeepingThoseOf(WebAddress address)
    {
        var kept = In(address);
        return new UtmTags(
            kept.GetValueOrDefault(TagField.Source, Source),
            kept.GetValueOrDefault(TagField.Medium, Medium),
            kept.GetValueOrDefault(TagField.Campaign, Campaign),
            kept.GetValueOrDefault(TagField.Term) ?? Term,
            kept.GetValueOrDefault(TagField.Content) ?? Content
        );
    }

    private static readonly Dictionary<string, TagField> Fields = new(StringComparer.Ordinal)
    {
        ["utm_source"] = TagField.Source,
        ["utm_medium"] = TagField.Medium,
        ["utm_campaign"] = TagField.Campaign,
        ["utm_term"] = TagField.Term,
        ["utm_content"] = TagField.Content,
    };

    private IEnumerable<(string Name, string Value)> Pairs()
    {
        yield return ("utm_source", Source.Text);
        yield return ("utm_medium", Medium.Text);
        yield return ("utm_campaign", Campaign.Text);
        if (Term is not null)
        {
            yield return ("utm_term", Term.Text);
        }

        if (Content is not null)
        {
            yield return ("utm_content", Content.Text);
        }
    }
}
