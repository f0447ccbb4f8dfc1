using Cursus.Data;
using Cursus.Data.Archives;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Archives;

/// <summary><c>export</c> and <c>import</c> on the command line, for archives that are too large for a browser, and for backups.</summary>
internal static class ArchiveCommands
{
    /// <param name="email">An owner of the workspace; may be left out where there is one workspace.</param>
    /// <param name="path">The file to write.</param>
    public static async Task<int> Export(IServiceProvider services, string? email, string path)
    {
        if (await Workspace(services, email) is not { } workspace)
        {
            return 1;
        }

        // Under its own name only once it is whole.
        var unfinished = path + ".part";
        await using (var file = File.Create(unfinished))
        {
            await services
                .GetRequiredService<ArchiveWriter>()
                .Write(workspace.Id, workspace.Name, services.GetRequiredService<IClock>().GetCurrentInstant(), file, CancellationToken.None);
        }

        File.Move(unfinished, path, overwrite: true);
        Console.WriteLine($"{workspace.Name} is written to {path}.");
        return 0;
    }

    /// <param name="path">The file to read.</param>
    public static async Task<int> Import(IServiceProvider services, string? email, string path)
    {
        if (!File.Exists(path))
        {
            await Console.Error.WriteLineAsync($"There is no file {path}.");
            return 1;
        }

        if (await Workspace(services, email) is not { } workspace)
        {
            return 1;
        }

        try
        {
            var imported = await ArchiveOfWorkspace.Import(
                path,
                workspace.Id,
                by: null,
                services.GetRequiredService<ArchiveImport>(),
                services.GetRequiredService<CursusDb>(),
                services.GetRequiredService<IClock>(),
                CancellationToken.None
            );
            Console.WriteLine(
                $"{workspace.Name} holds {imported.Links} links, {imported.Posts} posts and {imported.Clicks} clicks by people of {imported.From}, as of {imported.MadeAt}."
            );
            return 0;
        }
        catch (ArchiveRefusedException e)
        {
            await Console.Error.WriteLineAsync(e.Message);
            return 1;
        }
    }

    /// <summary>Prints the layout, as it stands in docs/archive/schema.json.</summary>
    public static async Task<int> Schema(IServiceProvider services)
    {
        await using var connection = await services.GetRequiredService<NpgsqlDataSource>().OpenConnectionAsync();
        Console.Write(await ArchiveSchema.Of(connection, CancellationToken.None));
        return 0;
    }

    private static async Task<Data.Workspaces.Workspace?> Workspace(IServiceProvider services, string? email)
    {
        var db = services.GetRequiredService<CursusDb>();
        var normalized = email?.Trim().ToUpperInvariant();
        var found = await db
            .Workspaces.AsNoTracking()
            .Where(w =>
                normalized == null
                || db.Members.Any(m => m.WorkspaceId == w.Id && m.Account!.NormalizedEmail == normalized && m.Role == Data.Workspaces.Role.Owner)
            )
            .OrderBy(w => w.CreatedAt)
            .Take(2)
            .ToListAsync();
        if (found.Count == 1)
        {
            return found[0];
        }

        await Console.Error.WriteLineAsync(
            found.Count > 1 ? "There are several workspaces. Choose one with --email and an owner’s address."
            : email is null ? "There is no workspace yet. Open Cursus in a browser and create the first owner."
            : $"No workspace owner has the e-mail address “{email}”."
        );
        return null;
    }
}
