using System.Diagnostics.CodeAnalysis;

namespace Cursus.Core.Links;

/// <summary>Changes a part of many destinations at once, such as a host that has moved.</summary>
/// <param name="Find">The part as it is written in the destinations; found without case, since hosts have none.</param>
/// <param name="With">Replacement text; may be empty.</param>
public sealed record FindAndReplace(string Find, string With)
{
    /// <summary>The destination with the part replaced wherever it stands.</summary>
    /// <returns>False where what comes out is no address; what is wrong with it is in <paramref name="error"/>. True without an error also where
    /// nothing was to be replaced.</returns>
    public bool TryApply(string destination, [NotNullWhen(true)] out string? replaced, [NotNullWhen(false)] out ValidationError? error)
    {
        ArgumentNullException.ThrowIfNull(destination);
        (replaced, error) = (destination, null);
        if (Find.Length == 0 || !destination.Contains(Find, StringComparison.OrdinalIgnoreCase))
        {
            return true;
        }

        var text = destination.Replace(Find, With, StringComparison.OrdinalIgnoreCase);
        if (!Addresses.Destination.TryParse(text, out var parsed, out error))
        {
            replaced = null;
            return false;
        }

        replaced = parsed.AsEntered;
        return true;
    }
}
