using System.Collections;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Cursus.Core;
using Microsoft.Extensions.Options;

namespace Cursus.Web.Problems;

/// <summary>Looks a request's body through before an endpoint gets it: nothing that must be there is missing, no text or list is longer than
/// <see cref="RequestLimits"/> allow, no text holds a character that the database can't store. So endpoints need to check only what they know
/// better.</summary>
internal sealed class RequestCheck(IOptions<Microsoft.AspNetCore.Http.Json.JsonOptions> json)
{
    private const char Unstorable = '\0';
    private const int MostErrors = 50;

    private static readonly ValidationError Missing = new("missing", "This is required.");
    private static readonly ValidationError NoText = new("text", "This text contains a character that can’t be saved (U+0000). Remove it.");

    private readonly JsonSerializerOptions options = json.Value.SerializerOptions;

    /// <summary>Has each endpoint of the group look at its body first.</summary>
    public static void AddTo(RouteGroupBuilder api) =>
        api.AddEndpointFilterFactory(
            (endpoint, next) =>
            {
                var isService = endpoint.ApplicationServices.GetRequiredService<IServiceProviderIsService>();
                var body = Array.FindIndex(endpoint.MethodInfo.GetParameters(), p =>
                    p.ParameterType.Assembly.GetName().Name?.StartsWith("Cursus", StringComparison.Ordinal) == true
                    && p.ParameterType is { IsValueType: false, IsEnum: false }
                    && !isService.IsService(p.ParameterType)
                    && p.GetCustomAttributes(typeof(AsParametersAttribute), inherit: true).Length == 0
                );
                var check = endpoint.ApplicationServices.GetRequiredService<RequestCheck>();
                return async context =>
                {
                    var errors = new FieldErrors();
                    Look(context.HttpContext.Request.Query, errors);
                    if (body >= 0 && context.Arguments[body] is { } request)
                    {
                        check.Look(request, errors);
                    }

                    return errors.Any ? ApiProblem.Invalid(errors) : await next(context);
                };
            }
        );

    /// <summary>What is wrong with a request, by field.</summary>
    public void Look(object request, FieldErrors errors) => Look(request, options.GetTypeInfo(request.GetType()), null, "", errors);

    private static void Look(IQueryCollection query, FieldErrors errors)
    {
        foreach (var (name, values) in query)
        {
            if (values.Any(v => v?.Contains(Unstorable) == true))
            {
                errors.Add(name, NoText);
            }
        }
    }

    private void Look(object? value, JsonTypeInfo type, System.Reflection.ICustomAttributeProvider? property, string path, FieldErrors errors)
    {
        if (errors.Count >= MostErrors)
        {
            return;
        }

        switch (value)
        {
            case string text when text.Length > RequestLimits.Of(property, isText: true) && RequestLimits.Of(property, isText: true) is var most:
                errors.Add(path, new ValidationError("too-long", $"At most {most:N0} characters are allowed; this has {text.Length:N0}."));
                break;
            case string text when text.Contains(Unstorable):
                errors.Add(path, NoText);
                break;
            case ICollection list
            and not Array { Rank: > 1 }
                when list.Count > RequestLimits.Of(property, isText: false) && RequestLimits.Of(property, isText: false) is var most:
                errors.Add(path, new ValidationError("too-many", $"At most {most:N0} entries are allowed; this has {list.Count:N0}."));
                break;
            case not null when type.Kind == JsonTypeInfoKind.Object:
                LookInside(value, type, path, errors);
                break;
            case IDictionary entries when type.ElementType is { } element:
                foreach (DictionaryEntry entry in entries)
                {
                    LookAtEntry(entry.Key, typeof(string), $"{path}.{entry.Key}", errors);
                    LookAtEntry(entry.Value, element, $"{path}.{entry.Key}", errors);
                }

                break;
            case IEnumerable list when type is { Kind: JsonTypeInfoKind.Enumerable, ElementType: { } element }:
                foreach (var (number, entry) in list.Cast<object?>().Index())
                {
                    LookAtEntry(entry, element, $"{path}[{number}]", errors);
                }

                break;
        }
    }

    private void LookInside(object value, JsonTypeInfo type, string path, FieldErrors errors)
    {
        foreach (var property in type.Properties.Where(p => p.Get is not null && (p.Set is not null || p.AssociatedParameter is not null)))
        {
            var inner = property.Get!(value);
            var name = path.Length == 0 ? property.Name : $"{path}.{property.Name}";
            if (inner is null && !property.IsGetNullable)
            {
                errors.Add(name, Missing);
            }
            else
            {
                Look(inner, options.GetTypeInfo(property.PropertyType), property.AttributeProvider, name, errors);
            }
        }
    }

    /// <summary>What a list may hold isn't said by its type; nothing is never meant.</summary>
    private void LookAtEntry(object? entry, Type type, string path, FieldErrors errors)
    {
        if (entry is null && Nullable.GetUnderlyingType(type) is null)
        {
            errors.Add(path, Missing);
        }
        else
        {
            Look(entry, options.GetTypeInfo(type), null, path, errors);
        }
    }
}
