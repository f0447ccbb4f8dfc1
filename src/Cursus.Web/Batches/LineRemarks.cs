namespace Cursus.Web.Batches;

/// <summary>One finding about one or more lines.</summary>
/// <param name="Field">The field it is about.</param>
/// <param name="Lines">Numbered from 1, as in the file, in order.</param>
public sealed record LineRemark(string Field, string Text, IReadOnlyList<int> Lines);

/// <summary>Gathers remarks on lines, so that what is said of a thousand lines is said once.</summary>
internal sealed class LineRemarks
{
    private readonly Dictionary<(string Field, string Text), SortedSet<int>> lines = [];

    /// <summary>Lines with at least one remark.</summary>
    public HashSet<int> Lines { get; } = [];

    /// <summary>The remarks, in the order of their first lines.</summary>
    public IReadOnlyList<LineRemark> All => [.. lines.Select(r => new LineRemark(r.Key.Field, r.Key.Text, [.. r.Value])).OrderBy(r => r.Lines[0])];

    public void Add(int line, string field, string text)
    {
        Lines.Add(line);
        if (!lines.TryGetValue((field, text), out var same))
        {
            lines[(field, text)] = same = [];
        }

        same.Add(line);
    }

    /// <summary>All that is said of each line, in one text.</summary>
    public IReadOnlyDictionary<int, string> ByLine() =>
        lines
            .SelectMany(r => r.Value.Select(line => (line, r.Key.Text)))
            .GroupBy(r => r.line, r => r.Text)
            .ToDictionary(g => g.Key, g => string.Join(" ", g));
}
