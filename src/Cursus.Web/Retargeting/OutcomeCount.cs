namespace Cursus.Web.Retargeting;

/// <summary>What became of pixels at visits.</summary>
/// <param name="Fired">The network answered in time.</param>
/// <param name="Missed">The network was asked and did not answer before the deadline.</param>
/// <param name="Declined">The visitor said no.</param>
/// <param name="OptedOut">The visitor's browser says no everywhere.</param>
public sealed record OutcomeCount(long Fired, long Missed, long Declined, long OptedOut);
