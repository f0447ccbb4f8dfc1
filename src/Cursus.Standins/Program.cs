using Cursus.Standins;

var app = WebApplication.CreateBuilder(args).Build();
var networks = new SocialNetworks(TimeProvider.System);

app.Run(context => context.Request.Host.Host switch
{
    var host when DestinationSites.Has(host) => DestinationSites.Answer(context),
    var host when SocialNetworks.Has(host) => networks.Answer(context),
    _ => Overview.Answer(context, DestinationSites.Hosts, SocialNetworks.Hosts),
});
app.Run();
