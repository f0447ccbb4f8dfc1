using Cursus.Core.Accounts;

namespace Cursus.Core.Tests.Accounts;

/// <summary>Which passwords may be chosen: NIST SP 800-63B-4, section 3.1.1.2, as far as it is about the password itself.</summary>
public class PasswordRuleTests
{
    [Theory]
    [InlineData("moss on old stones", "words with spaces")]
    [InlineData("correcthorsebatterystaple", "small letters alone: no rules on composition")]
    [InlineData("8406318259", "digits alone, as long as few others use them")]
    [InlineData("Käsebrötchen für alle", "letters of any language")]
    [InlineData("🦉🌾🌊🪵🕯🧭⛵🪶🐚🍂", "each sign counts as one")]
    public void Long_passwords_that_others_do_not_use_may_be_chosen(string password, string why) =>
        PasswordRule.Check(password, "ines@harbour.example", "Ines Calloway", "Harbour Museum").ShouldBeNull(why);

    [Theory]
    [InlineData("ninechars", "password-short")]
    [InlineData("🦉🌾🌊🪵🕯🧭⛵🪶🐚", "password-short")]
    [InlineData("Password123", "password-common")]
    [InlineData("QWERTYUIOP", "password-common")]
    [InlineData("1234567890", "password-common")]
    [InlineData("aaaaaaaaaaaa", "password-common")]
    [InlineData("abababababab", "password-common")]
    [InlineData("ines@harbour.example", "password-personal")]
    [InlineData("InesCalloway", "password-personal")]
    [InlineData("Ines-Calloway-2026", "password-personal")]
    [InlineData("harbourmuseum1", "password-personal")]
    public void Passwords_that_somebody_would_guess_may_not(string password, string code) =>
        PasswordRule.Check(password, "ines@harbour.example", "Ines Calloway", "Harbour Museum")!.Code.ShouldBe(code);

    [Fact]
    public void At_least_64_characters_are_allowed_and_none_is_cut_off()
    {
        PasswordRule.Check(new string([.. Enumerable.Range(0, 64).Select(i => (char)('a' + (i * 7 % 26)))])).ShouldBeNull();
        PasswordRule.MaxLength.ShouldBeGreaterThanOrEqualTo(64);
        PasswordRule.Check(string.Concat(Enumerable.Repeat("abc", 50)))!.Code.ShouldBe("password-long");
    }

    [Fact]
    public void Nobody_is_compared_with_nobody() => PasswordRule.Check("moss on old stones", null, "", " ").ShouldBeNull();
}
