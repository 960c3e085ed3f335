using System.Buffers.Binary;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>What the head of a WAV file says about the samples after it.</summary>
/// <param name="Bits">8 to 32 as whole numbers, 32 or 64 as floating ones.</param>
/// <param name="DataStart">First byte of the samples.</param>
/// <param name="DataBytes">Bytes of samples, whole frames only.</param>
public sealed record WavHead(int Channels, int Rate, int Bits, bool IsFloat, long DataStart, long DataBytes)
{
    /// <summary>The head lies in the first so many bytes, or the file is refused.</summary>
    public const int Most = 1024 * 1024;

    public int FrameBytes => Channels * Bits / 8;
    public long Frames => DataBytes / FrameBytes;
    public Seconds Seconds => new((double)Frames / Rate);

    /// <summary>Reads the head of a file.</summary>
    /// <param name="start">Its first bytes, up to <see cref="Most"/>.</param>
    /// <param name="length">Bytes of the whole file.</param>
    /// <returns>The head, or why it is not one, in a sentence.</returns>
    public static (WavHead? Head, string? Problem) Read(ReadOnlySpan<byte> start, long length)
    {
        if (length == 0) return (null, "The file is empty.");
        if (start.Length < 12 || !start[..4].SequenceEqual("RIFF"u8) || !start[8..12].SequenceEqual("WAVE"u8))
            return (null, start.Length >= 4 && start[..4].SequenceEqual("RF64"u8) ? "WAV files beyond 4 GB are not read: split the file."
                : "This is no WAV file, whatever its name says.");
        WavHead? format = null;
        for (long at = 12; at + 8 <= start.Length;)
        {
            var chunk = start.Slice((int)at, 8);
            long size = BinaryPrimitives.ReadUInt32LittleEndian(chunk[4..]);
            if (chunk[..4].SequenceEqual("fmt "u8))
            {
                if (size < 16 || at + 8 + size > start.Length) return (null, "The WAV file’s head is broken.");
                if (ReadFormat(start.Slice((int)at + 8, (int)size)) is not { } read) return (null,
                    "The WAV file holds a kind of sound that is not read: 8 to 32 bits or float, 8 to 192 kHz, 1 to 8 channels are.");
                format = read;
            }
            else if (chunk[..4].SequenceEqual("data"u8))
            {
                if (format is null) return (null, "The WAV file’s head is broken: it does not say what its samples are.");
                var left = length - at - 8;
                // Programs that write as they record leave the size open.
                if (size is 0 or uint.MaxValue) size = left;
                if (size > left) return (null,
                    $"The WAV file is cut off: it says it has {size:#,0} bytes of sound and ends after {left:#,0}.");
                size -= size % format.FrameBytes;
                return size == 0 ? (null, "The WAV file holds no sound.") : (format with { DataStart = at + 8, DataBytes = size }, null);
            }
            at += 8 + size + size % 2;
        }
        return (null, "The WAV file is cut off before its sound begins.");
    }

    private static WavHead? ReadFormat(ReadOnlySpan<byte> fmt)
    {
        var kind = BinaryPrimitives.ReadUInt16LittleEndian(fmt);
        // The extensible form says the kind in the first two bytes of its last field.
        if (kind == 0xFFFE && fmt.Length >= 26) kind = BinaryPrimitives.ReadUInt16LittleEndian(fmt[24..]);
        var (channels, rate, bits) = (BinaryPrimitives.ReadUInt16LittleEndian(fmt[2..]), BinaryPrimitives.ReadUInt32LittleEndian(fmt[4..]),
            BinaryPrimitives.ReadUInt16LittleEndian(fmt[14..]));
        var good = channels is >= 1 and <= 8 && rate is >= 8000 and <= 192_000
            && (kind == 1 ? bits is 8 or 16 or 24 or 32 : kind == 3 && bits is 32 or 64);
        return good ? new(channels, (int)rate, bits, kind == 3, 0, 0) : null;
    }

    /// <summary>Whole frames as one sample each, -1 to 1: two channels mixed down, the mean of more.</summary>
    /// <param name="frames">Bytes of whole frames.</param>
    /// <param name="mono">Room for them; gives back how many were written.</param>
    /// <param name="sides">The one of all frames of this file before.</param>
    public int Decode(ReadOnlySpan<byte> frames, Span<float> mono, SidesAsOne sides)
    {
        var count = frames.Length / FrameBytes;
        var bytes = Bits / 8;
        for (var frame = 0; frame < count; frame++)
        {
            double Channel(ReadOnlySpan<byte> frames, int channel) => Finite(Sample(frames.Slice(frame * FrameBytes + channel * bytes,
                bytes)));
            if (Channels == 2) mono[frame] = sides.Next(Channel(frames, 0), Channel(frames, 1));
            else
            {
                var sum = 0.0;
                for (var channel = 0; channel < Channels; channel++) sum += Channel(frames, channel);
                mono[frame] = (float)(sum / Channels);
            }
        }
        return count;
    }

    private static double Finite(double sample) => double.IsFinite(sample) ? Math.Clamp(sample, -1, 1) : 0;

    /// <summary>Whole frames as samples of each channel, -1 to 1; of more than two channels their mean.</summary>
    public float[][] DecodeChannels(ReadOnlySpan<byte> frames)
    {
        var count = frames.Length / FrameBytes;
        if (Channels > 2)
        {
            var mean = new float[count];
            Decode(frames, mean, new());
            return [mean];
        }
        var bytes = Bits / 8;
        var made = new float[Channels][];
        for (var channel = 0; channel < Channels; channel++)
        {
            made[channel] = new float[count];
            for (var frame = 0; frame < count; frame++)
            {
                made[channel][frame] = (float)Finite(Sample(frames.Slice(frame * FrameBytes + channel * bytes, bytes)));
            }
        }
        return made;
    }

    private double Sample(ReadOnlySpan<byte> at) => (Bits, IsFloat) switch
    {
        (8, _) => (at[0] - 128) / 128.0,
        (16, _) => BinaryPrimitives.ReadInt16LittleEndian(at) / 32768.0,
        (24, _) => ((at[0] << 8 | at[1] << 16 | at[2] << 24) >> 8) / 8388608.0,
        (32, false) => BinaryPrimitives.ReadInt32LittleEndian(at) / 2147483648.0,
        (32, true) => BinaryPrimitives.ReadSingleLittleEndian(at),
        _ => BinaryPrimitives.ReadDoubleLittleEndian(at),
    };
}
