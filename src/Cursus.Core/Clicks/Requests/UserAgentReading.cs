using System.Reflection;

namespace Cursus.Core.Clicks.Requests;

/// <summary>What a user agent tells: who sent it, from what device, browser and operating system.</summary>
/// <param name="Device"><c>phone</c>, <c>tablet</c>, <c>computer</c>, <c>television</c>, <c>console</c>, <c>watch</c> or <c>other</c>.</param>
/// <param name="Browser">Its family, such as Firefox; the app's where a network's app showed the page; <c>Other</c> where nobody knows.</param>
/// <param name="Os">Its family, such as Android; <c>Other</c> where nobody knows.</param>
public sealed record UserAgentReading(ClickKind Kind, string Device, string Browser, string Os)
{
    private const string PatternFile = "browsers.yaml";

    private static readonly string[] Televisions = ["TV", "BRAVIA", "Web0S", "CrKey", "Roku", "; AFT"];
    private static readonly string[] Consoles = ["PlayStation", "Xbox", "Nintendo"];
    private static readonly string[] Tablets = ["iPad", "Tablet", "Kindle", "Silk/", "PlayBook"];
    private static readonly string[] Phones = ["iPhone", "iPod", "Mobile", "Phone", "Opera Mini", "BlackBerry", "KaiOS", "Symbian"];
    private static readonly string[] Computers =
    [
        "Windows NT",
        "Macintosh",
        "Mac OS X",
        "X11;",
        "CrOS",
        "Linux x86_64",
        "Linux i686",
        "Konqueror",
        "Lynx/",
        "Links (",
        "ELinks/",
        "w3m/",
        "Dillo/",
        "NetSurf/",
    ];

    private static readonly Lazy<(UserAgentPatterns Browsers, UserAgentPatterns Os)> Patterns = new(() =>
    {
        using var yaml = new StreamReader(
            Assembly.GetExecutingAssembly().GetManifestResourceStream(PatternFile)
                ?? throw new InvalidOperationException($"{PatternFile} is not built in.")
        );
        return UserAgentPatterns.Read(yaml);
    });

    /// <summary>Reads a user agent with what the request told beside it. Takes some milliseconds: remember what came out.</summary>
    public static UserAgentReading Of(string userAgent, RequestTraits traits)
    {
        ArgumentNullException.ThrowIfNull(userAgent);
        var hints = traits.Hints;
        var kind = KindOf(userAgent, traits.Signs);

        // What machines call themselves is counted nowhere, and may be made up to take time.
        var (browser, os) = kind is ClickKind.Person or ClickKind.Impostor ? Families(userAgent, hasRobots: false) : ("Other", "Other");
        os = OsOf(IsHarmony(userAgent) ? "HarmonyOS" : os, hints);
        return new UserAgentReading(kind, DeviceOf(userAgent, os, hints), browser, os);
    }

    /// <summary>Who sent a user agent and from what device, without its browser and, where no hint says it, its system: takes a part of the
    /// time.</summary>
    public static UserAgentReading InBrief(string userAgent, RequestTraits traits)
    {
        ArgumentNullException.ThrowIfNull(userAgent);
        var os = OsOf(IsHarmony(userAgent) ? "HarmonyOS" : "Other", traits.Hints);
        return new UserAgentReading(KindOf(userAgent, traits.Signs), DeviceOf(userAgent, os, traits.Hints), "Other", os);
    }

    /// <summary>Who sends such requests, as far as one request tells.</summary>
    public static ClickKind KindOf(string userAgent, RequestSigns signs) =>
        UserAgentKind.Of(userAgent) is not ClickKind.Person and var kind ? kind
        : Impostor.Is(userAgent, signs) ? ClickKind.Impostor
        : ClickKind.Person;

    /// <summary>The families that the open patterns name, without any rule of our own.</summary>
    internal static (string Browser, string Os) Families(string userAgent, bool hasRobots) =>
        (Patterns.Value.Browsers.Family(userAgent, hasRobots), Patterns.Value.Os.Family(userAgent, hasRobots));

    /// <summary>The hint decides where there is one: it is not frozen, as the user agent may be. Names are those of the patterns, so that both are
    /// one, except that macOS has its present name.</summary>
    private static string OsOf(string family, ClientHints hints) =>
        hints.Platform switch
        {
            HintedPlatform.Android => "Android",
            HintedPlatform.ChromeOS => "Chrome OS",
            HintedPlatform.IOS => "iOS",
            HintedPlatform.MacOS => "macOS",
            HintedPlatform.Windows => "Windows",
            HintedPlatform.Linux when family == "Other" => "Linux",
            _ => family == "Mac OS X" ? "macOS" : family,
        };

    /// <summary>A system that the open patterns don't know yet. Common practice, no source.</summary>
    private static bool IsHarmony(string userAgent) =>
        userAgent.Contains("OpenHarmony", StringComparison.Ordinal) || userAgent.Contains("HarmonyOS", StringComparison.Ordinal);

    /// <summary>Words that makers put into user agents (common practice, no published standard). On Android browsers leave "Mobile" out on tablets
    /// and say no to the hint.</summary>
    private static string DeviceOf(string userAgent, string os, ClientHints hints)
    {
        bool Says(string[] words) => Array.Exists(words, word => userAgent.Contains(word, StringComparison.Ordinal));
        return Says(Televisions) || os == "tvOS" ? "television"
            : Says(Consoles) ? "console"
            : os is "watchOS" or "WatchOS" || userAgent.Contains("Watch OS", StringComparison.Ordinal) ? "watch"
            : hints.IsTablet || Says(Tablets) ? "tablet"
            : os == "Android"
                ? hints.IsMobile
                    ?? (userAgent.Contains("Mobile", StringComparison.Ordinal) || userAgent.Contains("Opera Mini", StringComparison.Ordinal))
                        ? "phone"
                    : "tablet"
            : hints.IsMobile == true || os == "iOS" || Says(Phones) ? "phone"
            : Says(Computers) || os is "Windows" or "macOS" or "Chrome OS" ? "computer"
            : "other";
    }
}
