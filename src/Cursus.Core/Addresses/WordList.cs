namespace Cursus.Core.Addresses;

/// <summary>Lists that ship as data, such as those in <c>Words/</c>: one a line, lines that begin with # are notes.</summary>
internal static class WordList
{
    public static IReadOnlyList<string> Read(string name)
    {
        using var file = new StreamReader(
            typeof(WordList).Assembly.GetManifestResourceStream(name)
                ?? throw new InvalidOperationException($"The list {name} is missing from the build.")
        );
        return
        [
            .. file.ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Where(line => line[0] != '#'),
        ];
    }
}
