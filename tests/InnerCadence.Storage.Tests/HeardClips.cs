using System.Text.Json;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Storage.Tests;

/// <summary>The ear on clips whose truth is known, of kits and music that it was not trained on (tests/clips, made by tools/ear
/// make-set).</summary>
public class HeardClips : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("inner-cadence-clips").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private sealed record Truth(string Kind, string Meter, double Bpm, IReadOnlyList<Truth.Struck> Strokes, IReadOnlyList<Truth.Beat> Beats)
    {
        public sealed record Struck(double At, string Voice, double Loudness);
        public sealed record Beat(double At, bool Bar);
    }

    private static readonly JsonSerializerOptions Web = new(JsonSerializerDefaults.Web);

    private static Family FamilyOf(string voice) => voice switch
    {
        "kick" => Family.Kick,
        "snare" or "stick" => Family.Snare,
        "closed" or "open" or "foot" => Family.Hat,
        "ride" => Family.Ride,
        "crash" => Family.Crash,
        "tom" => Family.Tom,
        _ => Family.Bell,
    };

    /// <summary>How many of two ascending lists pair off within so many seconds.</summary>
    private static (int Hits, int Found, int True) Matched(IEnumerable<double> found, IEnumerable<double> truth, double within)
    {
        var (a, b) = (found.Order().ToList(), truth.Order().ToList());
        var (i, j, hits) = (0, 0, 0);
        while (i < a.Count && j < b.Count)
            if (Math.Abs(a[i] - b[j]) <= within) (i, j, hits) = (i + 1, j + 1, hits + 1);
            else if (a[i] < b[j]) i++;
            else j++;
        return (hits, a.Count, b.Count);
    }

    private static double F(IEnumerable<(int Hits, int Found, int True)> counts) =>
        2.0 * counts.Sum(c => c.Hits) / Math.Max(1, counts.Sum(c => c.Found + c.True));

    private static IEnumerable<double> Moments(IEnumerable<double> times)
    {
        var last = double.NegativeInfinity;
        foreach (var at in times.Order())
            if (at - last > 0.03) yield return last = at;
    }

    [Fact]
    public async Task The_ear_is_as_good_as_it_is_said_to_be()
    {
        var stop = TestContext.Current.CancellationToken;
        var ear = ShippedEar.Find();
        ear.ShouldNotBeNull();
        var (onsets, families, tempos, bars, clips) = (new List<(int, int, int)>(), new List<(int, int, int)>(), 0, 0, 0);
        foreach (var file in Directory.EnumerateFiles(Path.Combine(AppContext.BaseDirectory, "clips"), "*.json").Order())
        {
            var truth = JsonSerializer.Deserialize<Truth>(await File.ReadAllTextAsync(file, stop), Web)!;
            var heard = await HeardAsync(Path.ChangeExtension(file, ".flac"), ear, stop);
            var strokes = HeardStrokes.In(heard, ear);
            var beats = HeardBeats.Of(heard, strokes);
            onsets.Add(Matched(Moments(strokes.Select(s => s.At.Value)), Moments(truth.Strokes.Select(s => s.At)), 0.05));
            families.AddRange(Enum.GetValues<Family>().Select(family => Matched(strokes.Where(s => s.Family == family)
                .Select(s => s.At.Value),
                truth.Strokes.Where(s => FamilyOf(s.Voice) == family).Select(s => s.At), 0.05)));
            var felt = truth.Meter is "6/8" or "12/8" ? truth.Bpm / 1.5 : truth.Bpm;
            if (beats.Tempos.Count > 0 && Math.Abs(beats.Tempos[0].Bpm / felt - 1) < 0.04) tempos++;
            if (F([Matched(beats.Beats.Where(b => b.Bar).Select(b => b.At.Value), truth.Beats.Where(b => b.Bar).Select(b => b.At),
                0.07)]) > 0.8) bars++;
            clips++;
            TestContext.Current.TestOutputHelper?.WriteLine(FormattableString.Invariant(
                $"{Path.GetFileNameWithoutExtension(file)} {truth.Kind} {truth.Meter} {felt:0.0}: {string.Join(", ", beats.Tempos.Select(t => FormattableString.Invariant($"{t.Bpm:0.0}")))}; ")
                + $"bars at {string.Join(' ', beats.Beats.Where(b => b.Bar).Take(4).Select(b => FormattableString.Invariant($"{b.At.Value:0.00}")))} for {string.Join(' ', truth.Beats.Where(b => b.Bar).Take(4).Select(b => FormattableString.Invariant($"{b.At:0.00}")))}");
        }
        clips.ShouldBe(24);
        TestContext.Current.TestOutputHelper?.WriteLine($"onset F {F(onsets):0.000}, family F {F(families):0.000}, tempo {tempos}, bars "
            + $"{bars}");
        F(onsets).ShouldBeGreaterThan(0.92);
        F(families).ShouldBeGreaterThan(0.70);
        tempos.ShouldBeGreaterThanOrEqualTo(15);
        bars.ShouldBeGreaterThanOrEqualTo(8);
    }

    private async Task<Activations> HeardAsync(string flac, Ear ear, CancellationToken stop)
    {
        var wav = Path.Combine(folder, "clip.wav");
        await new MediaTool().ConvertAsync(flac, ["-f", "wav"], wav, TimeSpan.FromSeconds(60), null, stop);
        var bytes = await File.ReadAllBytesAsync(wav, stop);
        var head = WavHead.Read(bytes, bytes.Length).Head!;
        var mono = new float[head.Frames];
        head.Decode(bytes.AsSpan((int)head.DataStart, (int)head.DataBytes), mono);
        var pass = new EarPass(ear, head.Rate);
        foreach (var piece in mono.Chunk(10_000)) pass.Add(piece);
        return pass.End();
    }
}
