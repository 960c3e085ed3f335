using InnerCadence.Core.Hearing;
using InnerCadence.Core.Playing;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Storage.Tests;

/// <summary>What somebody looks at is heard before the ear has gone over the whole.</summary>
public sealed class HeardAtOnce : IDisposable
{
    private const int Rate = Synth.Rate;
    private readonly string folder = Directory.CreateTempSubdirectory("inner-cadence-at-once").FullName;
    private static CancellationToken Stop => TestContext.Current.CancellationToken;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task A_stretch_is_heard_alone_until_the_whole_is_there()
    {
        var files = new SoundFiles(Path.Combine(folder, "sounds"));
        using var activations = new ActivationFiles(Path.Combine(folder, "heard"));
        using var excerpts = new Excerpts(files, new MediaTool("none"));
        using var atOnce = new EarAtOnce(activations, excerpts);
        var samples = new float[200 * Rate];
        var snare = Synth.Render(SoundKey.Parse("SN-normal-plain-0")!);
        for (var beat = 0; beat < 400; beat++) snare.AsSpan(0, Math.Min(snare.Length, Rate / 2)).CopyTo(samples.AsSpan(beat * Rate / 2));
        var hash = await files.KeepAsync(new MemoryStream(Wav.Write(samples, 1, Rate)), Stop);

        var alone = (await atOnce.OfAsync(hash, new(70), new(74), Stop)).ShouldNotBeNull();
        alone.IsWhole.ShouldBeFalse();
        var ear = ShippedEar.Find()!;
        HeardStrokes.In(alone, ear).ShouldContain(s => Math.Abs(s.At - 72) < 0.02);
        HeardStrokes.In(alone, ear).ShouldAllBe(s => s.At >= 60 && s.At < 90);
        (await atOnce.OfAsync(hash, new(0), new(199), Stop)).ShouldBeNull("that is worth waiting for");
        (await atOnce.OfAsync(new string('0', 64), new(0), new(2), Stop)).ShouldBeNull();

        var pass = new EarPass(ear, Rate);
        pass.Add(samples);
        await activations.KeepAsync(hash, ear.Version, pass.End(), Stop);
        (await atOnce.OfAsync(hash, new(0), new(199), Stop)).ShouldNotBeNull().IsWhole.ShouldBeTrue();
    }

    [Fact]
    public async Task What_was_heard_comes_back_as_it_was()
    {
        var (hash, place) = (new string('a', 64), Path.Combine(folder, "heard"));
        var heard = new Activations([.. Enumerable.Range(0, 40).Select(i => (byte)i)], [1, 2, 3, 4])
        {
            Echoes = [new(new(0), new(30), new(0.137), -8.5)],
        };
        using (var files = new ActivationFiles(place)) await files.KeepAsync(hash, "7", heard, Stop);
        using var again = new ActivationFiles(place);
        var back = (await again.FindAsync(hash, "7", Stop)).ShouldNotBeNull();
        back.Heard.ToArray().ShouldBe(heard.Heard.ToArray());
        back.Pulse.ToArray().ShouldBe(heard.Pulse.ToArray());
        back.Echoes.ShouldBe(heard.Echoes);
        (await again.FindAsync(hash, "8", Stop)).ShouldBeNull();
    }
}
