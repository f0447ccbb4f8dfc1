using System.Xml.Linq;

namespace Cursus.Web.Tests;

/// <summary>Who may know whom (ARCHITECTURE.md): Core nobody, Data Core, Web both, the stand-ins nobody and nobody them.</summary>
public class ArchitectureTests
{
    private static readonly string Sources = Path.Combine(Repository.Root, "src");

    [Theory]
    [InlineData("Cursus.Core", "")]
    [InlineData("Cursus.Data", "Cursus.Core")]
    [InlineData("Cursus.Web", "Cursus.Core Cursus.Data")]
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

    private static List<string> References(string project, string kind) =>
        [.. XDocument.Load(Path.Combine(Sources, project, project + ".csproj")).Descendants(kind).Select(e => (string)e.Attribute("Include")!)];
}
