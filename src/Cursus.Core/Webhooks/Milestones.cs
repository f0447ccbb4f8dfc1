namespace Cursus.Core.Webhooks;

/// <summary>Numbers of clicks by people that are worth telling of.</summary>
public static class Milestones
{
    public static IReadOnlyList<long> All { get; } = [100, 1_000, 10_000, 100_000, 1_000_000];
}
