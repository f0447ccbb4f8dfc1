namespace Cursus.Core.Addresses;

/// <summary>What can be wrong with a pasted address, each with the next step.</summary>
public static class AddressFlaws
{
    public static readonly Flaw Missing = new("destination-missing", "Paste the address of the page that the links should lead to.");

    public static readonly Flaw TooLong = new("destination-too-long",
        $"This address has more than {Destination.MaxLength:N0} characters. Browsers and mailers cut such addresses; use a shorter one.");

    public static readonly Flaw NotAnAddress = new("destination-not-an-address",
        "This is not a web address. It should look like www.example.org/page.");

    public static readonly Flaw NoHost = new("destination-no-host",
        "This address has no valid host name. Check the part before the first slash.");

    public static readonly Flaw Port = new("destination-port", "The port in this address is not a number from 0 to 65535. Correct it or leave it out.");

    public static readonly Flaw Credentials = new("destination-credentials",
        "This address carries a user name or password before an @, which every visitor would see. Remove that part.");

    public static Flaw OtherScheme(string scheme) => new("destination-scheme",
        $"Links can lead to http and https pages only; this address starts with “{scheme}:”. Paste the page's web address.");

    public static Flaw LeadsBack(string host) => new("destination-loop",
        $"This address is on your own short domain {host}, so visitors would go round in circles. Paste the page's own address.");

    public static Flaw LeadsBackOnTheWay(string host) => new("destination-loop",
        $"This page sends its visitors on to your own short domain {host}, so they may go round in circles. Paste the address of the page they should end on.");

    public static Flaw Private(string host) => new("destination-private",
        $"{host} is an address inside a private network, which visitors elsewhere can't reach. Paste the page's public address.");
}
