using System.Globalization;
using System.Threading.RateLimiting;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;

namespace Cursus.Web.Access;

/// <summary>What is held for as long as it is answered: a live view, or a file that is written while it is being sent.</summary>
public enum Held
{
    Stream,
    Download,
}

/// <summary>Bounds what members ask for: how many requests each makes, how many live views an account watches, how many long files a workspace is
/// sent at once. Whoever asks for more is told when to ask again; see <see cref="LimitOptions"/>.</summary>
internal sealed class MemberLimits(CursusOptions options) : IDisposable
{
    private readonly PartitionedRateLimiter<CurrentMember> requests = PartitionedRateLimiter.Create<CurrentMember, Guid>(member =>
        RateLimitPartition.GetTokenBucketLimiter(member.AskedBy, _ => new()
            {
                TokenLimit = options.Limits.RequestsAtOnce,
                TokensPerPeriod = options.Limits.RequestsEachSecond,
                ReplenishmentPeriod = TimeSpan.FromSeconds(1),
            })
    );

    private readonly PartitionedRateLimiter<CurrentMember> streams = AtOnce(
        m => m.Account.Id,
        options.Limits.StreamsOfAccount,
        options.Limits.Streams
    );
    private readonly PartitionedRateLimiter<CurrentMember> downloads = AtOnce(
        m => m.WorkspaceId,
        options.Limits.DownloadsOfWorkspace,
        options.Limits.Downloads
    );

    public void Dispose()
    {
        requests.Dispose();
        streams.Dispose();
        downloads.Dispose();
    }

    public async Task Pass(HttpContext context, RequestDelegate next)
    {
        if (!context.IsForMembers())
        {
            await next(context);
            return;
        }

        var member = context.RequestServices.GetRequiredService<CurrentMember>();
        using var request = requests.AttemptAcquire(member);
        Tell(context, member);
        if (!request.IsAcquired)
        {
            var seconds = request.TryGetMetadata(MetadataName.RetryAfter, out var after) ? (int)Math.Ceiling(after.TotalSeconds) : 1;
            await Refuse(
                context,
                Math.Max(1, seconds),
                "too-many-requests",
                $"Too many requests: {options.Limits.RequestsAtOnce:N0} at once are allowed, then {options.Limits.RequestsEachSecond} a second. Slow down, then try again."
            );
            return;
        }

        using var held = context.GetEndpoint()!.Metadata.GetMetadata<HeldMark>()?.Held switch
        {
            Held.Stream => streams.AttemptAcquire(member),
            Held.Download => downloads.AttemptAcquire(member),
            _ => null,
        };
        if (held is { IsAcquired: false })
        {
            await Refuse(
                context,
                30,
                "too-many-at-once",
                "Too many live views or downloads are open at once. Close some, or wait for them to finish."
            );
            return;
        }

        await next(context);
    }

    /// <summary>How many requests are left, in the words of the IETF's draft “RateLimit header fields for HTTP”
    /// (draft-ietf-httpapi-ratelimit-headers-10): the quota and the seconds in which it fills, what is left, and when it is full again.</summary>
    private void Tell(HttpContext context, CurrentMember member)
    {
        var (most, each) = (options.Limits.RequestsAtOnce, options.Limits.RequestsEachSecond);
        var left = requests.GetStatistics(member)?.CurrentAvailablePermits ?? most;
        var headers = context.Response.Headers;
        headers["RateLimit-Policy"] = string.Create(CultureInfo.InvariantCulture, $"\"requests\";q={most};w={Math.Max(1, most / each)}");
        headers["RateLimit"] = string.Create(
            CultureInfo.InvariantCulture,
            $"\"requests\";r={left};t={(int)Math.Ceiling((most - left) / (double)each)}"
        );
    }

    private static Task Refuse(HttpContext context, int seconds, string code, string text)
    {
        context.Response.Headers.RetryAfter = seconds.ToString(CultureInfo.InvariantCulture);
        return ApiProblem.Of(StatusCodes.Status429TooManyRequests, code, text).ExecuteAsync(context);
    }

    private static PartitionedRateLimiter<CurrentMember> AtOnce(Func<CurrentMember, Guid> owner, int each, int all) =>
        PartitionedRateLimiter.CreateChained(
            PartitionedRateLimiter.Create<CurrentMember, Guid>(member =>
                RateLimitPartition.GetConcurrencyLimiter(owner(member), _ => new() { PermitLimit = each })
            ),
            PartitionedRateLimiter.Create<CurrentMember, string>(_ =>
                RateLimitPartition.GetConcurrencyLimiter("all", _ => new() { PermitLimit = all })
            )
        );
}

/// <summary>Marks an endpoint whose answers are held open.</summary>
internal sealed record HeldMark(Held Held);

/// <summary>How endpoints say that their answers are held open, and the application that it minds them.</summary>
internal static class MemberLimitsSetup
{
    public static TBuilder Holding<TBuilder>(this TBuilder endpoint, Held held)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new HeldMark(held));

    public static void UseMemberLimits(this IApplicationBuilder app)
    {
        var limits = app.ApplicationServices.GetRequiredService<MemberLimits>();
        app.Use((HttpContext context, RequestDelegate next) => limits.Pass(context, next));
    }
}
