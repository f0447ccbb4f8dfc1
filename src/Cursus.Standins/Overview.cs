namespace Cursus.Standins;

/// <summary>The first page of the simulated world: what there is in it.</summary>
internal static class Overview
{
    public static Task Answer(
        HttpContext context,
        IEnumerable<string> sites,
        IEnumerable<string> networks,
        IEnumerable<string> adNetworks,
        IEnumerable<string> helpers
    )
    {
        var port = context.Request.Host.Port is { } number ? $":{number}" : "";
        string List(IEnumerable<string> hosts) => string.Concat(hosts.Select(h => $"<li><a href=\"http://{h}{port}/\">{h}</a>"));
        return Html.Write(
            context,
            StatusCodes.Status200OK,
            "The demo's outside world",
            "#231b22",
            $"""
            <header>The demo's outside world</header>
            <main><h1>Networks</h1><p>Post a text with a short link, then follow it from there.</p><ul>{List(networks)}</ul>
            <h1>Sites</h1><p>Where links lead. Each page shows how its visitor arrived.</p><ul>{List(sites)}</ul>
            <h1>Ad networks</h1><p>Where audiences are defined; the networks above show their adverts.</p><ul>{List(adNetworks)}</ul>
            <h1>Registrar, mailbox, moods, receiver</h1><p>Where the records of a domain are set, by a real name server on this machine; where e-mails arrive; where pages of the sites are let die and brought back; and a program that webhooks tell things.</p><ul>{List(
                helpers
            )}</ul></main>
            """
        );
    }
}
