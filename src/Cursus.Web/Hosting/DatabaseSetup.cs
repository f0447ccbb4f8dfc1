using Cursus.Data;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Hosting;

/// <summary>The database, the clock and this installation's options.</summary>
public static class DatabaseSetup
{
    /// <summary>Kept ready by each connection; there are fewer kinds of questions.</summary>
    private const int PreparedStatements = 200;

    public static void AddDatabase(this WebApplicationBuilder builder)
    {
        var options = builder.Configuration.GetSection("Cursus").Get<CursusOptions>() ?? new CursusOptions();
        builder.Services.AddSingleton(options);
        builder.Services.AddSingleton<IClock>(SystemClock.Instance);
        builder.Services.AddSingleton(_ =>
        {
            var source = new NpgsqlDataSourceBuilder(builder.Configuration.GetConnectionString("Cursus"));

            // Planning a list of links with all that is told of them takes longer than running it: what is asked again is planned once.
            source.ConnectionStringBuilder.MaxAutoPrepare = PreparedStatements;
            source.ConnectionStringBuilder.AutoPrepareMinUsages = 2;
            source.UseNodaTime();
            return source.Build();
        });
        builder.Services.AddScoped<Demo.DemoLoader>();
        builder.Services.AddDbContext<CursusDb>((provider, db) => db
            .UseNpgsql(provider.GetRequiredService<NpgsqlDataSource>(), npgsql => npgsql.UseNodaTime())
            .UseSnakeCaseNamingConvention());
    }
}
