using System.Diagnostics;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;
using InnerCadence.Testing;

namespace InnerCadence.Bench;

/// <summary>How well the ear does on a set of clips, of any size; and how long it takes and what it holds on long sounds.</summary>
internal static class TheEar
{
    /// <summary>By kind of sound, family and loudness. A set is made by tools/ear make-set FOLDER COUNT.</summary>
    public static async Task ScoreAsync(string folder)
    {
        var clips = new List<SetToHear.Clip>();
        await foreach (var clip in SetToHear.HearAsync(folder, ShippedEar.Find()!)) clips.Add(clip);
        foreach (var kind in clips.Select(c => c.Truth.Kind).Distinct().Order().Prepend("all").ToList())
        {
            var own = clips.Where(c => kind == "all" || c.Truth.Kind == kind).ToList();
            SetToHear.Count Sum(Func<SetToHear.Clip, SetToHear.Count> of) => own.Select(of).Aggregate((a, b) => a + b);
            Tell($"{kind}, {own.Count} clips: onset F {Sum(c => SetToHear.Onsets(c)).F:0.000} at 50 ms, "
                + $"{Sum(c => SetToHear.Onsets(c, 0.025)).F:0.000} at 25; "
                + $"family F {Ear.Families.Select(f => Sum(c => SetToHear.Of(c, f))).Aggregate((a, b) => a + b).F:0.000}; "
                + $"tempo {own.Count(SetToHear.IsTempoRight)}, bar lines {own.Count(SetToHear.AreBarsRight)}");
            foreach (var family in Ear.Families)
            {
                var of = Sum(c => SetToHear.Of(c, family));
                var byLoudness = Enumerable.Range(0, 4).Select(q =>
                    Sum(c => SetToHear.Found(c, family, q / 4.0, q == 3 ? 2 : (q + 1) / 4.0)));
                Tell($"  {family,-6} F {of.F:0.000} precision {(double)of.Hits / Math.Max(1, of.Found):0.000} "
                    + $"recall {(double)of.Hits / Math.Max(1, of.True):0.000}; found, soft to loud: "
                    + string.Join(", ", byLoudness.Select(c => $"{c.Hits} of {c.True}")));
            }
        }
    }

    /// <summary>Noise with knocks, as mono at 44.1 kHz: seconds it takes, and megabytes that the process holds at most.</summary>
    public static void Hear(int minutes)
    {
        using var process = Process.GetCurrentProcess();
        var before = process.PeakWorkingSet64;
        var (ear, random, watch) = (ShippedEar.Find()!, new Random(1), Stopwatch.StartNew());
        var pass = new EarPass(ear, 44_100);
        var second = new float[44_100];
        for (var at = 0; at < minutes * 60; at++)
        {
            for (var i = 0; i < second.Length; i++)
                second[i] = (float)((random.NextDouble() - 0.5) * (0.002 + Math.Exp(-(i % 11_025) / 900.0)));
            pass.Add(second);
        }
        var strokes = HeardStrokes.In(pass.End(), ear).Count;
        process.Refresh();
        Tell($"{minutes} minutes: {strokes} strokes in {watch.Elapsed.TotalSeconds:0.0} s; "
            + $"at most {process.PeakWorkingSet64 / 1e6:0} MB held by the process, {before / 1e6:0} of them before the ear was read");
    }

    private static void Tell(string line) => Console.WriteLine(line);
}
