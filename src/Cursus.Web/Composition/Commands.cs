using Cursus.Data;
using Cursus.Data.Clicks.Sums;
using Cursus.Data.Schema;
using Cursus.Web.Accounts;
using Cursus.Web.Archives;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Composition;

/// <summary>What the program does besides serving: <c>migrate</c> brings the database up to date, <c>check</c> holds the roll-ups against the clicks,
/// <c>recount</c> makes them anew, <c>token</c> makes an API token, <c>password</c> sets a new password, <c>export</c> and <c>import</c> write a
/// workspace into an archive and read one, <c>archive-schema</c> prints how archives are laid out.</summary>
public static class Commands
{
    private const int MostTold = 20;

    /// <summary>Runs the command named first; returns its exit code, or null where the program should serve.</summary>
    public static async Task<int?> Run(WebApplication app, string[] args)
    {
        await using var scope = app.Services.CreateAsyncScope();
        return args.FirstOrDefault() switch
        {
            "migrate" => await Migrate(scope.ServiceProvider),
            "check" => await Check(scope.ServiceProvider),
            "recount" => await Recount(scope.ServiceProvider),
            "export" => await ArchiveCommands.Export(scope.ServiceProvider, app.Configuration["email"], app.Configuration["file"] ?? ""),
            "import" => await ArchiveCommands.Import(scope.ServiceProvider, app.Configuration["email"], app.Configuration["file"] ?? ""),
            "schema-document" => await WriteSchemaDocument(scope.ServiceProvider),
            "archive-schema" => await ArchiveCommands.Schema(scope.ServiceProvider),
            "token" => await AccountCommands.MakeToken(scope.ServiceProvider, app.Configuration["email"] ?? ""),
            "password" => await AccountCommands.SetPassword(
                scope.ServiceProvider,
                app.Configuration["email"] ?? "",
                app.Configuration["one-step"] is not null
            ),
            _ => null,
        };
    }

    private static async Task<int> Migrate(IServiceProvider services)
    {
        await SchemaUpdate.Run(services.GetRequiredService<CursusDb>(), CancellationToken.None);
        return 0;
    }

    private static async Task<int> WriteSchemaDocument(IServiceProvider services)
    {
        await using var connection = await services.GetRequiredService<NpgsqlDataSource>().OpenConnectionAsync();
        Console.Write(await SchemaDocument.Of(connection, CancellationToken.None));
        return 0;
    }

    private static async Task<int> Check(IServiceProvider services)
    {
        var rollUps = services.GetRequiredService<RollUps>();
        var (days, differences, months) = await rollUps.Check(CancellationToken.None);
        var totals = await rollUps.CheckTotals(CancellationToken.None);
        if (differences.Count + months.Count + totals.Count == 0)
        {
            Console.WriteLine($"All {days} daily totals match the recorded clicks, and so do the monthly totals and link totals.");
            return 0;
        }

        foreach (var (link, day, clicks, rolledUp) in differences.Take(MostTold))
        {
            Console.WriteLine(
                $"Link {link} on {day:uuuu'-'MM'-'dd}: {clicks} clicks by people, {rolledUp} in the roll-up{(clicks == rolledUp ? ", but they tell something else" : "")}"
            );
        }

        foreach (var (link, month) in months.Take(MostTold))
        {
            Console.WriteLine($"Link {link} in {month:uuuu'-'MM}: the monthly total doesn’t match its clicks");
        }

        foreach (var link in totals.Take(MostTold))
        {
            Console.WriteLine($"Link {link}: the link total doesn’t match its clicks");
        }

        await Console.Error.WriteLineAsync(
            $"{differences.Count} of {days} days of links do not agree with their clicks, {months.Count} months of links don’t tell what their clicks tell, {totals.Count} totals of links not with their clicks. “./cursus recount” makes them anew from the clicks."
        );
        return 1;
    }

    private static async Task<int> Recount(IServiceProvider services)
    {
        var rollUps = services.GetRequiredService<RollUps>();
        await rollUps.Rebuild(services.GetRequiredService<IClock>().GetCurrentInstant(), CancellationToken.None);
        Console.WriteLine("The totals were rebuilt from the recorded clicks.");
        return 0;
    }
}
