using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Background;
using Cursus.Web.Checking;
using Cursus.Web.Clicks;
using Cursus.Web.Composition;
using Cursus.Web.Hosting;

var builder = WebApplication.CreateBuilder(args);
builder.AddDatabase();
builder.AddPreparation();
builder.AddAccess();
builder.AddEdge(isServing: !DocumentBuild.IsRunning);
builder.AddShipping();
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
app.UseWorkspaceAddresses();
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
