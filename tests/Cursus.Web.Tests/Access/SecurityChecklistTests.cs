using System.Reflection;
using System.Text.RegularExpressions;

namespace Cursus.Web.Tests.Access;

/// <summary>The checklist names tests that there are.</summary>
public partial class SecurityChecklistTests
{
    [Fact]
    public void Each_line_of_the_checklist_names_a_test_that_exists()
    {
        var here = typeof(SecurityChecklistTests).Assembly.GetTypes().SelectMany(t => t.GetMethods()).Where(IsTest).Select(m => m.Name);
        var core = Directory
            .EnumerateFiles(Repository.Of("tests", "Cursus.Core.Tests"), "*Tests.cs", SearchOption.AllDirectories)
            .SelectMany(f => Method().Matches(File.ReadAllText(f)).Select(m => m.Groups[1].Value));
        var known = here.Concat(core).ToHashSet();
        var lines = File.ReadLines(Repository.Of("docs", "security.md")).Where(l => Row().IsMatch(l)).ToList();
        lines.Count.ShouldBeGreaterThan(30);
        lines.Where(l => !known.Contains(l.TrimEnd('|', ' ').Split('|')[^1].Trim(' ', '`'))).ShouldBeEmpty();
    }

    private static bool IsTest(MethodInfo method) => method.GetCustomAttributes<FactAttribute>().Any();

    [GeneratedRegex(@"public (?:async Task|void) (\w+)\(")]
    private static partial Regex Method();

    [GeneratedRegex("^\\| [0-9. ,]*\\| .*`")]
    private static partial Regex Row();
}
