namespace Cursus.Web.Retargeting;

/// <summary>What pixels did when links were visited.</summary>
/// <param name="Fired">The network answered in time.</param>
/// <param name="Missed">The network didn't answer before the deadline.</param>
/// <param name="Declined">The visitor said no.</param>
/// <param name="OptedOut">The visitor's browser asks all sites not to track (Global Privacy Control).</param>
public sealed record OutcomeCount(long Fired, long Missed, long Declined, long OptedOut);
