using System.Diagnostics;
using System.Text.Json;

namespace Cursus.Core.Tests.Addresses;

/// <summary>Node's own <c>URL</c>, which implements the WHATWG URL Standard: the reference that our addresses are held against.</summary>
internal static class NodeUrl
{
    private const string Program = """
        const texts = JSON.parse(require('fs').readFileSync(0, 'utf8'))
        console.log(JSON.stringify(texts.map(([text, base]) => { try { return new URL(text, base ?? undefined).href } catch { return null } })))
        """;

    /// <summary>The address of each text as Node writes it, or null where Node refuses it.</summary>
    public static string?[] Read(IReadOnlyList<string?[]> textsWithBase)
    {
        using var node = Process.Start(
            new ProcessStartInfo("node", ["-e", Program]) { RedirectStandardInput = true, RedirectStandardOutput = true }
        )!;
        node.StandardInput.Write(JsonSerializer.Serialize(textsWithBase));
        node.StandardInput.Close();
        var answer = node.StandardOutput.ReadToEnd();
        node.WaitForExit();
        return JsonSerializer.Deserialize<string?[]>(answer)!;
    }
}
