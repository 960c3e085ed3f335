using System.Buffers.Binary;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Interchange;

/// <summary>A stroke in a MIDI file.</summary>
/// <param name="At">In ticks of the file.</param>
/// <param name="Choked">Pressed after it sounded (polyphonic pressure).</param>
public sealed record MidiNote(long At, int Channel, int Note, int Velocity, bool Choked = false);

/// <summary>What a standard MIDI file says as far as drumming goes: notes, tempos in quarters a minute, meters.</summary>
/// <param name="PerQuarter">Ticks in a quarter.</param>
public sealed record MidiFile(int PerQuarter, ValueList<MidiNote> Notes, ValueList<(long At, double Tempo)> Tempos,
    ValueList<(long At, int Counts, int Lower)> Meters, string Title)
{
    private const int MostNotes = 200_000, NoteLengthParts = 8;

    /// <summary>Reads types 0 and 1 (and the tracks of type 2 as one), running status, any division; unknown chunks, events and text are
    /// passed over.</summary>
    /// <param name="problem">A sentence where the bytes are no such file.</param>
    /// <returns>Nothing where they are none.</returns>
    public static MidiFile? Read(ReadOnlySpan<byte> bytes, out string? problem)
    {
        problem = null;
        if (bytes.Length < 14 || !bytes[..4].SequenceEqual("MThd"u8))
        {
            problem = bytes.Length == 0 ? "The file is empty." : "This is no MIDI file: it does not begin as one does.";
            return null;
        }
        var head = BinaryPrimitives.ReadUInt32BigEndian(bytes[4..]);
        if (head < 6 || head > 1000 || bytes.Length < 8 + head)
        {
            problem = "The head of this MIDI file is cut off.";
            return null;
        }
        var division = BinaryPrimitives.ReadUInt16BigEndian(bytes[12..]);
        // Frames and ticks of a frame: at 120 a quarter is half a second.
        var perQuarter = (division & 0x8000) == 0 ? division : Math.Max(1, (256 - (division >> 8)) * (division & 0xFF) / 2);
        if (perQuarter == 0)
        {
            problem = "This MIDI file says that a quarter has no ticks.";
            return null;
        }
        var (notes, tempos, meters, title) = (new List<MidiNote>(), new List<(long, double)>(), new List<(long, int, int)>(), "");
        var (at, tracks) = ((long)(8 + head), 0);
        while (at + 8 <= bytes.Length)
        {
            var chunk = bytes[(int)at..];
            var length = BinaryPrimitives.ReadUInt32BigEndian(chunk[4..]);
            var isTrack = chunk[..4].SequenceEqual("MTrk"u8);
            var body = chunk[8..(int)Math.Min(chunk.Length, 8 + (long)length)];
            if (isTrack)
            {
                tracks++;
                if (8 + (long)length > chunk.Length) problem = "The end of this MIDI file is cut off; what comes before is read.";
                if (!ReadTrack(body, notes, tempos, meters,
                    ref title)) problem ??= "A track of this MIDI file breaks off; what comes before is read.";
                if (notes.Count > MostNotes)
                {
                    problem = $"This MIDI file has more than {MostNotes} notes.";
                    return null;
                }
            }
            at += 8 + (long)length;
        }
        if (tracks == 0)
        {
            problem = "This MIDI file has no track.";
            return null;
        }
        return new(perQuarter, [.. notes.OrderBy(n => n.At).ThenBy(n => n.Note)], [.. tempos.OrderBy(t => t.Item1)],
            [.. meters.OrderBy(m => m.Item1)], title);
    }

    /// <summary>False where the track breaks off in the middle of an event.</summary>
    private static bool ReadTrack(ReadOnlySpan<byte> track, List<MidiNote> notes, List<(long, double)> tempos,
        List<(long, int, int)> meters, ref string title)
    {
        var (i, at, status) = (0, 0L, 0);
        while (i < track.Length)
        {
            if (!Variable(track, ref i, out var delta)) return false;
            at += delta;
            if (i >= track.Length) return false;
            if (track[i] >= 0x80) status = track[i++];
            if (status == 0xFF)
            {
                if (i >= track.Length) return false;
                var type = track[i++];
                if (!Variable(track, ref i, out var length) || i + length > track.Length) return false;
                var data = track.Slice(i, (int)length);
                i += (int)length;
                if (type == 0x2F) return true;
                if (type == 0x51 && length == 3 && (data[0] << 16 | data[1] << 8 | data[2]) is > 0
                    and var micros) tempos.Add((at, 60_000_000.0 / micros));
                if (type == 0x58 && length >= 2 && data[1] <= 5) meters.Add((at, data[0], 1 << data[1]));
                if (type == 0x03 && title.Length == 0 && length is > 0 and <= 200) title = Printable(data);
            }
            else if (status is 0xF0 or 0xF7)
            {
                if (!Variable(track, ref i, out var length) || i + length > track.Length) return false;
                i += (int)length;
            }
            else if (status >= 0x80)
            {
                var size = (status & 0xF0) is 0xC0 or 0xD0 ? 1 : 2;
                if (i + size > track.Length) return false;
                var (first, second) = (track[i], size == 2 ? track[i + 1] : (byte)0);
                i += size;
                var channel = status & 0x0F;
                if ((status & 0xF0) == 0x90 && second > 0 && first < 128) notes.Add(new(at, channel, first, second & 0x7F));
                if ((status & 0xF0) == 0xA0 && second > 0 && notes.FindLastIndex(n => n.Note == first && n.Channel == channel
                    && n.At <= at) is >= 0 and var k) notes[k] = notes[k] with { Choked = true };
            }
            else return false;
        }
        return true;
    }

    private static bool Variable(ReadOnlySpan<byte> bytes, ref int i, out long value)
    {
        value = 0;
        for (var n = 0; n < 4 && i < bytes.Length; n++)
        {
            value = value << 7 | (uint)(bytes[i] & 0x7F);
            if (bytes[i++] < 0x80) return true;
        }
        return false;
    }

    private static string Printable(ReadOnlySpan<byte> data) =>
        new([.. System.Text.Encoding.UTF8.GetString(data).Where(c => !char.IsControl(c) && c != '\uFFFD')]);

    /// <summary>Type 1: a track of tempo and meter, a track of notes on the percussion channel.</summary>
    public byte[] Write()
    {
        var conductor = new List<(long At, byte[] Data)>();
        if (Title.Length > 0) conductor.Add((0, Meta(0x03, System.Text.Encoding.UTF8.GetBytes(Title))));
        foreach (var (at, tempo) in Tempos)
        {
            var micros = (int)Math.Round(60_000_000 / tempo);
            conductor.Add((at, Meta(0x51, [(byte)(micros >> 16), (byte)(micros >> 8), (byte)micros])));
        }
        foreach (var (at, counts, lower) in Meters) conductor.Add((at, Meta(0x58, [(byte)counts, (byte)Math.Log2(lower), 24, 8])));
        var strokes = new List<(long At, byte[] Data)>();
        foreach (var note in Notes)
        {
            var end = note.At + Math.Max(1, PerQuarter / NoteLengthParts);
            strokes.Add((note.At, [(byte)(0x90 | note.Channel), (byte)note.Note, (byte)note.Velocity]));
            if (note.Choked) strokes.Add((end - 1 > note.At ? end - 1 : note.At, [(byte)(0xA0 | note.Channel), (byte)note.Note, 127]));
            strokes.Add((end, [(byte)(0x80 | note.Channel), (byte)note.Note, 64]));
        }
        var file = new List<byte>();
        file.AddRange("MThd"u8);
        file.AddRange([0, 0, 0, 6, 0, 1, 0, 2, (byte)(PerQuarter >> 8), (byte)PerQuarter]);
        foreach (var events in (List<(long At, byte[] Data)>[])[conductor, strokes])
        {
            var track = new List<byte>();
            var last = 0L;
            foreach (var (at, data) in events.OrderBy(e => e.At).ThenBy(e => (e.Data[0] & 0xF0) == 0x80 ? 0 : 1))
            {
                Delta(track, at - last);
                track.AddRange(data);
                last = at;
            }
            track.AddRange([0, 0xFF, 0x2F, 0]);
            file.AddRange("MTrk"u8);
            file.AddRange([(byte)(track.Count >> 24), (byte)(track.Count >> 16), (byte)(track.Count >> 8), (byte)track.Count]);
            file.AddRange(track);
        }
        return [.. file];
    }

    private static byte[] Meta(byte type, byte[] data) => data.Length < 128 ? [0xFF, type, (byte)data.Length, .. data]
        : [0xFF, type, (byte)(0x80 | data.Length >> 7), (byte)(data.Length & 0x7F), .. data];

    private static void Delta(List<byte> track, long delta)
    {
        var parts = new Stack<byte>();
        parts.Push((byte)(delta & 0x7F));
        for (delta >>= 7; delta > 0; delta >>= 7) parts.Push((byte)(0x80 | (delta & 0x7F)));
        track.AddRange(parts);
    }
}
