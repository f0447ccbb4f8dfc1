using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using ARSoft.Tools.Net;
using ARSoft.Tools.Net.Dns;

namespace Cursus.Web.Tests.Support;

/// <summary>A real DNS server for tests on a port of its own. Records are added as a test needs them, under names of its own.</summary>
public sealed class TestNames : IDisposable
{
    private readonly ConcurrentDictionary<string, Func<IEnumerable<DnsRecordBase>>> records = new(StringComparer.OrdinalIgnoreCase);
    private readonly DnsServer server;

    public TestNames()
    {
        using (var probe = new Socket(SocketType.Dgram, ProtocolType.Udp))
        {
            probe.Bind(new IPEndPoint(IPAddress.Loopback, 0));
            Port = ((IPEndPoint)probe.LocalEndPoint!).Port;
        }

        server = new DnsServer(new UdpServerTransport(new IPEndPoint(IPAddress.Loopback, Port)));
        server.QueryReceived += (_, arrived) =>
        {
            if (arrived.Query is DnsMessage query)
            {
                var response = query.CreateResponseInstance();
                var question = query.Questions[0];
                var found = records.TryGetValue(question.Name.ToString().TrimEnd('.'), out var at) ? at().ToList() : null;
                response.ReturnCode = found is null ? ReturnCode.NxDomain : ReturnCode.NoError;
                response.AnswerRecords.AddRange((found ?? []).Where(r => r.RecordType == question.RecordType));
                arrived.Response = response;
            }

            return Task.CompletedTask;
        };
        server.Start();
    }

    public int Port { get; }

    /// <summary>Sets all records of a name: <c>A 192.0.2.1</c>, <c>AAAA ::1</c>, <c>CNAME host</c>, <c>TXT text</c>.</summary>
    public void Set(string name, params string[] lines) => Set(name, () => lines);

    /// <summary>Sets what a name answers each time it is asked.</summary>
    public void Set(string name, Func<IEnumerable<string>> lines) =>
        records[name] = () => lines().Select(line => Record(DomainName.Parse(name), line));

    public void Dispose() => server.Stop();

    private static DnsRecordBase Record(DomainName name, string line)
    {
        var (type, value) = (line[..line.IndexOf(' ', StringComparison.Ordinal)], line[(line.IndexOf(' ', StringComparison.Ordinal) + 1)..]);
        return type switch
        {
            "A" => new ARecord(name, 0, IPAddress.Parse(value)),
            "AAAA" => new AaaaRecord(name, 0, IPAddress.Parse(value)),
            "CNAME" => new CNameRecord(name, 0, DomainName.Parse(value)),
            _ => new TxtRecord(name, 0, value),
        };
    }
}
