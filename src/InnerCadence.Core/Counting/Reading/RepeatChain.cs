using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>A written bar and the repeats after it, so that their text can be read again in another meter.</summary>
internal sealed class RepeatChain(Directives said)
{
    private readonly List<(BarText Bar, int Index)> bars = [];
    private readonly Dictionary<Meter, Read> inMeter = [];
    private Read asWritten = new([]);

    public void Clear()
    {
        bars.Clear();
        inMeter.Clear();
        asWritten = new([]);
    }

    public void Add(BarText bar, int index) => bars.Add((bar, index));

    /// <summary>What the last bar of the chain is in another meter; what does not fit there, but did in its own, is told at the
    /// repeat.</summary>
    public IReadOnlyCollection<Placed> ReadIn(Meter meter, TextSpan at, Problems problems)
    {
        if (!inMeter.TryGetValue(meter, out var here)) here = new([]);
        here = inMeter[meter] = GoOn(here, _ => meter);
        asWritten = GoOn(asWritten, said.Meters.MeterOf);
        if (here.Problems.Count > asWritten.Problems.Count)
            problems.Error(at, $"The bar before does not fit into a bar of {meter}: write this one out.");
        return here.Strokes;
    }

    /// <summary>Reads the bars that were added since the last time.</summary>
    private Read GoOn(Read read, Func<int, Meter> meterOf)
    {
        var strokes = read.Strokes;
        foreach (var (bar, index) in bars.Skip(read.Done))
        {
            var placer = new BarPlacer(meterOf(index), said, Tick.Zero, read.Problems);
            placer.Give(strokes, bar.At);
            placer.Put(bar.Tokens);
            strokes = placer.Strokes;
        }
        return read with { Strokes = strokes, Done = bars.Count };
    }

    private sealed record Read(IReadOnlyCollection<Placed> Strokes)
    {
        public int Done { get; init; }
        public Problems Problems { get; init; } = new();
    }
}
