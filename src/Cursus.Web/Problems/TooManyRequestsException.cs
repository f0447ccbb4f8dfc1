namespace Cursus.Web.Problems;

/// <summary>More was asked for at once than there is room for. Answered with 429 and when to ask again.</summary>
/// <param name="code">Stable code of the problem.</param>
/// <param name="text">What it is and what to do.</param>
/// <param name="seconds">After how many seconds asking again makes sense.</param>
public sealed class TooManyRequestsException(string code, string text, int seconds) : Exception(text)
{
    public string Code => code;

    public int Seconds => seconds;
}
