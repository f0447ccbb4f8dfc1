using System.Diagnostics;

namespace Cursus.Web.Tests.Support;

/// <summary>Programs from outside that read what Cursus writes.</summary>
internal static class Command
{
    /// <summary>The lines that a program prints.</summary>
    public static async Task<string[]> Run(string program, IEnumerable<string> arguments, CancellationToken cancel)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true })!;
        var errors = process.StandardError.ReadToEndAsync(cancel);
        var output = await process.StandardOutput.ReadToEndAsync(cancel);
        await process.WaitForExitAsync(cancel);
        (output.Length > 0 || process.ExitCode == 0).ShouldBeTrue($"{program}: {await errors}");
        return output.Split('\n', StringSplitOptions.RemoveEmptyEntries);
    }
}
