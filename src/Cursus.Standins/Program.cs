using Cursus.Standins;

var builder = WebApplication.CreateBuilder(args);
if (args.FirstOrDefault() == "traffic")
{
    return await Traffic.Run(builder.Configuration);
}

var zones = new Zones();
if (builder.Configuration.GetValue<int?>("DnsPort") is { } dnsPort)
{
    builder.Services.AddHostedService(_ => new NameServer(zones, dnsPort));
}

var mailbox = new Mailbox(builder.Configuration.GetValue<int?>("MailPort") ?? 0);
if (builder.Configuration.GetValue<int?>("MailPort") is not null)
{
    builder.Services.AddHostedService(_ => mailbox);
}

var certificates = new Certificates(TimeProvider.System);
builder.WebHost.ConfigureKestrel(kestrel =>
    kestrel.ConfigureHttpsDefaults(tls => tls.ServerCertificateSelector = (_, name) => certificates.Of(name ?? "localhost"))
);

var app = builder.Build();
var moods = new Moods();
var receiver = new Receiver();
var networks = new SocialNetworks(TimeProvider.System);
var adNetworks = new AdNetworks(TimeProvider.System);

app.Run(context =>
    context.Request.Host.Host switch
    {
        var host when DestinationSites.Has(host) => DestinationSites.Answer(context, moods),
        var host when SocialNetworks.Has(host) => networks.Answer(context),
        var host when AdNetworks.Has(host) => adNetworks.Answer(context),
        Registrar.Host => Registrar.Answer(context, zones),
        Mailbox.Host => mailbox.Answer(context),
        Moods.Host => moods.Answer(context),
        Receiver.Host => receiver.Answer(context),
        _ => Overview.Answer(
            context,
            DestinationSites.Hosts,
            SocialNetworks.Hosts,
            AdNetworks.Hosts,
            [Registrar.Host, Mailbox.Host, Moods.Host, Receiver.Host]
        ),
    }
);
app.Run();
return 0;
