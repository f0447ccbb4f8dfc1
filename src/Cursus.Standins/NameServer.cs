using System.Net;
using ARSoft.Tools.Net;
using ARSoft.Tools.Net.Dns;

namespace Cursus.Standins;

/// <summary>A real DNS server on the loopback address that answers from <see cref="Zones"/>.</summary>
internal sealed class NameServer(Zones zones, int port) : IHostedService, IDisposable
{
    private const int TimeToLive = 5;

    private DnsServer? server;

    public Task StartAsync(CancellationToken cancellationToken)
    {
        var end = new IPEndPoint(IPAddress.Loopback, port);
        server = new DnsServer(new UdpServerTransport(end), new TcpServerTransport(end));
        server.QueryReceived += (_, arrived) =>
        {
            if (arrived.Query is DnsMessage query)
            {
                arrived.Response = Answer(query);
            }

            return Task.CompletedTask;
        };
        server.Start();
        return Task.CompletedTask;
    }

    public Task StopAsync(CancellationToken cancellationToken)
    {
        server?.Stop();
        return Task.CompletedTask;
    }

    public void Dispose() => ((IDisposable?)server)?.Dispose();

    private DnsMessage Answer(DnsMessage query)
    {
        var response = query.CreateResponseInstance();
        foreach (var question in query.Questions)
        {
            var name = question.Name.ToString().TrimEnd('.');
            var here = zones.At(name).ToList();
            response.ReturnCode = here.Count > 0 || Zones.Keeps(name) ? ReturnCode.NoError : ReturnCode.NxDomain;
            response.IsAuthoritiveAnswer = true;
            response.AnswerRecords.AddRange(
                here.Where(r => r.Type.Equals(question.RecordType.ToString(), StringComparison.OrdinalIgnoreCase))
                    .Select(Record)
                    .OfType<DnsRecordBase>()
            );
        }

        return response;
    }

    private static DnsRecordBase? Record(ZoneRecord record)
    {
        var name = DomainName.Parse(record.Name);
        return record.Type switch
        {
            "A" when IPAddress.TryParse(record.Value, out var address) => new ARecord(name, TimeToLive, address),
            "CNAME" => new CNameRecord(name, TimeToLive, DomainName.Parse(record.Value)),
            "TXT" => new TxtRecord(name, TimeToLive, record.Value),
            _ => null,
        };
    }
}
