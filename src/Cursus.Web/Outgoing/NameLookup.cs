using System.Net;
using System.Net.Sockets;
using Cursus.Core.Addresses;
using Cursus.Web.Hosting;
using DnsClient;
using DnsClient.Protocol;

namespace Cursus.Web.Outgoing;

/// <summary>Asks DNS: the name server of the configuration, else the system's.</summary>
public sealed class NameLookup(CursusOptions options)
{
    private readonly Lazy<LookupClient> client = new(() => new LookupClient(Settings(options)));

    /// <summary>The addresses of a host, to connect to. Empty where the name has none or nobody answers.</summary>
    public async Task<IReadOnlyList<IPAddress>> Addresses(string host, CancellationToken cancel)
    {
        if (IPAddress.TryParse(host.Trim('[', ']'), out var literal))
        {
            return [literal];
        }

        // Names under .localhost always mean this machine, whatever a resolver says (RFC 6761, section 6.3).
        if (host == "localhost" || host.EndsWith(".localhost", StringComparison.OrdinalIgnoreCase))
        {
            return [IPAddress.Loopback];
        }

        try
        {
            return options.NameServer is null
                ? await Dns.GetHostAddressesAsync(host, cancel)
                :
                [
                    .. await Ask<ARecord>(host, QueryType.A, a => a.Address, cancel),
                    .. await Ask<AaaaRecord>(host, QueryType.AAAA, a => a.Address, cancel),
                ];
        }
        catch (Exception e) when (e is SocketException or DnsResponseException)
        {
            return [];
        }
    }

    /// <summary>What DNS says about a short domain and its proof.</summary>
    /// <exception cref="DnsResponseException">No name server answered.</exception>
    public async Task<DomainAnswers> About(string domain, CancellationToken cancel)
    {
        var alias = await client.Value.QueryAsync(domain, QueryType.CNAME, cancellationToken: cancel);
        var addresses = await Ask<ARecord>(domain, QueryType.A, a => a.Address, cancel);
        var six = await Ask<AaaaRecord>(domain, QueryType.AAAA, a => a.Address, cancel);
        return new DomainAnswers(
            [.. addresses.Select(a => a.ToString())],
            [.. six.Select(a => a.ToString())],
            alias.Answers.CnameRecords().FirstOrDefault()?.CanonicalName.Value.TrimEnd('.'),
            await Proofs(domain, cancel)
        );
    }

    /// <summary>Texts at the place where a domain's proof of ownership stands.</summary>
    public async Task<IReadOnlyList<string>> Proofs(string domain, CancellationToken cancel)
    {
        var answer = await client.Value.QueryAsync($"{DomainRecords.ProofLabel}.{domain}", QueryType.TXT, cancellationToken: cancel);

        // A long text arrives in pieces that belong together (RFC 7208, section 3.3, says so for TXT records in general use).
        return [.. answer.Answers.TxtRecords().Select(t => string.Concat(t.Text))];
    }

    private async Task<IEnumerable<IPAddress>> Ask<T>(string host, QueryType type, Func<T, IPAddress> address, CancellationToken cancel)
        where T : DnsResourceRecord =>
        (await client.Value.QueryAsync(host, type, cancellationToken: cancel)).Answers.OfType<T>().Select(address).ToList();

    private static LookupClientOptions Settings(CursusOptions options)
    {
        var settings = options.NameServer is { } server
            ? new LookupClientOptions(IPEndPoint.Parse(server.Contains(':', StringComparison.Ordinal) ? server : server + ":53"))
            : new LookupClientOptions();

        // An owner who has just set a record wants to see it now, not when a cache lets go.
        settings.UseCache = false;
        settings.Timeout = TimeSpan.FromSeconds(2);
        settings.Retries = 1;
        settings.ThrowDnsErrors = false;
        return settings;
    }
}
