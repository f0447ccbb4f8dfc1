using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.ResponseCompression;
using Microsoft.Extensions.FileProviders;

namespace Cursus.Web.Hosting;

/// <summary>How the application is delivered to browsers: files, compression, caching, security headers.</summary>
public static class WebAppSetup
{
    private const string ContentSecurity =
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: http: https:; font-src 'self' data:; frame-ancestors 'none'; base-uri 'none'; form-action 'self'";

    /// <summary>The same for the API's description, whose page begins with one script of its own; a test holds the hash against the page.</summary>
    private const string ReferenceSecurity = ContentSecurity + "; script-src 'self' 'sha256-T4k1Ie9yAyxvw6Oj9D6Fp51gDANEVMSsjM+U+oT3bB8='";

    public static void AddWebApp(this WebApplicationBuilder builder)
    {
        builder.Services.AddResponseCompression(compression =>
        {
            // Only files: compressing answers that hold a secret beside what a visitor typed would leak it by their length.
            compression.MimeTypes =
            [
                "text/html",
                "text/css",
                "text/javascript",
                "application/javascript",
                "image/svg+xml",
                "application/manifest+json",
            ];
            compression.EnableForHttps = true;
            compression.Providers.Add<BrotliCompressionProvider>();
            compression.Providers.Add<GzipCompressionProvider>();
        });
    }

    /// <summary>Believes <c>X-Forwarded-For</c> from the configured proxies, and from nobody else.</summary>
    public static void UseTrustedProxies(this WebApplication app)
    {
        var forwarded = new ForwardedHeadersOptions
        {
            ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto,
            ForwardLimit = 1,
        };
        forwarded.KnownProxies.Clear();
        forwarded.KnownIPNetworks.Clear();
        foreach (var proxy in app.Services.GetRequiredService<CursusOptions>().TrustedProxies)
        {
            forwarded.KnownProxies.Add(System.Net.IPAddress.Parse(proxy));
        }

        if (forwarded.KnownProxies.Count > 0)
        {
            app.UseForwardedHeaders(forwarded);
        }
    }

    public static void UseSecurityHeaders(this WebApplication app) =>
        app.Use(
            (context, next) =>
            {
                if (context.Request.IsHttps && context.RequestServices.GetRequiredService<CursusOptions>().StrictTransport)
                {
                    context.Response.Headers.StrictTransportSecurity = "max-age=31536000";
                }

                var headers = context.Response.Headers;
                headers.XContentTypeOptions = "nosniff";
                headers["Referrer-Policy"] = "same-origin";
                headers["X-Frame-Options"] = "DENY";
                headers.ContentSecurityPolicy = context.Request.Path.StartsWithSegments("/api/reference") ? ReferenceSecurity : ContentSecurity;

                return next(context);
            }
        );

    /// <summary>Serves the built web application; every path that is no file and not of the API is a view of it.</summary>
    public static void MapWebApp(this WebApplication app)
    {
        if (app.Services.GetRequiredService<CursusOptions>().WebFolder is not { } folder || !File.Exists(Path.Combine(folder, "index.html")))
        {
            return;
        }

        var files = new StaticFileOptions
        {
            FileProvider = new PhysicalFileProvider(Path.GetFullPath(folder)),
            OnPrepareResponse = file =>
                file.Context.Response.Headers.CacheControl = file.Context.Request.Path.StartsWithSegments("/assets")
                    ? "public, max-age=31536000, immutable"
                    : "no-cache",
        };
        app.UseStaticFiles(files);
        app.Use(
            (context, next) =>
            {
                var isView =
                    context.GetEndpoint() is null && HttpMethods.IsGet(context.Request.Method) && !context.Request.Path.StartsWithSegments("/api");
                context.Request.Path = isView ? "/index.html" : context.Request.Path;
                return next(context);
            }
        );
        app.UseStaticFiles(files);
    }
}
