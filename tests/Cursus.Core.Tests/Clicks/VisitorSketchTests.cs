using CsCheck;
using Cursus.Core.Clicks.Tallies;

namespace Cursus.Core.Tests.Clicks;

public class VisitorSketchTests
{
    /// <summary>Flajolet et al. 2007: the standard error is 1.04/√m, 2.3 % for 2,048 registers. Over many runs the mean square must come near it, and
    /// the mean near nothing.</summary>
    [Theory]
    [InlineData(1_000)]
    [InlineData(10_000)]
    [InlineData(100_000)]
    public void Estimates_err_as_the_paper_says(int visitors)
    {
        var random = new Random(visitors);
        var errors = Enumerable
            .Range(0, 40)
            .Select(_ =>
            {
                var sketch = new VisitorSketch();
                for (var i = 0; i < visitors; i++)
                {
                    sketch.Add(random.NextInt64(long.MinValue, long.MaxValue));
                }

                sketch.IsExact.ShouldBeFalse();
                return (double)sketch.Count / visitors - 1;
            })
            .ToList();
        var standardError = 1.04 / Math.Sqrt(2048);
        Math.Sqrt(errors.Average(e => e * e)).ShouldBeLessThan(1.4 * standardError);
        Math.Abs(errors.Average()).ShouldBeLessThan(standardError / 2);
    }

    [Fact]
    public void Few_visitors_are_counted_exactly_however_often_they_come() =>
        Gen
            .Long.Array[0, VisitorSketch.MostExact]
            .Sample(visitors =>
            {
                var sketch = Of([.. visitors, .. visitors]);
                sketch.Count.ShouldBe(visitors.Distinct().Count());
            });

    [Fact]
    public void Put_together_sketches_are_the_sketch_of_all_visitors_and_survive_being_kept() =>
        Gen.Select(Gen.Long.Array[0, 600], Gen.Long.Array[0, 600])
            .Sample(
                (one, other) =>
                {
                    var joined = VisitorSketch.OfBytes(Of(one).ToBytes());
                    joined.Add(VisitorSketch.OfBytes(Of(other).ToBytes()));
                    joined.ToBytes().ShouldBe(Of([.. other, .. one]).ToBytes());
                },
                iter: 200
            );

    [Fact]
    public void Bytes_of_something_else_are_refused() => Should.Throw<ArgumentException>(() => VisitorSketch.OfBytes(new byte[7]));

    private static VisitorSketch Of(long[] visitors)
    {
        var sketch = new VisitorSketch();
        Array.ForEach(visitors, sketch.Add);
        return sketch;
    }
}
