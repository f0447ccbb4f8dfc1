using System.Collections.Frozen;
using Cursus.Core.Addresses;

namespace Cursus.Core.Accounts;

/// <summary>
/// Which passwords may be chosen: long ones that others don't use, made of whatever characters a person likes. As NIST SP 800-63B-4, section 3.1.1.2,
/// asks: the whole password is compared with a list of common ones and with what everybody knows about the person, and there are no rules on
/// composition and no expiry. Its minimum of 15 characters for accounts without a second factor is not asked for: wrong ones are slowed down.
/// </summary>
public static class PasswordRule
{
    /// <summary>Fewest characters, as Unicode counts them.</summary>
    public const int MinLength = 10;

    /// <summary>Most characters; the standard wants at least 64 to be allowed.</summary>
    public const int MaxLength = 128;

    private const int FewestDifferent = 3;

    private static readonly FrozenSet<string> Common = WordList.Read("common-passwords.txt").ToFrozenSet(StringComparer.OrdinalIgnoreCase);

    /// <summary>What is wrong with a password; null where it may be chosen.</summary>
    /// <param name="known">What others know about the person, such as their e-mail address and their organisation's name.</param>
    public static ValidationError? Check(string password, params IEnumerable<string?> known)
    {
        ArgumentNullException.ThrowIfNull(password);
        var length = password.EnumerateRunes().Count();
        return length < MinLength ? new("password-short", $"Use at least {MinLength} characters. A few words in a row are easy to remember.")
            : length > MaxLength ? new("password-long", $"Use at most {MaxLength} characters.")
            : Common.Contains(password) || password.EnumerateRunes().Distinct().Count() < FewestDifferent
                ? new("password-common", "Many people use this password, so it is tried first by anyone who guesses. Choose another one.")
            : known.OfType<string>().SelectMany(Forms).Contains(Plain(password), StringComparer.Ordinal)
                ? new("password-personal", "This password is made of your own name or address, or your organisation’s. Choose another one.")
            : null;
    }

    /// <summary>A name or address as people would type it for a password: whole, the part before the @, and with digits or signs left off the
    /// end.</summary>
    private static IEnumerable<string> Forms(string known) => new[] { Plain(known), Plain(known.Split('@')[0]) }.Where(form => form.Length > 0);

    private static string Plain(string text) =>
        new string([.. text.Where(char.IsLetterOrDigit).Select(char.ToLowerInvariant)]).TrimEnd('0', '1', '2', '3', '4', '5', '6', '7', '8', '9');
}
