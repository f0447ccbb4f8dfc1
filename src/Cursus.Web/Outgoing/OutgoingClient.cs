using System.Diagnostics;
using System.Net;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Authentication;
using System.Security.Cryptography.X509Certificates;
using Cursus.Core;
using Cursus.Core.Addresses.Urls;
using Cursus.Web.Hosting;

namespace Cursus.Web.Outgoing;

/// <summary>A page as it was got.</summary>
/// <param name="Way">Every address that was asked, the first and the last included.</param>
/// <param name="Body">At most <see cref="OutgoingClient.MaxBytes"/>; empty where the media type was not wanted.</param>
public sealed record FetchedPage(IReadOnlyList<WebAddress> Way, int Status, string MediaType, byte[] Body, TimeSpan Took)
{
    /// <summary>Whether all redirects on the way are for good (RFC 9110, sections 15.4.2 and 15.4.9); false where there are none.</summary>
    public bool IsMovedForGood { get; init; }

    /// <summary>What a later answer is compared by: its entity tag, else when it was changed last (RFC 9110, section 8.8).</summary>
    public string? Validator { get; init; }

    /// <summary>How long the server asks to be left alone (RFC 9110, section 10.2.3).</summary>
    public TimeSpan? RetryAfter { get; init; }
}

/// <summary>How a page is asked for.</summary>
/// <param name="UserAgent">Says who asks and why (RFC 9110, section 10.1.5).</param>
/// <param name="Patience">All of it, redirects included, has to happen within this time.</param>
/// <param name="IsHeadOnly">Whether to ask about the page without getting it.</param>
/// <param name="MayAsk">Looked at before each address on the way; null where nothing speaks against asking.</param>
public sealed record Asking(
    string UserAgent,
    TimeSpan Patience,
    bool IsHeadOnly = false,
    Func<WebAddress, CancellationToken, Task<ValidationError?>>? MayAsk = null
);

/// <summary>Why a page could not be got, in words for the person who wants it.</summary>
public sealed class PageNotFetchedException(ValidationError error) : Exception(error.Text)
{
    public ValidationError Error { get; } = error;
}

/// <summary>
/// The one way in which Cursus asks other servers for pages. Names are resolved here and connections made to the very addresses that were checked,
/// so that a name can't change its meaning between check and use; the same holds for each redirect. Private networks are refused unless allowed.
/// </summary>
public sealed class OutgoingClient : IDisposable
{
    public const int MaxRedirects = 5;
    public const int MaxBytes = 1024 * 1024;

    /// <summary>For somebody who waits in front of the screen.</summary>
    public static readonly Asking ForAPerson = new("Cursus/1.0 (link preview; asked for by a person)", TimeSpan.FromSeconds(5));

    private readonly NameLookup names;
    private readonly IReadOnlyList<string> allowed;
    private readonly HttpClient http;

    public OutgoingClient(NameLookup names, CursusOptions options)
    {
        ArgumentNullException.ThrowIfNull(options);
        this.names = names;
        allowed = [.. options.AllowedPrivateHosts];
        http = new HttpClient(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseCookies = false,
                UseProxy = false,
                AutomaticDecompression = DecompressionMethods.All,
                PooledConnectionLifetime = TimeSpan.Zero,
                MaxResponseHeadersLength = 32,
                ConnectCallback = async (context, cancel) => await Connect(context.DnsEndPoint, cancel),
            }
        )
        {
            Timeout = Timeout.InfiniteTimeSpan,
        };
    }

    /// <summary>Gets a page for a person, following redirects.</summary>
    /// <param name="mediaType">Only such a body is read, such as <c>text/html</c>.</param>
    /// <param name="isOwn">Hosts that are not asked: a redirect to one of them ends the way there.</param>
    /// <exception cref="PageNotFetchedException">It does not answer, in time or at all, or must not be asked.</exception>
    public Task<FetchedPage> Get(WebAddress address, string mediaType, CancellationToken cancel, Func<string, bool>? isOwn = null) =>
        Get(address, mediaType, ForAPerson, cancel, isOwn);

    /// <inheritdoc cref="Get(WebAddress, string, CancellationToken, Func{string, bool}?)"/>
    public async Task<FetchedPage> Get(
        WebAddress address,
        string mediaType,
        Asking asking,
        CancellationToken cancel,
        Func<string, bool>? isOwn = null
    )
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(asking.Patience);
        var watch = Stopwatch.StartNew();
        var way = new List<WebAddress> { address };
        var isForGood = true;
        try
        {
            while (true)
            {
                if (asking.MayAsk is not null && await asking.MayAsk(way[^1], patience.Token) is { } reason)
                {
                    throw new PageNotFetchedException(reason);
                }

                using var response = await Ask(way[^1], mediaType, asking, patience.Token);
                if (response.Headers.Location is null || (int)response.StatusCode is not (301 or 302 or 303 or 307 or 308))
                {
                    var type = response.Content.Headers.ContentType?.MediaType ?? "";
                    var isWanted = !asking.IsHeadOnly && type.Equals(mediaType, StringComparison.OrdinalIgnoreCase);
                    return new FetchedPage(way, (int)response.StatusCode, type, isWanted ? await Read(response, patience.Token) : [], watch.Elapsed)
                    {
                        IsMovedForGood = way.Count > 1 && isForGood,
                        Validator = response.Headers.ETag?.ToString() ?? response.Content.Headers.LastModified?.ToString("R"),
                        RetryAfter = response.Headers.RetryAfter is { } wait ? wait.Delta ?? wait.Date - DateTimeOffset.UtcNow : null,
                    };
                }

                isForGood &= (int)response.StatusCode is 301 or 308;

                if (way.Count > MaxRedirects)
                {
                    throw new PageNotFetchedException(OutgoingErrors.TooManyRedirects);
                }

                way.Add(
                    WebAddress.Parse(response.Headers.Location.OriginalString, way[^1], out var error) ?? throw new PageNotFetchedException(error!)
                );
                if (isOwn?.Invoke(way[^1].Host) == true)
                {
                    return new FetchedPage(way, (int)response.StatusCode, "", [], watch.Elapsed);
                }
            }
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new PageNotFetchedException(OutgoingErrors.TooSlow);
        }
        catch (HttpRequestException e)
        {
            throw NotFetched(e, way[^1].Host);
        }
        catch (IOException)
        {
            throw new PageNotFetchedException(OutgoingErrors.Silent(way[^1].Host));
        }
    }

    /// <summary>Sends another program something, and returns the status of its answer. Redirects are not followed: what is sent is for this address
    /// alone.</summary>
    /// <exception cref="PageNotFetchedException">It does not answer, in time or at all, or must not be asked.</exception>
    public async Task<int> Post(WebAddress address, HttpContent content, string userAgent, TimeSpan within, CancellationToken cancel)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(within);
        using var request = new HttpRequestMessage(HttpMethod.Post, Allowed(address)) { Content = content };
        request.Headers.TryAddWithoutValidation("User-Agent", userAgent);
        try
        {
            using var response = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, patience.Token);
            return (int)response.StatusCode;
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new PageNotFetchedException(OutgoingErrors.TooSlow);
        }
        catch (HttpRequestException e)
        {
            throw NotFetched(e, address.Host);
        }
    }

    public void Dispose() => http.Dispose();

    /// <summary>When the certificate ends that a host shows to visitors, whether they trust it or not; null where none is shown.</summary>
    public async Task<DateTimeOffset?> CertificateEnd(string host, int port, CancellationToken cancel)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patience.CancelAfter(ForAPerson.Patience);
        DateTimeOffset? end = null;
        try
        {
            await using var stream = new SslStream(await Connect(new DnsEndPoint(host, port), patience.Token), leaveInnerStreamOpen: false);
            await stream.AuthenticateAsClientAsync(
                new SslClientAuthenticationOptions
                {
                    TargetHost = host,
                    RemoteCertificateValidationCallback = (_, certificate, _, errors) =>
                    {
                        end = certificate is X509Certificate2 shown ? shown.NotAfter : null;
                        return errors == SslPolicyErrors.None;
                    },
                },
                patience.Token
            );
        }
        catch (Exception e)
            when (e is PageNotFetchedException or SocketException or IOException or AuthenticationException or OperationCanceledException
                && !cancel.IsCancellationRequested
            )
        {
            // One that isn't trusted was seen all the same; whoever doesn't answer shows none.
        }

        return end;
    }

    private static PageNotFetchedException NotFetched(HttpRequestException e, string host) =>
        new(
            (e.InnerException as PageNotFetchedException)?.Error
                ?? (e.HttpRequestError == HttpRequestError.SecureConnectionError ? OutgoingErrors.Insecure(host) : OutgoingErrors.Silent(host))
        );

    /// <summary>The address as it is asked, where it may be.</summary>
    private Uri Allowed(WebAddress address)
    {
        if (PrivateNetwork.IsPrivate(address.Host) && !PrivateNetwork.IsAllowed(address.Host, allowed))
        {
            throw new PageNotFetchedException(OutgoingErrors.Private(address.Host));
        }

        if (!Uri.TryCreate((address with { Fragment = null }).ToString(), UriKind.Absolute, out var uri))
        {
            throw new PageNotFetchedException(OutgoingErrors.Silent(address.Host));
        }

        return uri;
    }

    private Task<HttpResponseMessage> Ask(WebAddress address, string mediaType, Asking asking, CancellationToken cancel)
    {
        var request = new HttpRequestMessage(asking.IsHeadOnly ? HttpMethod.Head : HttpMethod.Get, Allowed(address));
        request.Headers.TryAddWithoutValidation("User-Agent", asking.UserAgent);
        request.Headers.TryAddWithoutValidation("Accept", mediaType + ", */*;q=0.1");
        return http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancel);
    }

    private async Task<Stream> Connect(DnsEndPoint end, CancellationToken cancel)
    {
        var isAllowed = PrivateNetwork.IsAllowed(end.Host, allowed);
        var addresses = await names.Addresses(end.Host, cancel);
        if (addresses.Count == 0)
        {
            throw new PageNotFetchedException(OutgoingErrors.Unknown(end.Host));
        }

        if (!isAllowed && addresses.Any(PrivateNetwork.Covers))
        {
            throw new PageNotFetchedException(OutgoingErrors.Private(end.Host));
        }

        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            await socket.ConnectAsync([.. addresses], end.Port, cancel);
            return new NetworkStream(socket, ownsSocket: true);
        }
        catch
        {
            socket.Dispose();
            throw;
        }
    }

    private static async Task<byte[]> Read(HttpResponseMessage response, CancellationToken cancel)
    {
        await using var stream = await response.Content.ReadAsStreamAsync(cancel);
        using var body = new MemoryStream();
        var buffer = new byte[16 * 1024];
        int read;
        while (
            body.Length < MaxBytes
            && (read = await stream.ReadAsync(buffer.AsMemory(0, (int)Math.Min(buffer.Length, MaxBytes - body.Length)), cancel)) > 0
        )
        {
            body.Write(buffer, 0, read);
        }

        return body.ToArray();
    }
}
