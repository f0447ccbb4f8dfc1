using System.Diagnostics;
using Cursus.Core.Addresses.Urls;
using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Outgoing;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Retargeting;

/// <summary>POST /pixels/{id}/test: asks the network once, as a browser would, and shows what was sent and what came back. Nothing is
/// counted.</summary>
public static class TestFire
{
    /// <param name="Sent">The address requested.</param>
    /// <param name="Status">The response; null if there was none.</param>
    /// <param name="MediaType">Its media type.</param>
    /// <param name="Milliseconds">How long it took.</param>
    /// <param name="Verdict">What that means, in a sentence.</param>
    /// <param name="IsGood">Whether the network accepted it.</param>
    public sealed record Response(string Sent, int? Status, string? MediaType, long Milliseconds, string Verdict, bool IsGood);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapPost("/pixels/{id:guid}/test", Handle).ForEditors().WithSummary("Test-fire a pixel once and show the response");

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        Guid id,
        CurrentMember member,
        CursusDb db,
        OutgoingClient client,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await KnownNetworks.FindPixel(id, member, db, cancel) is not var (pixel, network))
        {
            return ApiProblem.NotFound("pixel");
        }

        var template = network.AddressOf(pixel.Reference);
        var values = new PixelValues(
            pixel.Reference,
            network.Event,
            "https://short.example/test",
            "https://www.example/",
            "test",
            "test",
            "test",
            Random.Shared.NextInt64().ToString("x", System.Globalization.CultureInfo.InvariantCulture),
            clock.GetCurrentInstant().ToUnixTimeMilliseconds()
        );
        var sent = PixelTemplate.TryParseAddress(template, out var address, out _) ? address.FillAddress(values) : template;
        var watch = Stopwatch.StartNew();
        try
        {
            var answer = await client.Get(
                WebAddress.Parse(sent, null, out var error) ?? throw new PageNotFetchedException(error!),
                network.Fires.RunsScript ? "text/javascript" : "image/gif",
                cancel
            );
            return TypedResults.Ok(Judge(sent, answer, network));
        }
        catch (PageNotFetchedException e)
        {
            return TypedResults.Ok(
                new Response(sent, null, null, watch.ElapsedMilliseconds, $"{network.Name} didn’t respond: {e.Error.Text}", IsGood: false)
            );
        }
    }

    private static Response Judge(string sent, FetchedPage answer, AdNetwork network)
    {
        var (isOk, isScript, type) = (answer.Status is >= 200 and < 300, network.Fires.RunsScript, answer.MediaType);
        var isOfKind = isScript
            ? type.Contains("javascript", StringComparison.OrdinalIgnoreCase)
            : answer.Status == 204 || type.StartsWith("image/", StringComparison.OrdinalIgnoreCase);
        var verdict =
            !isOk ? $"{network.Name} answered {answer.Status}, so it doesn’t accept this pixel. Check the ID against the network."
            : !isOfKind
                ? $"{network.Name} answered, but with {(type.Length == 0 ? "nothing of a known type" : type)} where {(isScript ? "a script" : "a picture")} is expected. Check the address."
            : isScript ? $"{network.Name} serves its script. Open a link with this pixel in a browser to see whether it accepts the ID."
            : $"{network.Name} accepted it.";
        return new Response(sent, answer.Status, type, (long)answer.Took.TotalMilliseconds, verdict, isOk && isOfKind);
    }
}
