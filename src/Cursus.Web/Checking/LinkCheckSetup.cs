using Cursus.Web.Hosting;
using Quartz;

namespace Cursus.Web.Checking;

/// <summary>The link check and its job, whose state is kept in the database.</summary>
internal static class LinkCheckSetup
{
    public static void AddLinkCheck(this WebApplicationBuilder builder)
    {
        var services = builder.Services;
        services.AddSingleton<SiteRules>();
        services.AddSingleton<PageCheck>();
        services.AddSingleton<CheckRound>();
        services.AddScoped<CertificateRound>();
        var options = builder.Configuration.GetSection("Cursus:LinkCheck").Get<LinkCheckOptions>() ?? new();
        services.AddSingleton(options);
        if (DocumentBuild.IsRunning || !options.IsOn)
        {
            return;
        }

        var connection = new Npgsql.NpgsqlConnectionStringBuilder(builder.Configuration.GetConnectionString("Cursus"))
        {
            MaxPoolSize = (builder.Configuration.GetSection("Cursus").Get<CursusOptions>() ?? new()).Limits.CheckConnections,
        };
        builder.AddQuartz(quartz =>
        {
            quartz.UsePersistentStore(store =>
            {
                store.UsePostgres(Npgsql.NpgsqlFactory.Instance, connection.ConnectionString);
                store.UseClustering();
            });
            quartz.ScheduleJob<LinkCheckJob>(
                trigger => trigger.WithIdentity("link-check").WithSimpleSchedule(TimeSpan.FromSeconds(options.Every)),
                job => job.WithIdentity("link-check")
            );
        });
        services.AddHostedService<LinkCheckSchedule>();
    }
}
