namespace Cursus.Data.Schema;

/// <summary>The SQL files beside, which ship in the assembly.</summary>
internal static class SchemaFile
{
    /// <summary>The text of a file.</summary>
    /// <param name="name">Such as <c>functions.sql</c>.</param>
    public static string Read(string name)
    {
        using var stream = typeof(SchemaFile).Assembly.GetManifestResourceStream(typeof(SchemaFile), name)
            ?? throw new ArgumentException($"There is no file {name} in the schema.", nameof(name));
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}
