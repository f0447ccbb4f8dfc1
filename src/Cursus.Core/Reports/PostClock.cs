namespace Cursus.Core.Reports;

/// <summary>
/// The common clock of posts, on which one of yesterday can be set against one of last month. It starts with the hour in which a placement went out:
/// when its link opened where that was set, else the first click on the day of publishing or later (common practice, no source). Its steps are hours
/// for three days, when most happens, then days, up to ninety days.
/// </summary>
public static class PostClock
{
    private const int HourSteps = 72;

    /// <summary>Steps of the whole clock.</summary>
    public const int Steps = HourSteps + 87;

    /// <summary>Hours after which nothing is looked at any more.</summary>
    public static readonly int Hours = HoursAfter(Steps);

    /// <summary>The step that an hour falls into.</summary>
    /// <param name="hour">Whole hours since the start.</param>
    public static int StepOf(int hour) => hour < HourSteps ? hour : HourSteps + (hour - HourSteps) / 24;

    /// <summary>How many hours so many steps take.</summary>
    public static int HoursAfter(int steps) => steps <= HourSteps ? steps : HourSteps + (steps - HourSteps) * 24;
}
