using System.ComponentModel.DataAnnotations;
using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Cursus.Web.Addresses;

/// <summary>POST /destinations/clean: the address in a pasted text. Only for pasting: links are saved with the destination that they are
/// given.</summary>
public static class CleanDestination
{
    /// <summary>The longest text that is looked at, in characters.</summary>
    public const int MaxLength = 2 * Destination.MaxLength;

    /// <param name="Text">What was pasted.</param>
    public sealed record Request([property: MaxLength(MaxLength)] string? Text);

    /// <param name="Address">The address in it; the text itself if it is already a valid address.</param>
    /// <param name="IsChanged">Whether that differs from the text with its surrounding space removed.</param>
    public sealed record Response(string Address, bool IsChanged);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapPost("/destinations/clean", Handle).ForEditors().MakingLinks().WithSummary("The address in a pasted text");

    private static Results<Ok<Response>, ProblemHttpResult> Handle(Request request)
    {
        var text = request.Text ?? "";
        if (text.Length > MaxLength)
        {
            return ApiProblem.Invalid(
                "text",
                new ValidationError("text-too-long", $"A pasted text can have at most {MaxLength:N0} characters. Paste only the address.")
            );
        }

        var address = PastedAddress.Clean(text);
        return TypedResults.Ok(new Response(address, address != text.Trim()));
    }
}
