using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>The demo's simulated recordings are such that the ear can be tried on them: it hears their drums, and no others.</summary>
public class SimulatedAndHeard
{
    private const int Bars = 8, Eighths = 64;
    private const double Seconds = 18.461;

    private static byte[] Network(string name) => File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "networks", name + ".onnx"));

    private static readonly Dictionary<SoundKey, float[]> Made = [];

    private static float[] Sound(SoundKey key) => Made.TryGetValue(key, out var made) ? made : Made[key] = Synth.Render(key);

    /// <summary>What the ear hears of eight bars of a groove, in four takes of other kits and rooms.</summary>
    private static IEnumerable<IReadOnlyList<HeardStroke>> Takes(string text)
    {
        using var ear = Ear.Load(Network("ear"), Network("pulse"))!;
        var groove = CountLines.Parse(text).Passage;
        var grid = new BarGrid(new MeterCycle([Meter.CommonTime]));
        var map = TempoMap.Of(grid, [new(1, new(0)), new(Bars + 1, new((int)(Seconds * 1000)))], null)!;
        for (var seed = 1; seed <= 4; seed++)
        {
            var pass = new EarPass(ear, Synth.Rate);
            pass.Add(Simulation.Render(map, grid, Bars, new(Seconds), [new(1, groove, true)], Sound, seed, SimulatedDay.Of(seed, 1972)));
            yield return HeardStrokes.In(pass.End(), ear);
        }
    }

    private static int At(IReadOnlyList<HeardStroke> heard, IEnumerable<int> eighths, Func<HeardStroke, bool> what) => eighths
        .Count(eighth => heard.Any(h => what(h) && Math.Abs(h.At - eighth * Seconds / Eighths) < 0.04));

    private static IEnumerable<int> Eighth(Func<int, bool> inBar) => Enumerable.Range(0, Eighths).Where(eighth => inBar(eighth % 8));

    [Fact]
    public void The_ear_hears_their_hats_closed_and_takes_them_for_no_snares()
    {
        var takes = Takes("HH: 8ths 4&o\nSN: 2> (2a) (3e) 4>\nBD: 1 3&").ToList();
        takes.Sum(heard => At(heard, Eighth(e => e < 7), h => h.Family == Family.Hat && h.Openness == Openness.Closed))
            .ShouldBeGreaterThan(takes.Count * Bars * 7 * 19 / 20);
        takes.Sum(heard => At(heard, Eighth(e => e == 7), h => h.Openness == Openness.Open))
            .ShouldBeGreaterThan(takes.Count * Bars * 3 / 4);
        takes.Sum(heard => heard.Count(h => h.Family == Family.Snare))
            .ShouldBeInRange(takes.Count * Bars * 4 - 8, takes.Count * Bars * 4 + 8);
        takes.Sum(heard => heard.Count(h => h.Family == Family.Kick))
            .ShouldBeInRange(takes.Count * Bars * 2 - 6, takes.Count * Bars * 2 + 12);
    }

    [Theory]
    [InlineData("RD: 8ths\nSN: 2 4\nBD: 1 3&", Family.Ride)]
    [InlineData("RB: 8ths\nSN: 2 4\nBD: 1 3&", Family.Bell)]
    public void A_ride_s_bow_and_its_bell_are_told_apart(string groove, Family family)
    {
        var takes = Takes(groove).ToList();
        takes.Sum(heard => At(heard, Eighth(_ => true), h => h.Family == family)).ShouldBeGreaterThan(takes.Count * Eighths * 9 / 10);
    }

    [Fact]
    public void A_crash_is_none_of_the_hats_around_it()
    {
        var takes = Takes("CR: 1\nHH: 8ths -1\nSN: 2 4\nBD: 1 3&").ToList();
        takes.Sum(heard => At(heard, Eighth(e => e == 0), h => h.Family == Family.Crash)).ShouldBeGreaterThan(takes.Count * Bars * 9 / 10);
        takes.Sum(heard => heard.Count(h => h.Family == Family.Crash)).ShouldBeLessThan(takes.Count * Bars * 5 / 4);
    }
}
