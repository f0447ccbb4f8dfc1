using Cursus.Web.Hosting;
using Npgsql;

namespace Cursus.Web.Tests.Limits;

/// <summary>What Cursus says of its database at the start.</summary>
public class DatabasePoolsTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Where_the_database_lets_in_fewer_connections_than_may_be_opened_it_is_said_at_the_start()
    {
        await using var source = app.DataSource();
        (await DatabasePools.ErrorOf(source, new LimitOptions(), Cancel)).ShouldBeNull();
        (await DatabasePools.ErrorOf(source, new LimitOptions { Connections = 100_000 }, Cancel))!.ShouldContain("Raise max_connections");
    }

    [Fact]
    public async Task A_role_that_may_do_more_than_own_its_database_is_named()
    {
        await using var source = app.DataSource();
        var role = $"plain_{Guid.NewGuid():N}";
        await Run(source, $"create role {role} login password 'northern-lights'");
        try
        {
            await using var plain = NpgsqlDataSource.Create(
                new NpgsqlConnectionStringBuilder(source.ConnectionString)
                {
                    Username = role,
                    Password = "northern-lights",
                    Pooling = false,
                }
            );
            (await DatabasePools.TooManyRights(plain, Cancel)).ShouldBeNull();
            await Run(source, $"alter role {role} createdb");
            (await DatabasePools.TooManyRights(plain, Cancel))!.ShouldContain(role);
        }
        finally
        {
            await Run(source, $"drop role {role}");
        }
    }

    private static async Task Run(NpgsqlDataSource source, string sql)
    {
        await using var command = source.CreateCommand(sql);
        await command.ExecuteNonQueryAsync(CancellationToken.None);
    }
}
