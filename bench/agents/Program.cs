using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Cursus.Edge.Routing;

// What it costs a redirect to know the device of an agent that it has seen before, where a rule asks for it. Takes uap-core's cases.
const int Rounds = 2_000;
const int Portion = 100;
const double Wanted = 2;
var agents = JsonSerializer.Deserialize<string[][]>(File.ReadAllText(args[0]))!.Select(c => c[1]).Distinct().ToArray();
var book = new AgentBook();
var firsts = agents.Select(agent => Microseconds(book, [agent])).Order().ToArray();

var random = new Random(1);
var again = new List<double>();
for (var round = 0; round < Rounds; round++)
{
    again.Add(Microseconds(book, random.GetItems(agents, Portion)));
}

again.Sort();
var median = again[Rounds / 2];
Console.WriteLine(
    string.Create(
        CultureInfo.InvariantCulture,
        $"the device of an agent seen before: {median:F3} µs ({again[0]:F3} to {again[^1]:F3}); seen for the first time: {firsts[firsts.Length / 2]:F0} µs; {agents.Length:N0} agents"
    )
);
return median <= Wanted ? 0 : 1;

// What one of the agents takes, on average.
static double Microseconds(AgentBook book, string[] asked)
{
    var phones = 0;
    var began = Stopwatch.GetTimestamp();
    foreach (var agent in asked)
    {
        phones += book.Of(agent, default).Device == "phone" ? 1 : 0;
    }

    var took = Stopwatch.GetElapsedTime(began).TotalMicroseconds / asked.Length;
    GC.KeepAlive(phones);
    return took;
}
