using System.Text.Json;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Edge.Routing;

namespace Cursus.Web.Tests.Edge;

public class AgentBookTests
{
    /// <summary>All cases for browsers and operating systems that the uap-core project publishes; see ReferenceData/README.md of the core's
    /// tests.</summary>
    [Fact]
    public async Task A_rule_is_told_of_every_published_user_agent_what_is_stored_with_its_click()
    {
        var file = Repository.Of("tests", "Cursus.Core.Tests", "ReferenceData", "uap-cases.json");
        await using var stream = File.OpenRead(file);
        var cases = (await JsonSerializer.DeserializeAsync<string[][]>(stream, cancellationToken: TestContext.Current.CancellationToken))!;
        var agents = cases.Select(c => c[1]).Distinct().ToList();
        agents.Count.ShouldBeGreaterThan(1000);
        var book = new AgentBook();
        RequestTraits[] traits = [default, new(default, RequestSigns.Told | RequestSigns.Navigates)];

        // The second time they are known.
        for (var round = 0; round < 2; round++)
        {
            foreach (var agent in agents)
            {
                foreach (var of in traits)
                {
                    book.Of(agent, of).ShouldBe(UserAgentReading.Of(agent[..Math.Min(agent.Length, Click.MaxUserAgent)], of), agent);
                }
            }
        }
    }
}
