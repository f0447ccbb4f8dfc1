using Cursus.Edge;
using Npgsql;

namespace Cursus.Web.Hosting;

/// <summary>The connections to the database, kept apart by who needs them: reports that take all of theirs starve neither the edge nor the clicks on
/// their way.</summary>
public sealed class DatabasePools(IServiceProvider services)
{
    /// <summary>Those by which clicks are stored, sealed and recounted.</summary>
    public const string Shipping = "shipping";

    /// <summary>Those that reports are counted on. Statements have a time limit.</summary>
    public const string Reports = "reports";

    /// <summary>Kept ready by each connection; there are fewer kinds of questions.</summary>
    private const int PreparedStatements = 200;

    public static void Add(IServiceCollection services, string? connection, LimitOptions limits)
    {
        services.AddSingleton<DatabasePools>();
        services.AddSingleton<ForgetConnections>(provider => provider.GetRequiredService<DatabasePools>().Forget);
        services.AddSingleton(_ => Pool(connection, limits.Connections));
        services.AddKeyedSingleton(EdgeSetup.Database, (_, _) => Pool(connection, limits.EdgeConnections));
        services.AddKeyedSingleton(Shipping, (_, _) => Pool(connection, limits.ShippingConnections));
        services.AddKeyedSingleton(Reports, (_, _) => Pool(connection, limits.ReportsAtOnce, limits.ReportSeconds));
    }

    /// <summary>Closes all connections that nobody uses: after the database was away each is a dead one that would fail whoever gets it.</summary>
    public void Forget()
    {
        services.GetRequiredService<NpgsqlDataSource>().Clear();
        foreach (var pool in new[] { EdgeSetup.Database, Shipping, Reports })
        {
            services.GetRequiredKeyedService<NpgsqlDataSource>(pool).Clear();
        }
    }

    /// <summary>Says at the start where the database lets in fewer connections than this process may open.</summary>
    /// <returns>What is wrong and what to do; null where all is well.</returns>
    public static async Task<string?> ErrorOf(NpgsqlDataSource pool, LimitOptions limits, CancellationToken cancel)
    {
        await using var command = pool.CreateCommand(
            "select current_setting('max_connections')::int - current_setting('superuser_reserved_connections')::int"
        );
        var open = (int)(await command.ExecuteScalarAsync(cancel))!;
        return open >= limits.ConnectionsInAll
            ? null
            : $"PostgreSQL allows {open} connections, but Cursus may open {limits.ConnectionsInAll}. Raise max_connections, or lower the connections in Cursus:Limits.";
    }

    /// <summary>Says at the start where Cursus may do more in the database than it needs to.</summary>
    /// <returns>What is wrong and what to do; null where all is well.</returns>
    public static async Task<string?> TooManyRights(NpgsqlDataSource pool, CancellationToken cancel)
    {
        await using var command = pool.CreateCommand(
            "select rolname from pg_roles where rolname = current_user and (rolsuper or rolcreaterole or rolcreatedb or rolreplication or rolbypassrls)"
        );
        return await command.ExecuteScalarAsync(cancel) is string role
            ? $"The database role {role} has more rights than Cursus needs. Let Cursus connect as a role that owns its database and nothing else."
            : null;
    }

    private static NpgsqlDataSource Pool(string? connection, int most, int? seconds = null)
    {
        var source = new NpgsqlDataSourceBuilder(connection);
        source.ConnectionStringBuilder.MaxPoolSize = most;

        // Planning a list of links with all that is told of them takes longer than running it: what is asked again is planned once.
        source.ConnectionStringBuilder.MaxAutoPrepare = PreparedStatements;
        source.ConnectionStringBuilder.AutoPrepareMinUsages = 2;
        if (seconds is { } limit)
        {
            source.ConnectionStringBuilder.Options = $"-c statement_timeout={limit}s";
            source.ConnectionStringBuilder.CommandTimeout = limit + 5;
        }

        source.UseNodaTime();
        return source.Build();
    }
}
