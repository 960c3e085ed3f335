using System.Buffers.Binary;
using System.Text;
using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Playing;

/// <summary>WAV files of all kinds, honest and not; their overview; simulated recordings.</summary>
public class SoundFiles
{
    [Theory]
    [InlineData(8, false, 0.02)]
    [InlineData(16, false, 1e-4)]
    [InlineData(24, false, 1e-6)]
    [InlineData(32, false, 1e-7)]
    [InlineData(32, true, 1e-7)]
    [InlineData(64, true, 1e-7)]
    public void Every_width_of_sample_is_read(int bits, bool isFloat, double near) =>
        Gen.Select(Gen.Double[-0.99, 0.99].Array[1, 50], Gen.Int[1, 8], Gen.Int[8000, 192_000]).Sample((samples, channels, rate) =>
        {
            var file = File(samples, channels, rate, bits, isFloat);
            var (head, problem) = WavHead.Read(file, file.Length);
            problem.ShouldBeNull();
            (head!.Channels, head.Rate, head.Bits, head.Frames).ShouldBe((channels, rate, bits, (long)samples.Length));
            var mono = new float[samples.Length];
            head.Decode(file.AsSpan((int)head.DataStart), mono, new()).ShouldBe(samples.Length);
            for (var i = 0; i < samples.Length; i++) ((double)mono[i]).ShouldBe(samples[i], near);
        }, iter: 50);

    [Fact]
    public void What_this_application_writes_it_reads_too()
    {
        var file = Wav.Write([0.5f, -0.5f, 0.25f], 1);
        var head = WavHead.Read(file, file.Length).Head!;
        (head.Rate, head.Bits, head.Frames).ShouldBe((Synth.Rate, 16, 3L));
    }

    [Fact]
    public void Chunks_before_the_sound_and_an_open_size_are_fine()
    {
        var file = File([0.1, 0.2], 1, 44100, 16, false);
        byte[] list = [.. "LIST"u8, 3, 0, 0, 0, 1, 2, 3, 0];
        byte[] with = [.. file[..12], .. list, .. file[12..]];
        WavHead.Read(with, with.Length).Head!.Frames.ShouldBe(2);
        BinaryPrimitives.WriteUInt32LittleEndian(file.AsSpan(40), uint.MaxValue);
        WavHead.Read(file, file.Length).Head!.Frames.ShouldBe(2);
    }

    public static TheoryData<byte[], string> Bad
    {
        get
        {
            var good = File([0.1, 0.2, 0.3], 1, 44100, 16, false);
            byte[] With(int at, params byte[] bytes)
            {
                var copy = (byte[])good.Clone();
                bytes.CopyTo(copy, at);
                return copy;
            }
            return new()
            {
                { [], "empty" }, { Encoding.ASCII.GetBytes("this is a text that was named wav"), "no WAV file" }, { good[..30], "broken" },
                    { good[..46], "cut off: it says it has 6 bytes" },
                { With(0, "RF64"u8.ToArray()), "beyond 4 GB" }, { With(20, 2, 0), "not read" }, { With(22, 9, 0), "not read" },
                    { With(24, 1, 0, 0, 0), "not read" }, { With(34, 12, 0), "not read" },
                { With(16, 255, 255, 255, 127), "broken" }, { With(12, "junk"u8.ToArray()), "broken" },
            };
        }
    }

    [Theory, MemberData(nameof(Bad))]
    public void A_file_that_is_not_what_it_says_is_told_in_a_sentence(byte[] file, string told)
    {
        var (head, problem) = WavHead.Read(file, file.Length);
        head.ShouldBeNull();
        problem!.ShouldContain(told);
        problem.ShouldEndWith(".");
    }

    [Fact]
    public void Any_bytes_can_be_looked_at() => Gen.Byte.Array[0, 200]
        .Sample(bytes => WavHead.Read([.. "RIFF\0\0\0\0WAVEfmt "u8, .. bytes], 16 + bytes.Length));

    [Fact]
    public void An_overview_has_fifty_columns_a_second_however_it_is_fed() =>
        Gen.Select(Gen.Float[-1, 1].Array[1, 4000], Gen.Int[1, 500], Gen.Int[8000, 48000]).Sample((samples, step, rate) =>
    {
        var (whole, parts) = (new Overview(rate), new Overview(rate));
        whole.Add(samples);
        for (var i = 0; i < samples.Length; i += step) parts.Add(samples.AsSpan(i, Math.Min(step, samples.Length - i)));
        parts.Columns().ShouldBe(whole.Columns());
        whole.Columns().Length.ShouldBe((int)Math.Ceiling((double)samples.Length * Overview.AColumn / rate));
        whole.Columns().Max().ShouldBe((byte)Math.Round(samples.Max(Math.Abs) * 255));
    });

    [Fact]
    public void A_simulated_recording_sounds_where_its_map_says_and_is_the_same_each_time()
    {
        var grid = new BarGrid(MeterCycle.CommonTime);
        var map = TempoMap.Of(grid, [new(1, new(500)), new(5, new(8500))], null)!;
        PlacedPassage[] passages = [new(1, CountLines.Parse("BD: 1\nSN: 3").Passage, true)];
        float[] Render() => Simulation.Render(map, grid, 4, new(9), passages, Synth.Render, 7);
        var sound = Render();
        sound.Length.ShouldBe(9 * Synth.Rate);
        sound.ShouldBe(Render());
        double Loud(double from, double to) => sound.AsSpan((int)(from * Synth.Rate), (int)((to - from) * Synth.Rate)).ToArray()
            .Max(Math.Abs);
        foreach (var bar in Enumerable.Range(1, 4))
        {
            var start = map.SecondsOf(new(bar, Tick.Zero));
            Loud(start + 0.98, start + 1.1).ShouldBeGreaterThan(3 * Loud(start + 0.8, start + 0.96), $"the snare on 3 of bar {bar}");
        }
        Loud(0, 0.4).ShouldBe(0, 1e-6);
    }

    private static byte[] File(double[] samples, int channels, int rate, int bits, bool isFloat)
    {
        var bytes = bits / 8;
        var file = new byte[44 + samples.Length * channels * bytes];
        "RIFF"u8.CopyTo(file);
        BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(4), file.Length - 8);
        "WAVEfmt "u8.CopyTo(file.AsSpan(8));
        BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(16), 16);
        BinaryPrimitives.WriteInt16LittleEndian(file.AsSpan(20), (short)(isFloat ? 3 : 1));
        BinaryPrimitives.WriteInt16LittleEndian(file.AsSpan(22), (short)channels);
        BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(24), rate);
        BinaryPrimitives.WriteInt16LittleEndian(file.AsSpan(34), (short)bits);
        "data"u8.CopyTo(file.AsSpan(36));
        BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(40), file.Length - 44);
        for (var i = 0; i < samples.Length * channels; i++)
        {
            var at = file.AsSpan(44 + i * bytes);
            var value = samples[i / channels];
            if (isFloat && bits == 32) BinaryPrimitives.WriteSingleLittleEndian(at, (float)value);
            else if (isFloat) BinaryPrimitives.WriteDoubleLittleEndian(at, value);
            else if (bits == 8) at[0] = (byte)Math.Round(value * 127 + 128);
            else for (var b = 0; b < bytes; b++) at[b] = (byte)((long)Math.Round(value * ((1L << (bits - 1)) - 1)) >> (8 * b));
        }
        return file;
    }
}
