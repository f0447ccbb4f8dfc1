namespace Cursus.Core.Links;

/// <summary>What the edge does with a visitor of a link that has pixels.</summary>
public enum HandoffCourse
{
    /// <summary>A plain redirect, and nothing is counted of pixels: nobody is there who could be remembered.</summary>
    Redirect,

    /// <summary>The handoff page fires the pixels and goes on.</summary>
    Fire,

    /// <summary>The handoff page asks first.</summary>
    Ask,

    /// <summary>A plain redirect; the visitor said no before.</summary>
    Declined,

    /// <summary>A plain redirect; the visitor's browser says no.</summary>
    OptedOut,
}
