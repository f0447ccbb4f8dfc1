using NodaTime;

namespace Cursus.Web.Tests.Support;

/// <summary>A clock that goes on only when it is told to.</summary>
internal sealed class StoppedClock(Instant now) : IClock
{
    private Instant now = now;

    public Instant GetCurrentInstant() => now;

    public void GoOn(Duration by) => now += by;
}
