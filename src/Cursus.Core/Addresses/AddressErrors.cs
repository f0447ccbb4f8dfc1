namespace Cursus.Core.Addresses;

/// <summary>What can be wrong with a pasted address, each with the next step.</summary>
public static class AddressErrors
{
    public static readonly ValidationError Missing = new("destination-missing", "Paste the address of the page to link to.");

    public static readonly ValidationError TooLong = new(
        "destination-too-long",
        $"This address has more than {Destination.MaxLength:N0} characters. Browsers and e-mail programs cut off such addresses. Use a shorter one."
    );

    public static readonly ValidationError NotAnAddress = new(
        "destination-not-an-address",
        "This is not a web address. It should look like www.example.org/page."
    );

    public static readonly ValidationError NoHost = new(
        "destination-no-host",
        "This address has no valid host name. Check the part before the first slash."
    );

    public static readonly ValidationError Port = new(
        "destination-port",
        "The port in this address is not a number from 0 to 65535. Correct it or remove it."
    );

    public static readonly ValidationError Credentials = new(
        "destination-credentials",
        "This address contains a user name or password before the @, which every visitor would see. Remove that part."
    );

    public static ValidationError OtherScheme(string scheme) =>
        new(
            "destination-scheme",
            $"Links can only go to http and https pages, but this address starts with “{scheme}:”. Paste the page’s web address."
        );

    public static ValidationError LeadsBack(string host) =>
        new(
            "destination-loop",
            $"This address is on your own short domain {host}, so visitors would be redirected in a loop. Paste the page’s own address."
        );

    public static ValidationError LeadsBackOnTheWay(string host) =>
        new(
            "destination-loop",
            $"This page redirects to your own short domain {host}, so visitors may be redirected in a loop. Paste the address of the final page."
        );

    public static ValidationError Private(string host) =>
        new("destination-private", $"{host} is on a private network, which visitors elsewhere can’t reach. Paste the page’s public address.");
}
