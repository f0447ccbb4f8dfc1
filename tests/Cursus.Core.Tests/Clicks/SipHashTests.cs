using System.Buffers.Binary;
using Cursus.Core.Clicks;

namespace Cursus.Core.Tests.Clicks;

public class SipHashTests
{
    private static readonly byte[] Counting = [.. Enumerable.Range(0, 64).Select(i => (byte)i)];

    /// <summary>Aumasson and Bernstein, "SipHash: a fast short-input PRF" (2012), appendix A.</summary>
    [Fact]
    public void The_papers_own_example_comes_out() => SipHash.Of(Counting.AsSpan(0, 16), Counting.AsSpan(0, 15)).ShouldBe(0xa129ca6149be45e5);

    /// <summary>The same key for texts of 0 to 63 bytes, as OpenSSL 3.0 hashes them.</summary>
    [Fact]
    public void Texts_of_every_length_hash_as_in_OpenSSL()
    {
        var expected = File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "ReferenceData", "siphash.txt"));
        expected.Length.ShouldBe(64);
        for (var length = 0; length < expected.Length; length++)
        {
            BinaryPrimitives
                .ReadUInt64LittleEndian(Convert.FromHexString(expected[length]))
                .ShouldBe(SipHash.Of(Counting.AsSpan(0, 16), Counting.AsSpan(0, length)), $"length {length}");
        }
    }

    [Fact]
    public void A_key_of_another_length_is_refused() => Should.Throw<ArgumentException>(() => SipHash.Of([1, 2, 3], [4]));
}
