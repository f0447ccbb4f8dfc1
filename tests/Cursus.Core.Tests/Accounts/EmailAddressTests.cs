using Cursus.Core.Accounts;

namespace Cursus.Core.Tests.Accounts;

/// <summary>Addresses as a field of type e-mail takes them (WHATWG HTML Standard, “valid e-mail address”), in the manner of web-platform-tests'
/// <c>the-input-element/email.html</c>, from memory; and the lengths of RFC 5321.</summary>
public class EmailAddressTests
{
    [Theory]
    [InlineData("ines@harbour.example")]
    [InlineData("  ines@harbour.example ")]
    [InlineData("o'neill+links@sub.harbour.example")]
    [InlineData("a@localhost")]
    [InlineData("user.name!#$%&'*+/=?^_`{|}~-@x-1.example")]
    public void Addresses_are_taken(string typed)
    {
        EmailAddress.TryRead(typed, out var address).ShouldBeTrue();
        address.ShouldBe(typed.Trim());
    }

    [Theory]
    [InlineData("")]
    [InlineData(null)]
    [InlineData("harbour.example")]
    [InlineData("ines@")]
    [InlineData("@harbour.example")]
    [InlineData("ines@@harbour.example")]
    [InlineData("ines @harbour.example")]
    [InlineData("ines@harbour..example")]
    [InlineData("ines@-harbour.example")]
    [InlineData("ines@harbour.example-")]
    [InlineData("ines@harbour.example\nbcc: all@harbour.example")]
    [InlineData("Ines <ines@harbour.example>")]
    public void Everything_else_is_not(string? typed)
    {
        EmailAddress.TryRead(typed, out _).ShouldBeFalse();
        EmailAddress.Error(typed).Text.ShouldNotBeEmpty();
    }

    [Fact]
    public void An_address_has_at_most_254_characters()
    {
        var domain = string.Join('.', Enumerable.Repeat(new string('a', 61), 3));
        EmailAddress.TryRead($"{new string('i', 254 - domain.Length - 1)}@{domain}", out _).ShouldBeTrue();
        EmailAddress.TryRead($"{new string('i', 255 - domain.Length - 1)}@{domain}", out _).ShouldBeFalse();
    }
}
