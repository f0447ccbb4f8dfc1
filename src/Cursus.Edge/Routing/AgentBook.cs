using System.Collections.Concurrent;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;

namespace Cursus.Edge.Routing;

/// <summary>What user agents say, as it was read the first time: the same that is stored with their clicks.</summary>
internal sealed class AgentBook
{
    /// <summary>A few thousand make nearly all visits. Made-up ones may not fill the memory.</summary>
    private const int Most = 20_000;

    private readonly ConcurrentDictionary<string, UserAgentReading> known = new(StringComparer.Ordinal);

    /// <summary>The reading of a user agent with what its request told beside it.</summary>
    /// <param name="agent">At most <see cref="Click.MaxUserAgent"/> characters count.</param>
    public UserAgentReading Of(ReadOnlySpan<char> agent, RequestTraits traits)
    {
        agent = agent[..Math.Min(agent.Length, Click.MaxUserAgent)];
        Span<char> key = stackalloc char[2 + Click.MaxUserAgent];
        (key[0], key[1]) = ((char)traits.Hints.ToByte(), (char)traits.Signs);
        agent.CopyTo(key[2..]);
        key = key[..(2 + agent.Length)];
        var lookup = known.GetAlternateLookup<ReadOnlySpan<char>>();
        if (lookup.TryGetValue(key, out var reading))
        {
            return reading;
        }

        reading = UserAgentReading.Of(agent.ToString(), traits);
        if (known.Count >= Most)
        {
            known.Clear();
        }

        lookup[key] = reading;
        return reading;
    }
}
