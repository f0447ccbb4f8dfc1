using Cursus.Core;

namespace Cursus.Web.Problems;

/// <summary>Collects what is wrong with a request, field by field, so that all of it is told at once.</summary>
public sealed class FieldErrors
{
    private readonly Dictionary<string, List<string>> texts = [];

    public bool Any => texts.Count > 0;

    /// <summary>How many fields are at fault.</summary>
    public int Count => texts.Count;

    /// <summary>The code of the first error, which stands for the whole answer.</summary>
    public string FirstCode { get; private set; } = "invalid";

    /// <summary>All that is wrong, in one line.</summary>
    public string Text => string.Join(' ', texts.Values.SelectMany(t => t));

    public IReadOnlyDictionary<string, string[]> ByField => texts.ToDictionary(t => t.Key, t => t.Value.ToArray());

    public void Add(string field, ValidationError error)
    {
        if (!Any)
        {
            FirstCode = error.Code;
        }

        if (!texts.TryGetValue(field, out var list))
        {
            texts[field] = list = [];
        }

        list.Add(error.Text);
    }
}
