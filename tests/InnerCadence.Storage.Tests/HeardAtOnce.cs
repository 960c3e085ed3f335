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
}
