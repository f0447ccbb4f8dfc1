namespace Cursus.Core.Routing;

/// <summary>Devices as user agents are read, for routes.</summary>
public static class RouteDevices
{
    /// <param name="device">See <see cref="Clicks.Requests.UserAgentReading"/>; null where nobody knows.</param>
    public static RouteDevice Of(string? device) =>
        device switch
        {
            "phone" => RouteDevice.Phone,
            "tablet" => RouteDevice.Tablet,
            "computer" => RouteDevice.Computer,
            _ => RouteDevice.Other,
        };
}
