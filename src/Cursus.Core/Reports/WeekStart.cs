using NodaTime;

namespace Cursus.Core.Reports;

/// <summary>The days on which a week begins somewhere in the world (Unicode CLDR, weekData); each has its ISO number.</summary>
public enum WeekStart : short
{
    Monday = IsoDayOfWeek.Monday,
    Saturday = IsoDayOfWeek.Saturday,
    Sunday = IsoDayOfWeek.Sunday,
}
