using System.Text.Json;

namespace Cursus.Web.Hosting;

/// <summary>Values of enumerations as the API writes them, for what is written without its serializer: <c>link-created</c>.</summary>
internal static class ApiNames
{
    public static string Of(Enum value) => JsonNamingPolicy.KebabCaseLower.ConvertName($"{value}");
}
