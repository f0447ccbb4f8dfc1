namespace Cursus.Data.Clicks;

/// <summary>
/// Whoever computes keeps a processor for some milliseconds, since schedulers change rarely; visitors who are answered on the same one would wait as long. Work on a batch
/// of clicks offers it after every few of them instead, which costs nothing where nobody wants it.
/// </summary>
internal static class Courtesy
{
    private const int Clicks = 64;

    /// <summary>Lets others go first, now and then.</summary>
    /// <param name="done">How many clicks have been worked on.</param>
    public static void After(int done)
    {
        if (done % Clicks == 0)
        {
            Thread.Yield();
        }
    }
}
