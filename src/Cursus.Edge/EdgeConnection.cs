using System.Buffers;
using System.IO.Pipelines;
using System.Net;
using Microsoft.AspNetCore.Connections;
using Microsoft.AspNetCore.Connections.Features;
using Microsoft.AspNetCore.Server.Kestrel.Core;
using Microsoft.Extensions.Options;

namespace Cursus.Edge;

/// <summary>
/// Answers the plainest requests, which nearly all visits are, as they come over the connection: before the web server makes anything of them. With
/// the first request that is not of that kind the connection is handed over to the web server for good, and the request is read there from its first
/// byte, so that all that HTTP knows is answered by it.
/// </summary>
/// <param name="edge">Made when the server starts.</param>
internal sealed class EdgeConnection(EdgeHosts hosts, Lazy<EdgeAnswer> edge, DateLine date, IOptions<KestrelServerOptions> options)
{
    /// <summary>Serves a connection until it closes, or until <paramref name="next"/> takes it over.</summary>
    public async Task Serve(ConnectionContext connection, ConnectionDelegate next)
    {
        var watch = new Watch(connection.Transport, options.Value.Limits.KeepAliveTimeout);
        connection.Features.Get<IConnectionHeartbeatFeature>()?.OnHeartbeat(static state => ((Watch)state).LetGoWhenIdle(), watch);
        await using var closing = connection
            .Features.Get<IConnectionLifetimeNotificationFeature>()
            ?.ConnectionClosedRequested.UnsafeRegister(static state => ((Watch)state!).LetGo(), watch)
            ?? default;
        if (await AnswerPlain(connection, watch))
        {
            watch.End();
            await next(connection);
        }
    }

    /// <summary>Answers request by request.</summary>
    /// <returns>True where the next one, or a part of it, is not for this; false where the connection is over.</returns>
    private async Task<bool> AnswerPlain(ConnectionContext connection, Watch watch)
    {
        var (input, output) = (connection.Transport.Input, connection.Transport.Output);
        var visitor = (connection.RemoteEndPoint as IPEndPoint)?.Address;
        try
        {
            while (true)
            {
                var read = await input.ReadAsync();
                watch.Touch();
                var rest = Answer(read.Buffer, visitor, output);
                if (rest.Length < read.Buffer.Length)
                {
                    await edge.Value.WhenSafe();
                    var flushed = await output.FlushAsync();
                    input.AdvanceTo(rest.Start);
                    if (flushed.IsCompleted || flushed.IsCanceled)
                    {
                        return false;
                    }
                }
                else
                {
                    input.AdvanceTo(rest.Start);
                }

                if (!rest.IsEmpty)
                {
                    return true;
                }

                if (read.IsCompleted || read.IsCanceled)
                {
                    return false;
                }
            }
        }
        catch (Exception gone) when (gone is IOException or ConnectionAbortedException)
        {
            // The visitor has gone without waiting for the answer; what was written down before is a click all the same.
            return false;
        }
    }

    /// <summary>Answers the requests in what has come, up to the first that is not for this.</summary>
    /// <returns>What was not answered.</returns>
    private ReadOnlySequence<byte> Answer(ReadOnlySequence<byte> buffer, IPAddress? visitor, PipeWriter output)
    {
        Span<char> chars = stackalloc char[PlainRequest.MostBytes];
        while (!buffer.IsEmpty)
        {
            // A head that comes in one piece lies in one piece, since there is always room for it; the rare other is put together.
            var bytes = buffer.IsSingleSegment ? buffer.FirstSpan : buffer.Slice(0, Math.Min(buffer.Length, PlainRequest.MostBytes)).ToArray();
            if (
                !PlainRequest.TryRead(bytes, chars, out var request, out var length)
                || EdgeHosts.Name(request.Host) is var host
                    && (
                        hosts.IsOfApplication(host)
                        || !edge.Value.TryLead(host, request.Path, request.Query, request.Headers, visitor, out var redirect)
                    )
            )
            {
                break;
            }

            redirect.Write(output, date.Bytes);
            buffer = buffer.Slice(length);
        }

        return buffer;
    }

    /// <summary>Lets go of a connection over which nothing has come, or can be sent, for as long as the web server keeps it open.</summary>
    private sealed class Watch(IDuplexPipe transport, TimeSpan patience)
    {
        private long last = Environment.TickCount64;
        private volatile bool isOver;

        /// <summary>From now on the web server watches it.</summary>
        public void End() => isOver = true;

        public void Touch() => Volatile.Write(ref last, Environment.TickCount64);

        public void LetGoWhenIdle()
        {
            if (Environment.TickCount64 - Volatile.Read(ref last) > patience.TotalMilliseconds)
            {
                LetGo();
            }
        }

        public void LetGo()
        {
            if (!isOver)
            {
                transport.Input.CancelPendingRead();
                transport.Output.CancelPendingFlush();
            }
        }
    }
}
