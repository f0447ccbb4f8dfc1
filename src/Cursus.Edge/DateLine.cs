using System.Text;
using NodaTime;

namespace Cursus.Edge;

/// <summary>The header Date (RFC 9110, section 6.6.1), made once a second.</summary>
internal sealed class DateLine(IClock clock)
{
    private sealed record Made(long Second, byte[] Bytes);

    private volatile Made made = new(0, []);

    public ReadOnlySpan<byte> Bytes
    {
        get
        {
            var now = clock.GetCurrentInstant();
            var current = made;
            if (current.Second != now.ToUnixTimeSeconds())
            {
                made = current = new(now.ToUnixTimeSeconds(), Encoding.ASCII.GetBytes($"Date: {now.ToDateTimeOffset():R}\r\n"));
            }

            return current.Bytes;
        }
    }
}
