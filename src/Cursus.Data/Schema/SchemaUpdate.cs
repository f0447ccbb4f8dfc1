using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using Cursus.Data.Migrations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Schema;

/// <summary>
/// Brings a database to the schema of this version. Tables change by migrations, one after the other; functions, triggers, views and comments stand
/// whole in the files beside, and are made anew, all in one transaction, whenever one of these has changed.
/// </summary>
public static partial class SchemaUpdate
{
    /// <summary>The last migration of the chain that <see cref="Initial"/> stands for.</summary>
    internal const string LastBeforeInitial = "20261201015535_IdempotentHeaders";

    private static readonly string[] Files = ["functions.sql", "views.sql", "triggers.sql", "comments.sql"];

    private static readonly string Hash = Convert.ToHexStringLower(
        SHA256.HashData(Encoding.UTF8.GetBytes(string.Concat(Files.Select(SchemaFile.Read))))
    );

    /// <summary>Updates the database; makes the schema where there is none.</summary>
    /// <exception cref="InvalidOperationException">The database was last used by a version that is too old.</exception>
    public static async Task Run(CursusDb db, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        // A large table takes what it takes, and a busy machine too.
        var timeout = db.Database.GetCommandTimeout();
        db.Database.SetCommandTimeout(0);
        await MoveToInitial(db, cancel);
        await db.Database.MigrateAsync(cancel);
        await ApplyFiles(db, cancel);
        db.Database.SetCommandTimeout(timeout);
    }

    /// <summary>An installation with all migrations of the former chain has the same tables as one with the initial migration: it is told
    /// so.</summary>
    private static async Task MoveToInitial(CursusDb db, CancellationToken cancel)
    {
        var history = db.GetService<IHistoryRepository>();
        if (!await history.ExistsAsync(cancel))
        {
            return;
        }

        var applied = (await history.GetAppliedMigrationsAsync(cancel)).Select(m => m.MigrationId).ToList();
        if (applied.Count == 0 || applied.Contains(Initial.Id))
        {
            return;
        }

        if (!applied.Contains(LastBeforeInitial))
        {
            throw new InvalidOperationException(
                $"This database was last used by an older version of Cursus: its last migration is {applied[^1]}. Start it once with a version that has {LastBeforeInitial}, then start this one."
            );
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlRawAsync("delete from \"__EFMigrationsHistory\"", cancel);
        await db.Database.ExecuteSqlRawAsync(history.GetInsertScript(new HistoryRow(Initial.Id, ProductInfo.GetVersion())), cancel);
        await transaction.CommitAsync(cancel);
    }

    private static async Task ApplyFiles(CursusDb db, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // Of two processes that start at once, the second waits, and finds it done.
        await db.Database.ExecuteSqlRawAsync(
            "select pg_advisory_xact_lock(hashtext('schema_files')); create table if not exists schema_files (hash text not null, made text[] not null)",
            cancel
        );
        var stored = await db.Database.SqlQuery<Applied>($"select hash, made from schema_files").FirstOrDefaultAsync(cancel);
        if (stored?.Hash == Hash)
        {
            return;
        }

        var files = Files.Select(SchemaFile.Read).ToList();
        var made = files
            .SelectMany(f => Creations().Matches(f))
            .Select(m => new Made(m.Groups[1].Value + m.Groups[3].Value, m.Groups[2].Value + m.Groups[4].Value + m.Groups[5].Value))
            .ToList();
        foreach (var one in made.Concat(stored?.Made.Select(Made.Of) ?? []).Distinct().OrderBy(m => m.Kind == "function"))
        {
            await db.Database.ExecuteSqlRawAsync(Escaped(one.Drop), cancel);
        }

        foreach (var file in files)
        {
            await db.Database.ExecuteSqlRawAsync(Escaped(file), cancel);
        }

        await db.Database.ExecuteSqlAsync(
            $"delete from schema_files; insert into schema_files (hash, made) values ({Hash}, {made.Select(m => m.ToString()).ToArray()})",
            cancel
        );
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Braces stand for parameters otherwise.</summary>
    private static string Escaped(string sql) => sql.Replace("{", "{{", StringComparison.Ordinal).Replace("}", "}}", StringComparison.Ordinal);

    [GeneratedRegex(@"^create (?:or replace )?(?:constraint )?(?:(function|view) (\w+)|(trigger) (\w+)[^;]*?( on \w+))", RegexOptions.Multiline)]
    private static partial Regex Creations();

    /// <summary>What is remembered of the files that were applied last, so that what is no longer in them is taken away.</summary>
    private sealed record Applied(string Hash, string[] Made);

    /// <param name="Kind"><c>function</c>, <c>view</c> or <c>trigger</c>.</param>
    /// <param name="Name">That of a trigger with its table.</param>
    private sealed record Made(string Kind, string Name)
    {
        public static Made Of(string text) =>
            new(text[..text.IndexOf(' ', StringComparison.Ordinal)], text[(text.IndexOf(' ', StringComparison.Ordinal) + 1)..]);

        public string Drop => $"drop {Kind} if exists {Name}";

        public override string ToString() => $"{Kind} {Name}";
    }
}
