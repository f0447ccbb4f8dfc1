using Cursus.Web.Hosting;

namespace Cursus.Web.Checking;

/// <summary>A round of the link check.</summary>
internal sealed class LinkCheckWork(CheckRound round, CertificateRound certificates) : IRegularWork
{
    public async Task Run(CancellationToken cancel)
    {
        await round.Run(cancel);
        await certificates.Run(cancel);
    }
}
