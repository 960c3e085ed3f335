using System.Buffers.Binary;
using System.Text;

namespace InnerCadence.Core.Playing;

/// <summary>WAV files of 16 bits (RIFF, PCM).</summary>
public static class Wav
{
    /// <param name="samples">Interleaved, -1 to 1; beyond is cut off.</param>
    public static byte[] Write(ReadOnlySpan<float> samples, int channels, int rate = Synth.Rate)
    {
        var file = new byte[44 + samples.Length * 2];
        Encoding.ASCII.GetBytes("RIFF", file);
        Number(4, file.Length - 8);
        Encoding.ASCII.GetBytes("WAVEfmt ", file.AsSpan(8));
        Number(16, 16);
        Short(20, 1);
        Short(22, channels);
        Number(24, rate);
        Number(28, rate * channels * 2);
        Short(32, channels * 2);
        Short(34, 16);
        Encoding.ASCII.GetBytes("data", file.AsSpan(36));
        Number(40, samples.Length * 2);
        for (var i = 0; i < samples.Length; i++) Short(44 + i * 2, (short)Math.Round(Math.Clamp(samples[i], -1f, 1f) * short.MaxValue));
        return file;

        void Number(int at, int value) => BinaryPrimitives.WriteInt32LittleEndian(file.AsSpan(at), value);
        void Short(int at, int value) => BinaryPrimitives.WriteInt16LittleEndian(file.AsSpan(at), (short)value);
    }
}
