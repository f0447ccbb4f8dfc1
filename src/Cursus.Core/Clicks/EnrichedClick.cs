using Cursus.Core.Clicks.Requests;

namespace Cursus.Core.Clicks;

/// <summary>A click with all that it tells, as reports count it.</summary>
/// <param name="Country">Two letters, or nothing.</param>
/// <param name="Device">See <see cref="UserAgentReading"/>, as browser and system.</param>
/// <param name="ReferrerHost">Host of the page that was left, or nothing.</param>
/// <param name="Code">Number of the QR code that was scanned; 0 where the address was followed.</param>
/// <param name="Page">See <see cref="Click"/>, as the rule.</param>
public readonly record struct EnrichedClick(
    ClickKind Kind,
    long Visitor,
    string Country,
    string Device,
    string Browser,
    string Os,
    string Language,
    string ReferrerHost,
    byte Code = 0,
    byte Page = 0,
    byte Rule = 0
);
