using System.Diagnostics;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Bench;

/// <summary>One idea over 400 recordings of four minutes under 20 s on two cores, read from compressed files; the commonest bars of 10,000
/// bars under 5 s. What the ear would have heard is made, not the sounds. Beside it, how well the planted idea is found among
/// look-alikes, and how often the interval of a rate with recall holds the truth.</summary>
public static class LookingThrough
{
    private const int Recordings = 400, Planted = 6, Alike = 6;
    private const double Seconds = 240, Bpm = 128;
    private static readonly double Bar = 240 / Bpm;
    private static readonly int Bars = (int)(Seconds / Bar) - 1;
    private const string Wanted = "SN: 3 3e 3a 4& 4a\nBD: 3& 4";
    private static readonly string[] LookAlikes =
        ["SN: 3 3e 3a 4& 4a\nBD: 4", "SN: 3 3& 3a 4& 4a\nBD: 3e 4", "SN: 3 3e 4 4& 4a\nBD: 3& 3a", "SN: 3e 3a 4& 4a\nBD: 3& 4 4e"];

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("cadence-looking");
        try
        {
            using var files = new ActivationFiles(folder.FullName);
            var planted = new List<(string Hash, double[] At)>();
            for (var r = 0; r < Recordings; r++)
            {
                var (heard, at) = Made(r);
                planted.Add((r.ToString("x64", System.Globalization.CultureInfo.InvariantCulture), at));
                await files.KeepAsync(planted[r].Hash, "1", heard, CancellationToken.None);
            }
            await SearchAsync(folder.FullName, planted);
            await CommonAsync(folder.FullName, planted);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    private static async Task SearchAsync(string folder, List<(string Hash, double[] At)> planted)
    {
        using var files = new ActivationFiles(folder);
        var ear = ShippedEar.Find() ?? throw new InvalidOperationException("The ear's runtime is missing.");
        var idea = FewCounts.AsIdea(CountLines.Parse(Wanted).Passage, VoicingRule.Drum, rates: false);
        var clock = Stopwatch.StartNew();
        var found = new List<(double Score, bool There)>();
        foreach (var (hash, at) in planted)
        {
            var heard = (await files.FindAsync(hash, "1", CancellationToken.None))!;
            found.AddRange(SoundSearch.Of(idea, Lines(), HeardStrokes.In(heard, ear, SoundSearch.Eager)).Take(60)
                .Select(p => (p.Score, at.Any(t => Math.Abs(t - p.At.Value) < 0.1))));
        }
        var took = clock.Elapsed.TotalSeconds;
        found = [.. found.OrderByDescending(f => f.Score)];
        var there = planted.Sum(p => p.At.Length);
        Console.WriteLine(FormattableString.Invariant(
            $"one idea over {Recordings} recordings, {Recordings * Bars} bars: {took:0.0} s; {GC.GetTotalMemory(true) >> 20} MB held"));
        foreach (var k in new[] { 10, 50, 100, there, 2 * there })
            Console.WriteLine(FormattableString.Invariant(
                $"  first {k}: {found.Take(k).Count(f => f.There)} right, recall {found.Take(k).Count(f => f.There) / (double)there:0.00}"));
    }

    private static async Task CommonAsync(string folder, List<(string Hash, double[] At)> planted)
    {
        using var files = new ActivationFiles(folder);
        var ear = ShippedEar.Find()!;
        var bars = 0;
        var clock = Stopwatch.StartNew();
        foreach (var (hash, _) in planted.TakeWhile(_ => bars < 10_000))
        {
            var heard = (await files.FindAsync(hash, "1", CancellationToken.None))!;
            var common = CommonestBar.Of(Lines(), HeardStrokes.In(heard, ear), 1, Bars)!;
            bars += common.Bars;
        }
        Console.WriteLine(FormattableString.Invariant($"commonest bars of {bars} bars: {clock.Elapsed.TotalSeconds:0.0} s"));
    }

    private static SoundBars Lines() => SoundBars.Marked([.. Enumerable.Range(0, Bars + 1).Select(b => (b + 1, new Seconds(0.5 + Bar * b)))],
        new([Meter.CommonTime]), null, new(0.5 + Bar * Bars))!;

    /// <summary>A groove with an idea and look-alikes planted, as the ear would have it: some strokes weak, some missed, some that are
    /// not there.</summary>
    private static (Activations Heard, double[] Planted) Made(int seed)
    {
        var random = new Random(seed);
        var frames = new byte[(int)(Seconds * Ear.FramesPerSecond) * Ear.Outputs];
        var places = new List<double>();
        var special = Enumerable.Range(1, Bars - 2).OrderBy(_ => random.Next()).Take(Planted + Alike).ToList();
        for (var bar = 0; bar < Bars; bar++)
        {
            var which = special.IndexOf(bar);
            var text = which < 0 ? "HH: 8ths\nSN: 2 4\nBD: 1 3&" : "HH: 1 1& 2 2&\nSN: 2 \nBD: 1\n"
                + (which < Planted ? Wanted : LookAlikes[random.Next(LookAlikes.Length)]);
            if (which >= 0 && which < Planted) places.Add(0.5 + Bar * (bar + 0.5));
            foreach (var stroke in CountLines.Parse(text).Passage.Strokes)
                if (random.NextDouble() > 0.05) Strike(0.5 + Bar * (bar + stroke.At.Value / (4.0 * Tick.PerQuarter)), stroke.Voice.Family);
            if (random.NextDouble() < 0.4) Strike(0.5 + Bar * (bar + random.NextDouble()), Ear.Families[random.Next(Ear.Families.Count)]);
        }
        return (new(frames, new byte[(int)(Seconds * 50) * 2]), [.. places]);

        void Strike(double at, Family family)
        {
            var frame = (int)((at + (random.NextDouble() - 0.5) * 0.014) * Ear.FramesPerSecond);
            var strength = 255 * Math.Min(1, 0.55 + 0.5 * random.NextDouble());
            for (var i = -1; i <= 1; i++)
                if (frame + i is >= 0 and var f && (f + 1) * Ear.Outputs < frames.Length)
                    frames[f * Ear.Outputs + Ear.Families.ToList().IndexOf(family)] = (byte)(strength * (i == 0 ? 1 : 0.5));
        }
    }
}
