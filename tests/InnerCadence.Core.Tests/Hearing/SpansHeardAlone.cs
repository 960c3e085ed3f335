using System.Reflection;
using System.Runtime.Loader;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>The ear that ships, on long sounds: what is heard does not hang on how much of them is read.</summary>
public class SpansHeardAlone
{
    private const int Seconds = 130;
    private static readonly Lazy<Ear> Shipped = new(() => Ear.Load(Network("ear"), Network("pulse"))!);

    private static byte[] Network(string name) => File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "networks", name + ".onnx"));

    /// <summary>Knocks that are never twice alike.</summary>
    private static float[] Knocks(int rate)
    {
        var (sound, random) = (new float[Seconds * rate], new Random(4));
        for (var at = 0.3; at < Seconds - 0.5; at += random.NextDouble() * 0.4 + 0.08)
        {
            var (hertz, falls, loud) = (random.Next(60, 6000), random.Next(8, 90), random.NextSingle() * 0.6f + 0.1f);
            for (var i = 0; i < rate / 3; i++)
                sound[(int)(at * rate) + i] += loud * MathF.Exp(-(float)i * falls / rate) * MathF.Sin(i * 2 * MathF.PI * hertz / rate);
        }
        return sound;
    }

    private static Activations Heard(float[] sound, int rate, EarSpan? span = null)
    {
        var pass = new EarPass(Shipped.Value, rate, span);
        var (from, to) = span is { } part ? ((int)(part.From.Value * rate), Math.Min(sound.Length, (int)(part.To.Value * rate)))
            : (0, sound.Length);
        foreach (var piece in sound[from..to].Chunk(16_384)) pass.Add(piece);
        return pass.End();
    }

    [Theory]
    [InlineData(44_100, 0)]
    [InlineData(48_000, 1)]
    public void A_span_heard_alone_is_what_the_whole_gives(int rate, int within)
    {
        var sound = Knocks(rate);
        var whole = Heard(sound, rate);
        foreach (var (from, to, windows) in ((double, double, int)[])[(2, 9, 1), (35, 41, 1), (58, 62, 2), (121, 129, 1)])
        {
            var span = EarSpan.Over(new(from), new(to));
            span.Windows.ShouldBe(windows);
            var alone = Heard(sound, rate, span);
            for (var frame = (int)(from * Ear.FramesPerSecond); frame < to * Ear.FramesPerSecond; frame++)
                for (var family = 0; family < Ear.Families.Count; family++)
                    (alone.Strength(family, frame) * 255).ShouldBe(whole.Strength(family, frame) * 255, within + 0.01, $"frame {frame}");
            alone.Strength(0, EarPass.Window * (int)(from / 30) - 1).ShouldBe(0);
        }
    }

    [Fact]
    public void A_span_of_an_echoing_sound_is_what_the_whole_gives()
    {
        var (sound, random) = (Knocks(44_100), new Random(8));
        for (var i = 0; i < sound.Length; i++) sound[i] += 0.05f * (random.NextSingle() - 0.5f) * (1 + MathF.Sin(i / 9000f));
        for (var i = sound.Length - 1; i >= 5000; i--) sound[i] += 0.45f * sound[i - 5000];
        var pass = new EarPass(Shipped.Value, 44_100);
        foreach (var piece in sound.Chunk(16_384)) pass.Add(piece);
        var whole = pass.End();
        whole.Echoes.ShouldHaveSingleItem().After.Value.ShouldBe(5000 / 44_100.0, 1e-6);
        whole.Echoes[0].To.Value.ShouldBe(Seconds, 0.05);
        var alone = Heard(sound, 44_100, EarSpan.Over(new(64), new(70)));
        for (var frame = 6400; frame < 7000; frame++)
            for (var family = 0; family < Ear.Families.Count; family++)
                alone.Strength(family, frame).ShouldBe(whole.Strength(family, frame), 1e-9, $"frame {frame}");
    }

    [Fact]
    public void The_beat_is_the_same_however_it_is_cut()
    {
        var heard = Heard(Knocks(44_100), 44_100);
        var (random, strengths) = (new Random(7), new float[heard.Pulses * Ear.Families.Count]);
        for (var i = 0; i < strengths.Length; i++) strengths[i] = random.NextDouble() < 0.08 ? random.NextSingle() : 0;
        var pass = new PulsePass(Shipped.Value);
        foreach (var families in strengths.Chunk(Ear.Families.Count)) pass.Add(families);
        var whole = new float[strengths.Length / Ear.Families.Count * 2];
        Shipped.Value.Beats(strengths, whole);
        pass.End().ShouldBe(whole.Select(Activations.Kept));
    }

    [Fact]
    public void Without_its_library_there_is_no_ear_and_no_fault()
    {
        var alone = new WithoutLibraries();
        var load = alone.LoadFromAssemblyPath(typeof(Ear).Assembly.Location).GetType(typeof(Ear).FullName!)!
            .GetMethod(nameof(Ear.Load), BindingFlags.Public | BindingFlags.Static)!;
        load.Invoke(null, [Network("ear"), Network("pulse")]).ShouldBeNull();
        alone.Unload();
    }

    /// <summary>The same program on a system for which the runtime has no library.</summary>
    private sealed class WithoutLibraries() : AssemblyLoadContext(isCollectible: true)
    {
        protected override Assembly? Load(AssemblyName name) => name.Name == "Microsoft.ML.OnnxRuntime"
            ? LoadFromAssemblyPath(Path.Combine(AppContext.BaseDirectory, name.Name + ".dll")) : null;

        protected override nint LoadUnmanagedDll(string name) => throw new DllNotFoundException(name);
    }
}
