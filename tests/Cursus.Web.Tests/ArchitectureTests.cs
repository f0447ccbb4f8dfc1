using System.Text.RegularExpressions;
using System.Xml.Linq;

namespace Cursus.Web.Tests;

/// <summary>Who may know whom (ARCHITECTURE.md): Core nobody, Data Core, the edge both, Web all three, the stand-ins nobody and nobody
/// them.</summary>
public class ArchitectureTests
{
    private static readonly string Sources = Path.Combine(Repository.Root, "src");

    [Theory]
    [InlineData("Cursus.Core", "")]
    [InlineData("Cursus.Data", "Cursus.Core")]
    [InlineData("Cursus.Edge", "Cursus.Core Cursus.Data")]
    [InlineData("Cursus.Web", "Cursus.Core Cursus.Data Cursus.Edge")]
    [InlineData("Cursus.Standins", "")]
    public void Each_room_knows_only_whom_it_may(string project, string mayKnow) =>
        References(project, "ProjectReference").Select(Path.GetFileNameWithoutExtension).ShouldBeSubsetOf(mayKnow.Split(' '));

    [Fact]
    public void The_core_does_no_input_or_output_and_knows_no_framework()
    {
        References("Cursus.Core", "PackageReference")
            .ShouldBe(["NodaTime", "NodaTime.Serialization.SystemTextJson", "MathNet.Numerics", "QRCoder", "YamlDotNet"], ignoreOrder: true);
        References("Cursus.Core", "FrameworkReference").ShouldBeEmpty();
        string[] forbidden = ["System.IO.File", "HttpClient", "File.", "Console.", "DateTime.Now", "DateTime.UtcNow", "SystemClock"];
        var found = Directory
            .EnumerateFiles(Path.Combine(Sources, "Cursus.Core"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}", StringComparison.Ordinal))
            .SelectMany(f => forbidden.Where(File.ReadAllText(f).Contains).Select(word => $"{Path.GetFileName(f)}: {word}"));
        found.ShouldBeEmpty();
    }

    /// <summary>Features that need each other are one feature, or lack a third. Those that do are named here until they don't.</summary>
    [Theory]
    [InlineData("Cursus.Core", "")]
    [InlineData("Cursus.Web", "")]
    public void Features_need_each_other_one_way_only(string project, string known)
    {
        var needs = new HashSet<(string From, string To)>();
        foreach (var file in Directory.EnumerateFiles(Path.Combine(Sources, project), "*.cs", SearchOption.AllDirectories))
        {
            var text = File.ReadAllText(file);
            var own = Regex.Match(text, $@"^namespace {Regex.Escape(project)}\.(\w+)", RegexOptions.Multiline);
            foreach (Match used in Regex.Matches(text, $@"^using {Regex.Escape(project)}\.(\w+)", RegexOptions.Multiline))
            {
                if (own.Success && own.Groups[1].Value != used.Groups[1].Value)
                {
                    needs.Add((own.Groups[1].Value, used.Groups[1].Value));
                }
            }
        }

        needs.Count.ShouldBeGreaterThan(10);
        var both = needs.Where(n => string.CompareOrdinal(n.From, n.To) < 0 && needs.Contains((n.To, n.From)));
        both.Select(n => $"{n.From}-{n.To}").Order(StringComparer.Ordinal).ShouldBe(known.Split(' ', StringSplitOptions.RemoveEmptyEntries));
    }

    private static List<string> References(string project, string kind) =>
        [.. XDocument.Load(Path.Combine(Sources, project, project + ".csproj")).Descendants(kind).Select(e => (string)e.Attribute("Include")!)];
}
