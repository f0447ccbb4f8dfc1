using Cursus.Data;
using Cursus.Edge;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Hosting;

/// <summary>The database, the clock and this installation's options.</summary>
public static class DatabaseSetup
{
    public static void AddDatabase(this WebApplicationBuilder builder)
    {
        var options = builder.Configuration.GetSection("Cursus").Get<CursusOptions>() ?? new CursusOptions();
        builder.Services.AddSingleton(options);
        builder.Services.AddSingleton<EdgeOptions>(options);
        builder.Services.AddSingleton<IClock>(SystemClock.Instance);
        DatabasePools.Add(builder.Services, builder.Configuration.GetConnectionString("Cursus"), options.Limits);
        builder.Services.AddScoped<Demo.DemoLoader>();
        builder.Services.AddDbContext<CursusDb>(
            (provider, db) =>
                db.UseNpgsql(provider.GetRequiredService<NpgsqlDataSource>(), npgsql => npgsql.UseNodaTime()).UseSnakeCaseNamingConvention()
        );
    }
}
