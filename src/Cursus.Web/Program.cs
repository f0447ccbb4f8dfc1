using Cursus.Web.Access;
using Cursus.Web.Background;
using Cursus.Web.Checking;
using Cursus.Web.Composition;
using Cursus.Web.Edge;
using Cursus.Web.Hosting;

var builder = WebApplication.CreateBuilder(args);
builder.AddDatabase();
builder.AddPreparation();
builder.AddAccess();
builder.AddEdge();
builder.AddApi();
builder.AddLinkCheck();
builder.AddBackgroundWork();
builder.AddWebApp();

var app = builder.Build();
if (await Commands.Run(app, args) is { } exitCode)
{
    return exitCode;
}

app.UseEdge();
app.UseMemberThreads();
app.UseTrustedProxies();
app.UseExceptionHandler();
app.UseStatusCodePages();
app.UseSecurityHeaders();
app.UseResponseCompression();
app.UsePrepared();
app.UseRouting();
app.UseRateLimiter();
app.UseAuthentication();
app.UseRolePolicies();
app.UseMemberLimits();
app.UseIdempotency();
app.MapApi();
app.MapHealth();
app.MapWebApp();

await app.Prepare();
await app.RunAsync();
return 0;
