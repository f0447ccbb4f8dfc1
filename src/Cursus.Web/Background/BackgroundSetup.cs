using Cursus.Web.Hosting;
using Quartz;

namespace Cursus.Web.Background;

/// <summary>The scheduler of all background work, whose plan and history are in the database.</summary>
internal static class BackgroundSetup
{
    /// <summary>How many runs of each kind of work are kept.</summary>
    private const int RunsKept = 50;

    public static void AddBackgroundWork(this WebApplicationBuilder builder)
    {
        var options = builder.Configuration.GetSection("Cursus:Background").Get<BackgroundOptions>() ?? new();
        if (DocumentBuild.IsRunning || !options.IsOn)
        {
            return;
        }

        var connection = new Npgsql.NpgsqlConnectionStringBuilder(builder.Configuration.GetConnectionString("Cursus"))
        {
            MaxPoolSize = (builder.Configuration.GetSection("Cursus").Get<CursusOptions>() ?? new()).Limits.CheckConnections,
        };
        builder.AddQuartz(quartz =>
            quartz.UsePersistentStore(store =>
            {
                store.UsePostgres(Npgsql.NpgsqlFactory.Instance, connection.ConnectionString);
                store.UseClustering();
                store.UseExecutionHistory();
            })
        );
        builder.Services.AddQuartzExecutionHistory(history =>
        {
            history.MaxEntriesPerJob = RunsKept;
            history.RecordInput = false;
        });

        // The job itself says in a line what failed.
        builder.Logging.AddFilter("Quartz.Core.JobRunShell", LogLevel.Critical);
        builder.Services.AddHostedService<BackgroundSchedule>();
    }
}
