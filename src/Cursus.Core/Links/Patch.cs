namespace Cursus.Core.Links;

/// <summary>What a change says of one thing: nothing, so that it stays as it is, or what it becomes, which may be nothing at all. Nothing said is the
/// default.</summary>
public readonly record struct Patch<T>
{
    private readonly T value;

    internal Patch(T value) => (this.value, IsSaid) = (value, true);

    /// <summary>Whether it says anything.</summary>
    public bool IsSaid { get; }

    /// <summary>What it becomes, from what it was.</summary>
    public T Over(T had) => IsSaid ? value : had;

    /// <summary>It becomes this.</summary>
    public static implicit operator Patch<T>(T value) => new(value);
}

/// <summary>Makes patches where a value can't stand for one by itself: where it is nothing, a list, or said on a condition.</summary>
public static class Patch
{
    /// <summary>It becomes this.</summary>
    public static Patch<T> To<T>(T value) => new(value);

    /// <summary>It becomes this where that is said; else it stays.</summary>
    public static Patch<T> If<T>(bool isSaid, T value) => isSaid ? new(value) : default;
}
