namespace InnerCadence.Core.Hearing;

/// <summary>What the ear heard of a sound, 100 frames a second, and where it takes the beat to be, 50 a second.</summary>
/// <param name="heard"><see cref="Ear.Outputs"/> a frame, 255 for 1.</param>
/// <param name="pulse">Beat and bar line a pulse frame, 255 for 1; empty where only a span was heard.</param>
/// <param name="first">The frame at which what was heard begins.</param>
public sealed class Activations(byte[] heard, byte[] pulse, int first = 0)
{
    /// <summary>Where the outputs begin, in a frame.</summary>
    private const int Kinds = 7, Struck = 11, Pitch = 19;
    internal const int Velocities = 12;

    /// <summary>Up to where it was heard.</summary>
    public int Frames => first + heard.Length / Ear.Outputs;

    /// <summary>The whole sound was heard, its beat too; else a span of it.</summary>
    public bool IsWhole => first == 0 && (pulse.Length > 0 || heard.Length <= Ear.Outputs);

    /// <summary>Taken out before it was listened to, in order.</summary>
    public IReadOnlyList<HeardEcho> Echoes { get; init; } = [];

    public int Pulses => pulse.Length / 2;

    /// <summary>As they are kept.</summary>
    public ReadOnlyMemory<byte> Heard => heard;
    public ReadOnlyMemory<byte> Pulse => pulse;

    /// <summary>How sure it is that the family was struck, 0 to 1.</summary>
    internal double Strength(int family, int frame) => At(frame, family);

    /// <summary>How sure it is that anything was struck, 0 to 1.</summary>
    internal double Onset(int frame) => At(frame, Struck);

    /// <summary>How loud a stroke of the family is there, 0 to 1.</summary>
    internal double Loudness(int family, int frame) => At(frame, Velocities + family);

    /// <summary>Of a stroke that is there: how sure it is that it was this kind of its family.</summary>
    internal double Kind(EarKind kind, int frame) => At(frame, Kinds + (int)kind);

    /// <summary>Of a tom: 0 at 50 Hz, 1 at 400 Hz, in octaves.</summary>
    internal double TomPitch(int frame) => At(frame, Pitch);

    internal double Beat(int at) => at >= 0 && at < Pulses ? pulse[2 * at] / 255.0 : 0;
    internal double BarLine(int at) => at >= 0 && at < Pulses ? pulse[2 * at + 1] / 255.0 : 0;

    /// <summary>The strongest within a frame.</summary>
    internal double BarLineNear(int at) => Math.Max(BarLine(at), Math.Max(BarLine(at - 1), BarLine(at + 1)));

    private double At(int frame, int output) => frame >= first && frame < Frames
        ? heard[(frame - first) * Ear.Outputs + output] / 255.0 : 0;

    internal static byte Kept(float value) => (byte)Math.Clamp(MathF.Round(value * 255), 0, 255);
}

/// <summary>What a family's stroke can be besides its usual voice.</summary>
internal enum EarKind { CrossStick, OpenHat, HatFoot, Cowbell }
