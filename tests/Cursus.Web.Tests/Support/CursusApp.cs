using Cursus.Core.Clicks;
using Cursus.Data;
using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Journaling;
using Cursus.Edge;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using Npgsql;

[assembly: AssemblyFixture(typeof(CursusApp))]

namespace Cursus.Web.Tests.Support;

/// <summary>
/// The application on a database of its own for this run, in the cluster that <c>CURSUS_TEST_DATABASE</c> names. Each test makes a workspace of
/// its own in it, so that tests neither disturb nor see one another, as workspaces must not.
/// </summary>
public sealed class CursusApp : WebApplicationFactory<Program>, IAsyncLifetime
{
    private readonly string folder = Directory.CreateTempSubdirectory("cursus-test-").FullName;
    private readonly string connection;
    private readonly string? line;
    private readonly string database = $"test_{Guid.NewGuid():N}";
    private readonly string server;
    private readonly bool isBeside;
    private readonly Lazy<Mailing> mailing;

    public CursusApp()
        : this(throughLine: false) { }

    /// <param name="throughLine">True puts a <see cref="CuttableLine"/> between the application and its database.</param>
    /// <param name="commandSeconds">After how many seconds the application gives a statement up that has no other limit.</param>
    internal CursusApp(bool throughLine, int commandSeconds = 30)
    {
        mailing = new(() => new Mailing(this));
        server = Environment.GetEnvironmentVariable("CURSUS_TEST_DATABASE")
            ?? throw new InvalidOperationException("CURSUS_TEST_DATABASE is not set. Run these tests with ./cursus test web.");
        var direct = new NpgsqlConnectionStringBuilder(server)
        {
            Database = database,
            MaxPoolSize = 10,
            CommandTimeout = commandSeconds,
        };
        connection = direct.ConnectionString;
        if (throughLine)
        {
            Line = new CuttableLine(direct.Host!, direct.Port);
            line = new NpgsqlConnectionStringBuilder(connection) { Port = Line.Port, Timeout = 2 }.ConnectionString;
        }
    }

    private CursusApp(CursusApp first)
        : this() => (connection, database, isBeside) = (first.connection, first.database, true);

    /// <summary>Another process of this application: on the same database, with a journal and a memory of its own.</summary>
    internal CursusApp Beside() => new(this);

    public async ValueTask InitializeAsync()
    {
        if (!isBeside)
        {
            await Run($"create database {database}");
        }

        // The application brings the empty database up to date when it starts.
        _ = Server;
    }

    /// <summary>How its database is reached.</summary>
    public string Connection => connection;

    public CursusDb Database()
    {
        var options = new DbContextOptionsBuilder<CursusDb>();
        CursusDb.Configure(options, connection);
        return new CursusDb(options.Options);
    }

    public NpgsqlDataSource DataSource()
    {
        var source = new NpgsqlDataSourceBuilder(connection);
        source.UseNodaTime();
        return source.Build();
    }

    /// <summary>Stores clicks as if they had come in this order out of one journal.</summary>
    public async Task Ship(IReadOnlyList<Click> clicks)
    {
        await using var source = DataSource();
        using var store = new ClickStore(source, SystemClock.Instance);
        var (id, _) = await store.Register(Guid.NewGuid(), CancellationToken.None);
        await store.Ship(id, new JournalBatch([.. clicks.Select((c, i) => (i * 64L, c))], [], clicks.Count * 64L), CancellationToken.None);
    }

    /// <summary>Waits until every click answered so far is in the database.</summary>
    public async Task Shipped()
    {
        var journal = Services.GetRequiredService<ClickJournal>();
        var end = journal.End;
        await using var db = Database();
        for (var tries = 0; tries < 600; tries++)
        {
            if (await db.Journals.AnyAsync(j => j.Key == journal.Key && j.ShippedTo >= end))
            {
                return;
            }

            await Task.Delay(25);
        }

        throw new TimeoutException("The clicks were not shipped within fifteen seconds.");
    }

    /// <summary>The application's way to its database, where it can be cut; the tests' own way is another.</summary>
    internal CuttableLine? Line { get; }

    /// <summary>A folder that is gone with the application.</summary>
    internal string Folder(string name) => Path.Combine(folder, name);

    /// <summary>The name server that the application asks.</summary>
    public TestNames Names { get; } = new();

    /// <summary>The same application with a mail server.</summary>
    public Mailing Mailing => mailing.Value;

    public LinkFeed Feed => Services.GetRequiredService<LinkFeed>();

    public override async ValueTask DisposeAsync()
    {
        if (mailing.IsValueCreated)
        {
            await Mailing.DisposeAsync();
        }

        await base.DisposeAsync();
        Line?.Dispose();
        Names.Dispose();
        if (!isBeside)
        {
            NpgsqlConnection.ClearAllPools();
            await Run($"drop database {database} with (force)");
        }

        Directory.Delete(folder, recursive: true);
    }

    protected override void ConfigureWebHost(IWebHostBuilder builder) =>
        builder
            .UseEnvironment("Production")
            .UseSetting("ConnectionStrings:Cursus", line ?? connection)
            .UseSetting("Cursus:JournalFolder", Path.Combine(folder, "journal"))
            .UseSetting("Cursus:SnapshotFile", Path.Combine(folder, "links.snapshot"))
            .UseSetting("Cursus:KeyFile", Path.Combine(AppContext.BaseDirectory, "protection.pfx"))
            .UseSetting("Cursus:Limits:RequestsAtOnce", "1000000")
            .UseSetting("Cursus:PublicScheme", "http")
            .UseSetting("Cursus:AllowedPrivateHosts:0", ".localhost")
            .UseSetting("Cursus:NameServer", $"127.0.0.1:{Names.Port}")
            .UseSetting("Cursus:EdgeHost", "edge.cursus.example")
            .UseSetting("Cursus:EdgeAddresses:0", "203.0.113.10")
            .UseSetting("Cursus:EdgeAddresses:1", "203.0.113.11")
            .UseSetting("Cursus:TrustedProxies:0", "127.0.0.1")
            .UseSetting("Cursus:Background:IsOn", "false")
            .UseSetting("Cursus:LinkCheck:Pause", "20")
            .UseSetting("Cursus:LinkCheck:Patience", "2")
            .UseSetting("Cursus:LinkCheck:Every", "1");

    private async Task Run(string sql)
    {
        await using var source = NpgsqlDataSource.Create(server);
        await using var command = source.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }
}
