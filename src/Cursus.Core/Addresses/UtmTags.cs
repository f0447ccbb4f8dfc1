namespace Cursus.Core.Addresses;

/// <summary>The five UTM values of one link. Source, medium and campaign are needed; term and content may be absent (common practice, no source).</summary>
public sealed record UtmTags(TagValue Source, TagValue Medium, TagValue Campaign, TagValue? Term = null, TagValue? Content = null)
{
    /// <summary>Writes the tags into <paramref name="address"/>: what is there stays in place and order and as encoded; an earlier value of the same
    /// tag is replaced where it stands, repeats of it are dropped; the fragment stays last (RFC 3986, section 3).</summary>
    public WebAddress WriteInto(WebAddress address)
    {
        var missing = Pairs().ToDictionary(p => p.Name, p => p.Value);
        var written = new HashSet<string>();
        var parameters = new List<string>();
        foreach (var parameter in string.IsNullOrEmpty(address.Query) ? [] : address.Query.Split('&'))
        {
            var name = NameOf(parameter);
            if (written.Contains(name))
            {
                continue;
            }

            if (missing.Remove(name, out var value))
            {
                written.Add(name);
                parameters.Add(Parameter(name, value));
            }
            else
            {
                parameters.Add(parameter);
            }
        }

        parameters.AddRange(Pairs().Where(p => missing.ContainsKey(p.Name)).Select(p => Parameter(p.Name, p.Value)));
        return address with { Query = string.Join('&', parameters) };
    }

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

    private static string NameOf(string parameter) => PercentEncoding.Decode(parameter.Split('=')[0].Replace('+', ' '));

    private static string Parameter(string name, string value) => $"{name}={Uri.EscapeDataString(value)}";
}
