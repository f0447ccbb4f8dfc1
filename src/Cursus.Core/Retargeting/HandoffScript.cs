using System.Text.RegularExpressions;

namespace Cursus.Core.Retargeting;

/// <summary>The script of the handoff page: <c>Page/*.js</c>, put together and squeezed. There are four of them, each the same for every
/// link.</summary>
internal static partial class HandoffScript
{
    private static readonly Dictionary<(bool RunsScripts, bool Asks), (string Text, string Hash)> All = new[]
    {
        (false, false),
        (false, true),
        (true, false),
        (true, true),
    }.ToDictionary(variant => variant, variant => Make(variant.Item1, variant.Item2));

    /// <summary>The script and its hash, as a Content-Security-Policy names it.</summary>
    /// <param name="runsScripts">Whether a network runs a script of its own.</param>
    /// <param name="asks">Whether visitors are asked before.</param>
    public static (string Text, string Hash) Of(bool runsScripts, bool asks) => All[(runsScripts, asks)];

    private static (string Text, string Hash) Make(bool runsScripts, bool asks)
    {
        string[] parts = ["begin.js", .. runsScripts ? ["scripts.js"] : Array.Empty<string>(), asks ? "question.js" : "fire.js"];
        var text = Squeezed(string.Concat(parts.Select(Read)));
        return (text, HandoffPage.HashOf(text));
    }

    private static string Read(string name)
    {
        using var file = new StreamReader(
            typeof(HandoffScript).Assembly.GetManifestResourceStream(name) ?? throw new InvalidOperationException($"{name} is not built in.")
        );
        return file.ReadToEnd();
    }

    /// <summary>Takes out notes and the space around signs; none of the script's texts has such space.</summary>
    private static string Squeezed(string script) => Space().Replace(Note().Replace(script, ""), "$1").Trim();

    [GeneratedRegex(@"^//.*$", RegexOptions.Multiline)]
    private static partial Regex Note();

    [GeneratedRegex(@"\s*([=(){},;:?<>&|!\[\]])\s*")]
    private static partial Regex Space();
}
