using Microsoft.EntityFrameworkCore;

namespace Cursus.Data.Workspaces;

/// <summary>Deletes a workspace with all that is in it.</summary>
public static class WorkspaceEnd
{
    /// <summary>All of it or nothing. Its short addresses lead nowhere afterwards, and its short domains are free.</summary>
    public static async Task Delete(CursusDb db, Guid workspace, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        // Years of clicks take what they take.
        db.Database.SetCommandTimeout(0);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select 1 from workspaces where id = {workspace} for update", cancel);
        await db.Database.ExecuteSqlAsync($"delete from clicks c using links l where l.id = c.link_id and l.workspace_id = {workspace}", cancel);
        // What others point to goes after what points to it: the cascade has an order of its own.
        await db.Database.ExecuteSqlAsync($"delete from links where workspace_id = {workspace}", cancel);
        await db.Database.ExecuteSqlAsync($"delete from posts where workspace_id = {workspace}", cancel);
        await db.Database.ExecuteSqlAsync($"delete from code_styles where workspace_id = {workspace}", cancel);
        await db.Database.ExecuteSqlAsync($"delete from workspaces where id = {workspace}", cancel);
        await transaction.CommitAsync(cancel);
    }
}
