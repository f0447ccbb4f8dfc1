using System.Text.RegularExpressions;
using Cursus.Core.Reports;

namespace Cursus.Web.Tests.Reports;

public partial class PeriodNamesTests
{
    /// <summary>The question's sentence words the periods; what they mean only the server knows.</summary>
    [Fact]
    public void The_web_application_words_every_named_period_and_no_other()
    {
        var source = File.ReadAllText(Path.Combine(Repository.Root, "web/src/features/reports/question/question.ts"));
        var worded = source[source.IndexOf("export const periods", StringComparison.Ordinal)..];
        Entry().Matches(worded[..worded.IndexOf('}', StringComparison.Ordinal)]).Select(m => m.Groups[1].Value).ShouldBe(NamedPeriod.Names);
    }

    [GeneratedRegex("^  '?([a-z0-9-]+)'?: '", RegexOptions.Multiline)]
    private static partial Regex Entry();
}
