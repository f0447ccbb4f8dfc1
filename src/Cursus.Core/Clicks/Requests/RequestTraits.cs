namespace Cursus.Core.Clicks.Requests;

/// <summary>All that is kept of a request beside its user agent, and read with it.</summary>
public readonly record struct RequestTraits(ClientHints Hints, RequestSigns Signs)
{
    /// <summary>In fifteen bits, as the database keeps them: the hints in the lower eight.</summary>
    public short ToNumber() => (short)(Hints.ToByte() | ((int)Signs << 8));

    public static RequestTraits OfNumber(short number) => new(ClientHints.OfByte((byte)number), (RequestSigns)(number >> 8));
}
