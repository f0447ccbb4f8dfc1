using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using System.Text;
using MimeKit;

namespace Cursus.Web.Tests.Support;

/// <summary>A mail server of one test that speaks as much of SMTP (RFC 5321) as a letter takes.</summary>
public sealed class MailServer : IAsyncDisposable
{
    private readonly TcpListener listener = new(IPAddress.Loopback, 0);
    private readonly CancellationTokenSource end = new();
    private readonly Task serving;

    public MailServer()
    {
        listener.Start();
        serving = Serve();
    }

    public int Port => ((IPEndPoint)listener.LocalEndpoint).Port;

    /// <summary>Whether it answers every letter with "try again later".</summary>
    public bool Refuses { get; init; }

    public ConcurrentQueue<MimeMessage> Letters { get; } = new();

    public async ValueTask DisposeAsync()
    {
        await end.CancelAsync();
        listener.Stop();
        await serving;
        end.Dispose();
        listener.Dispose();
    }

    private async Task Serve()
    {
        try
        {
            while (true)
            {
                using var client = await listener.AcceptTcpClientAsync(end.Token);
                await Talk(client.GetStream());
            }
        }
        catch (Exception e) when (e is OperationCanceledException or SocketException or IOException or InvalidOperationException)
        {
            // The test is over, perhaps between two clients, or the client hung up.
        }
    }

    private async Task Talk(NetworkStream stream)
    {
        using var reader = new StreamReader(stream, Encoding.Latin1);
        async Task Say(string answer) => await stream.WriteAsync(Encoding.Latin1.GetBytes(answer + "\r\n"), end.Token);
        await Say("220 test");
        while (await reader.ReadLineAsync(end.Token) is { } line)
        {
            switch (line.Split(' ')[0].ToUpperInvariant())
            {
                case "MAIL" when Refuses:
                    await Say("451 later");
                    break;
                case "DATA":
                    await Say("354 go on");
                    Letters.Enqueue(await Letter(reader));
                    await Say("250 taken");
                    break;
                case "QUIT":
                    await Say("221 bye");
                    return;
                default:
                    await Say("250 ok");
                    break;
            }
        }
    }

    private async Task<MimeMessage> Letter(StreamReader reader)
    {
        var text = new StringBuilder();
        while (await reader.ReadLineAsync(end.Token) is { } line && line != ".")
        {
            text.Append(line.StartsWith('.') ? line[1..] : line).Append("\r\n");
        }

        using var bytes = new MemoryStream(Encoding.Latin1.GetBytes(text.ToString()));
        return await MimeMessage.LoadAsync(bytes, end.Token);
    }
}
