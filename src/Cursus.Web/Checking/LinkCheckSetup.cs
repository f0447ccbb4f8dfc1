using Cursus.Web.Hosting;

namespace Cursus.Web.Checking;

/// <summary>The link check.</summary>
internal static class LinkCheckSetup
{
    public static void AddLinkCheck(this WebApplicationBuilder builder)
    {
        var services = builder.Services;
        services.AddSingleton<SiteRules>();
        services.AddSingleton<PageCheck>();
        services.AddSingleton<CheckRound>();
        services.AddScoped<CertificateRound>();
        var options = builder.Configuration.GetSection("Cursus:LinkCheck").Get<LinkCheckOptions>() ?? new();
        services.AddSingleton(options);
        if (options.IsOn)
        {
            services.AddRegularWork<LinkCheckWork>(
                "link-check",
                "Link check",
                "Checks the pages behind links that are due, and the certificates of short domains.",
                TimeSpan.FromSeconds(options.Every)
            );
        }
    }
}
