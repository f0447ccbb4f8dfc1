using Cursus.Core.Addresses;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Workspaces;

/// <summary>Keys by which addresses name workspaces.</summary>
internal static class WorkspaceKeys
{
    private const string Nameless = "workspace";

    /// <summary>A key made of a name, with a number where another workspace has it. The caller keeps others from taking it meanwhile.</summary>
    public static async Task<string> Free(CursusDb db, string name, CancellationToken cancel)
    {
        var words = AsciiWords.Hyphenated(name, Workspace.MaxKey - 4);
        var wanted = words.Length == 0 ? Nameless : words;
        var taken = await db.Workspaces.Where(w => w.Key.StartsWith(wanted)).Select(w => w.Key).ToListAsync(cancel);
        return taken.Contains(wanted) ? Enumerable.Range(2, int.MaxValue - 2).Select(n => $"{wanted}-{n}").First(k => !taken.Contains(k)) : wanted;
    }
}
