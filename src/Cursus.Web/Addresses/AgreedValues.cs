using System.ComponentModel.DataAnnotations;
using Cursus.Core;
using Cursus.Core.Addresses.Tagging;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Addresses;

/// <summary>/agreed-values: the lists of terms and contents, kept one by one or by CSV.</summary>
public static class AgreedValues
{
    private const int MaxLines = 5000;
    private const int MaxText = MaxLines * (TagValue.MaxLength + 2);

    public sealed record Request(TagField Field, string? Value);

    /// <param name="Text">One value per line; a first line with the field's name is a header.</param>
    public sealed record Lines(TagField Field, [property: MaxLength(MaxText)] string? Text);

    public sealed record Response(Guid Id, TagField Field, string Value);

    /// <param name="Added">Number of values that are new.</param>
    /// <param name="Problems">Lines that were refused.</param>
    public sealed record Taken(int Added, IReadOnlyList<LineProblem> Problems);

    /// <param name="Line">Numbered from 1.</param>
    public sealed record LineProblem(int Line, string Text, string Reason);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/agreed-values", List).ForViewers().WithSummary("Allowed terms and contents");
        api.MapPost("/agreed-values", Add).ForOwners().WithSummary("Allow a term or content");
        api.MapPost("/agreed-values/lines", AddLines)
            .ForOwners()
            .WithSummary("Allow several values, one per line; invalid lines are reported, the rest are added");
        api.MapDelete("/agreed-values/{id:guid}", Remove).ForOwners().WithSummary("Remove a value from its list; links keep it");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            await page.Of(Mine(db, member).OrderBy(v => v.Field).ThenBy(v => v.Value), v => new Response(v.Id, v.Field, v.Value), cancel)
        );

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (CheckField(request.Field) is { } problem)
        {
            return problem;
        }

        if (!TagValue.TryParse(request.Value, out var value, out var error))
        {
            return ApiProblem.Invalid("value", error);
        }

        if (await Mine(db, member).AnyAsync(v => v.Field == request.Field && v.Value == value.Text, cancel))
        {
            return ApiProblem.Conflict("value-taken", $"“{value}” is already on the list.");
        }

        var agreed = new AgreedValue
        {
            WorkspaceId = member.WorkspaceId,
            Field = request.Field,
            Value = value.Text,
        };
        db.Add(agreed);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/agreed-values/{agreed.Id}", new Response(agreed.Id, agreed.Field, agreed.Value));
    }

    private static async Task<Results<Ok<Taken>, ProblemHttpResult>> AddLines(
        Lines request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (CheckField(request.Field) is { } problem)
        {
            return problem;
        }

        var lines = (request.Text ?? "").TrimStart('\ufeff').Split('\n');
        if (lines.Length > MaxLines)
        {
            return ApiProblem.Invalid(
                "text",
                new ValidationError(
                    "too-many-lines",
                    $"You can add at most {MaxLines:N0} lines at once, and these are {lines.Length:N0}. Split the list."
                )
            );
        }

        var known = (await Mine(db, member).Where(v => v.Field == request.Field).Select(v => v.Value).ToListAsync(cancel)).ToDictionary(
            v => v,
            _ => 0
        );
        var problems = new List<LineProblem>();
        var added = 0;
        for (var i = 0; i < lines.Length; i++)
        {
            // A file from a spreadsheet has one column: quotes around it belong to the file, not to the value.
            var text = lines[i].Trim().Trim(';', ',').Trim('"').Trim();
            var isHeader = i == 0 && text.Equals(request.Field.ToString(), StringComparison.OrdinalIgnoreCase);
            if (text.Length == 0 || isHeader)
            {
                continue;
            }

            if (!TagValue.TryParse(text, out var value, out var error))
            {
                problems.Add(new LineProblem(i + 1, text, error.Text));
            }
            else if (!known.TryAdd(value.Text, i + 1))
            {
                problems.Add(
                    new LineProblem(
                        i + 1,
                        text,
                        known[value.Text] is 0 ? "This value is agreed already." : $"Line {known[value.Text]} has the same value."
                    )
                );
            }
            else
            {
                db.Add(
                    new AgreedValue
                    {
                        WorkspaceId = member.WorkspaceId,
                        Field = request.Field,
                        Value = value.Text,
                    }
                );
                added++;
            }
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Taken(added, problems));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(Mine(db, member).Where(v => v.Id == id), "agreed-values", id, v => v.Value, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("agreed value");

    private static ProblemHttpResult? CheckField(TagField field) =>
        field is TagField.Term or TagField.Content
            ? null
            : ApiProblem.Invalid(
                "field",
                new ValidationError(
                    "field",
                    "Lists are kept for term and content. Sources and mediums are agreed by channels, campaigns by themselves."
                )
            );

    private static IQueryable<AgreedValue> Mine(CursusDb db, CurrentMember member) => db.AgreedValues.Where(v => v.WorkspaceId == member.WorkspaceId);
}
