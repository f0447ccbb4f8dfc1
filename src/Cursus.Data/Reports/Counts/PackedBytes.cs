using Npgsql;

namespace Cursus.Data.Reports.Counts;

/// <summary>Reads the bytes of packed months, one after the other, without memory of its own for each of them.</summary>
internal sealed class PackedBytes
{
    private byte[] buffer = new byte[4096];

    /// <summary>Those of a column of a row; they hold until the next ones are read.</summary>
    public ReadOnlySpan<byte> Of(NpgsqlDataReader row, int column)
    {
        var length = (int)row.GetBytes(column, 0, null, 0, 0);
        if (length > buffer.Length)
        {
            buffer = new byte[2 * length];
        }

        return buffer.AsSpan(0, length == 0 ? 0 : (int)row.GetBytes(column, 0, buffer, 0, length));
    }
}
