using System.Net.Sockets;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Cursus.Data;

/// <summary>Tells failures that lie with the database from those that lie with a request.</summary>
public static class DatabaseTrouble
{
    /// <summary>Whether the database could not be reached, hung up, has no connection left or is starting or ending: whatever was asked may be asked
    /// again later.</summary>
    public static bool IsAway(Exception exception) =>
        exception switch
        {
            PostgresException failed => failed.IsTransient
                || failed.SqlState is PostgresErrorCodes.AdminShutdown or PostgresErrorCodes.CrashShutdown or PostgresErrorCodes.CannotConnectNow,
            NpgsqlException or TimeoutException or SocketException or EndOfStreamException => true,
            // EF says that a failure may be transient, and what failed stands inside it; data protection says that it found no key.
            DbUpdateException or InvalidOperationException or System.Security.Cryptography.CryptographicException or AggregateException =>
                exception.InnerException is { } inner && IsAway(inner),
            _ => false,
        };

    /// <summary>Whether it is the database that failed, whatever it says: for work in the background that is tried again.</summary>
    public static bool IsOfDatabase(Exception exception) => exception is NpgsqlException or IOException || IsAway(exception);

    /// <summary>Whether somebody else has made the same thing in the same moment, such as a tag of the same name.</summary>
    public static bool IsMadeMeanwhile(Exception exception) =>
        exception is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation }
        || (exception is DbUpdateException { InnerException: { } inner } && IsMadeMeanwhile(inner));

    /// <summary>Whether the database gave a statement up because it took longer than it may.</summary>
    public static bool IsTooLong(Exception exception) => exception is PostgresException { SqlState: PostgresErrorCodes.QueryCanceled };
}
