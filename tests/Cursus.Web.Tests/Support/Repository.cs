namespace Cursus.Web.Tests.Support;

/// <summary>The files that these tests are part of.</summary>
internal static class Repository
{
    public static string Root { get; } = Find();

    /// <summary>The path of a file or folder in it.</summary>
    public static string Of(params string[] path) => Path.Combine([Root, .. path]);

    private static string Find()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Cursus.slnx")))
        {
            folder = folder.Parent!;
        }

        return folder.FullName;
    }
}
