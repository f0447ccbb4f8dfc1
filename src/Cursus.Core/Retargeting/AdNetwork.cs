using System.Text.Json;
using System.Text.Json.Serialization;

namespace Cursus.Core.Retargeting;

/// <summary>What a pixel of a network is set up with.</summary>
public enum PixelReference
{
    /// <summary>An id that the network gave.</summary>
    Id,

    /// <summary>The whole address that is asked, with macros where wanted.</summary>
    Address,
}

/// <summary>How a browser tells an ad network about a visit.</summary>
public enum PixelKind
{
    /// <summary>It asks for a picture.</summary>
    Image,

    /// <summary>It sends a small message and waits for no answer (W3C Beacon).</summary>
    Beacon,

    /// <summary>It runs the network's script, which is told what to do by calls of one function.</summary>
    Script,

    /// <summary>It runs the network's script, which reads what to do from one list.</summary>
    Container,
}

/// <summary>When a script counts as having reported to its network.</summary>
public enum ScriptAnswer
{
    /// <summary>As soon as a request that it made was answered: the script alone tells nobody anything.</summary>
    Request,

    /// <summary>As soon as it has run.</summary>
    Load,
}

/// <summary>What a visitor is asked to allow.</summary>
public enum ConsentCategory
{
    Advertising,
    Measurement,
}

/// <summary>How a network's pixel is fired: data, not code.</summary>
/// <param name="Address">Template of the address to request; null if the pixel is itself an address.</param>
/// <param name="Queue">Name of the function or list that the script looks for.</param>
/// <param name="Calls">The calls' arguments, or the entries of the list. Macros are filled in within text.</param>
public sealed record PixelFiring(
    PixelKind Kind,
    string? Address = null,
    string? Queue = null,
    IReadOnlyList<JsonElement>? Calls = null,
    ScriptAnswer AnsweredBy = ScriptAnswer.Request
)
{
    /// <summary>Whether a script of the network's own runs; otherwise a browser just asks or sends.</summary>
    [JsonIgnore]
    public bool RunsScript => Kind is PixelKind.Script or PixelKind.Container;
}

/// <summary>What Cursus needs to know about an ad network to recognise and fire its pixels.</summary>
/// <param name="IdPattern">Regular expression for a complete ID; only if <paramref name="Takes"/> is an ID.</param>
/// <param name="IdExample">An ID as the network shows it.</param>
/// <param name="Find">Regular expressions that find the ID in pasted code, as the group <c>id</c>.</param>
/// <param name="Event">The network's name for a visit.</param>
/// <param name="Hosts">Other origins that its script talks to.</param>
/// <param name="SmallestAudience">The network's minimum audience; null if unknown.</param>
public sealed record AdNetwork(
    string Key,
    string Name,
    PixelReference Takes,
    PixelFiring Fires,
    string? IdPattern = null,
    string? IdExample = null,
    IReadOnlyList<string>? Find = null,
    string Event = "visit",
    IReadOnlyList<string>? Hosts = null,
    ConsentCategory Consent = ConsentCategory.Advertising,
    int? SmallestAudience = null
)
{
    /// <summary>Template of the address that is asked for a pixel of this network.</summary>
    /// <param name="reference">The pixel's id, or its address.</param>
    public string AddressOf(string reference) => Takes == PixelReference.Address ? reference : Fires.Address!;
}
