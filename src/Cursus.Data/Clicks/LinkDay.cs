namespace Cursus.Data.Clicks;

/// <summary>
/// Roll-up: what came of one link on one day of the workspace's time zone. Read from <c>days_of_links</c>, which puts days that are sealed
/// (<c>link_days</c>) and days that still may get clicks (<see cref="OpenDay"/>) together. What its clicks tell stands in the open day or in the
/// <see cref="LinkMonth"/>.
/// </summary>
public sealed class LinkDay : DayOfLink;
