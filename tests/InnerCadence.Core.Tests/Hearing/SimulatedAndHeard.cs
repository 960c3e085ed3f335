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

    [Fact]
    public void The_ear_hears_their_hats_and_takes_them_for_no_snares()
    {
        using var ear = Ear.Load(Network("ear"), Network("pulse"))!;
        var groove = CountLines.Parse("HH: 8ths 4&o\nSN: 2> (2a) (3e) 4>\nBD: 1 3&").Passage;
        var grid = new BarGrid(new MeterCycle([Meter.CommonTime]));
        var map = TempoMap.Of(grid, [new(1, new(0)), new(Bars + 1, new((int)(Seconds * 1000)))], null)!;
        const int takes = 4;
        var (hats, snares, kicks) = (0, 0, 0);
        for (var seed = 1; seed <= takes; seed++)
        {
            var pass = new EarPass(ear, Synth.Rate);
            pass.Add(Simulation.Render(map, grid, Bars, new(Seconds), [new(1, groove, true)], Synth.Render, seed,
                SimulatedDay.Of(seed, 1972)));
            var heard = HeardStrokes.In(pass.End(), ear);
            hats += Enumerable.Range(0, Eighths).Count(eighth => heard.Any(h => h.Family == Family.Hat
                && Math.Abs(h.At - eighth * Seconds / Eighths) < 0.04));
            snares += heard.Count(h => h.Family == Family.Snare);
            kicks += heard.Count(h => h.Family == Family.Kick);
        }
        hats.ShouldBeGreaterThan(takes * Eighths * 9 / 10);
        snares.ShouldBeInRange(takes * Bars * 4 - 8, takes * Bars * 4 + 8);
        kicks.ShouldBeInRange(takes * Bars * 2 - 6, takes * Bars * 2 + 12);
    }
}
