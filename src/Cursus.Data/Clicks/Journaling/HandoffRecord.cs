using System.Buffers.Binary;
using Cursus.Core.Retargeting;
using NodaTime;

namespace Cursus.Data.Clicks.Journaling;

/// <summary>How a report on the pixels of a visit is written in the journal, between the clicks: time (8), link (16), mark (1), visitor (8), then for
/// each pixel its id (16) and what became of it (1).</summary>
internal static class HandoffRecord
{
    /// <summary>Tells it from a click; see <see cref="JournalEvent"/>.</summary>
    public const byte Mark = 0x80;

    private const int FixedLength = ClickRecord.KindAt + 1 + 8;
    private const int PixelLength = 16 + 1;

    /// <summary>The most bytes that one report can take.</summary>
    public const int MaxLength = FixedLength + HandoffReport.MostPixels * PixelLength;

    public static int Write(HandoffReport report, Span<byte> to)
    {
        BinaryPrimitives.WriteInt64LittleEndian(to, report.At.ToUnixTimeMilliseconds());
        report.LinkId.TryWriteBytes(to[8..]);
        to[ClickRecord.KindAt] = Mark;
        BinaryPrimitives.WriteInt64LittleEndian(to[(ClickRecord.KindAt + 1)..], report.Visitor);
        var length = FixedLength;
        foreach (var (pixel, outcome) in report.Pixels.Take(HandoffReport.MostPixels))
        {
            pixel.TryWriteBytes(to[length..]);
            to[length + 16] = (byte)outcome;
            length += PixelLength;
        }

        return length;
    }

    public static HandoffReport Read(ReadOnlySpan<byte> from)
    {
        var pixels = new PixelOutcome[(from.Length - FixedLength) / PixelLength];
        for (var i = 0; i < pixels.Length; i++)
        {
            var pixel = from[(FixedLength + i * PixelLength)..];
            pixels[i] = new PixelOutcome(new Guid(pixel[..16]), (HandoffOutcome)pixel[16]);
        }

        return new HandoffReport(
            Instant.FromUnixTimeMilliseconds(BinaryPrimitives.ReadInt64LittleEndian(from)),
            new Guid(from[8..ClickRecord.KindAt]),
            BinaryPrimitives.ReadInt64LittleEndian(from[(ClickRecord.KindAt + 1)..]),
            pixels
        );
    }
}
