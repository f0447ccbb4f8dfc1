using System.Security.Cryptography;
using System.Text;
using Cursus.Web.Hosting;

namespace Cursus.Web.Access;

/// <summary>What the first owner must show: only who runs the installation knows it, so that whoever comes first to a public address isn't its owner.
/// Set in the configuration, else drawn at the start and told in the log.</summary>
internal sealed class SetupCode(CursusOptions options)
{
    private const string Letters = "abcdefghjkmnpqrstuvwxyz23456789";
    private const int Length = 12;

    /// <summary>As it is told to people.</summary>
    public string Text { get; } = options.SetupCode is { Length: > 0 } set ? set : RandomNumberGenerator.GetString(Letters, Length);

    public bool IsDrawn => options.SetupCode is null or "";

    public bool Is(string? typed) => CryptographicOperations.FixedTimeEquals(Plain(typed ?? ""), Plain(Text));

    /// <summary>People leave hyphens and spaces out, or put some in.</summary>
    private static byte[] Plain(string text) => Encoding.UTF8.GetBytes([.. text.Where(char.IsLetterOrDigit).Select(char.ToLowerInvariant)]);
}
