using System.Reflection;

namespace Cursus.Web.Hosting;

/// <summary>The build starts the program once to write down its OpenAPI document; then there is no database and nothing may be touched.</summary>
internal static class DocumentBuild
{
    public static bool IsRunning { get; } = Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
}
