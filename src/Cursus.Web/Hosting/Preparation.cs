using Cursus.Data;
using Cursus.Data.Clicks;
using Cursus.Web.Demo;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Hosting;

/// <summary>What happens before the first request: the database is brought up to date, and filled where it is empty and a demo is configured.</summary>
public static class Preparation
{
    public static async Task PrepareDatabase(this WebApplication app)
    {
        if (DocumentBuild.IsRunning)
        {
            return;
        }

        await using var scope = app.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
        await db.Database.MigrateAsync();
        if (await app.Services.GetRequiredService<RollUps>().BringUpToDate(app.Services.GetRequiredService<IClock>().GetCurrentInstant(), CancellationToken.None))
        {
            Console.WriteLine("  The clicks were read anew by the present lists");
        }

        if (app.Services.GetRequiredService<CursusOptions>() is { DemoFolder.Length: > 0 } options && !await db.Workspaces.AnyAsync())
        {
            Console.WriteLine("  Loading the demo scenario");
            var loaded = await scope.ServiceProvider.GetRequiredService<DemoLoader>().Load(DemoScenario.Read(options.DemoFolder), CancellationToken.None);
            Console.WriteLine($"  Demo: {loaded.Posts} posts, {loaded.Links} links, {loaded.Clicks} clicks");
        }
    }
}
