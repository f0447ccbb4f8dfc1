using System.Text.RegularExpressions;
using Cursus.Core.Batches;

namespace Cursus.Core.Tests.Batches;

/// <summary>What the guide for moving in promises of columns is so.</summary>
public partial class MovingInTests
{
    [Fact]
    public void Every_field_is_in_the_guide_and_every_name_in_it_is_known()
    {
        var rows = Row().Matches(Guide()).Select(m => (Fields: m.Groups[1].Value.Split(", "), Names: m.Groups[2].Value.Split(", "))).ToList();
        var told = rows.SelectMany(r => r.Fields).Select(f => Enum.Parse<ListField>(f.Replace(" ", "", StringComparison.Ordinal), ignoreCase: true));
        told.Order().ShouldBe(Enum.GetValues<ListField>());
        foreach (var (fields, names) in rows)
        {
            foreach (var name in names)
            {
                string.Concat(fields)
                    .Replace(" ", "", StringComparison.Ordinal)
                    .ShouldContain($"{ColumnNames.FieldOf(name)}", Case.Insensitive, $"“{name}” is known as that");
            }
        }
    }

    private static string Guide()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Cursus.slnx")))
        {
            folder = folder.Parent ?? throw new DirectoryNotFoundException("The project's folder is not above this test.");
        }

        return File.ReadAllText(Path.Combine(folder.FullName, "docs", "moving-in.md"));
    }

    [GeneratedRegex(@"^\| (?!column)([A-Z][A-Za-z, ]+) \|.*\| ([^|]+) \|$", RegexOptions.Multiline)]
    private static partial Regex Row();
}
