using Cursus.Core.Clicks;

namespace Cursus.Web.Clicks;

/// <summary>Reads from a click what only its texts tell, when it is shipped and nobody waits. What it finds depends on the click alone, so that a batch
/// that is shipped again says the same.</summary>
internal sealed class ClickReader
{
    /// <summary>A few thousand user agents make nearly all clicks.</summary>
    private const int Remembered = 20_000;

    private readonly Dictionary<string, ClickKind> kinds = [];

    /// <summary>The click under its kind: one that the edge took for a person's may be a machine's by its user agent.</summary>
    public Click Read(Click click) => click.Kind == ClickKind.Person ? click with { Kind = KindOf(click.UserAgent) } : click;

    private ClickKind KindOf(string userAgent)
    {
        if (!kinds.TryGetValue(userAgent, out var kind))
        {
            if (kinds.Count >= Remembered)
            {
                kinds.Clear();
            }

            kinds[userAgent] = kind = UserAgentKind.Of(userAgent);
        }

        return kind;
    }
}
