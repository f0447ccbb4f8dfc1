namespace Cursus.Core.Addresses.Slugs;

/// <summary>How slugs are generated.</summary>
public enum SlugKind : short
{
    /// <summary>From title and channel, such as <c>geminids-night-perch</c>.</summary>
    Readable = 0,

    /// <summary>From letters and digits that can't be guessed.</summary>
    Random = 1,
}
