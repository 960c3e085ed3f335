using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>The clock of one issue of a recording against the recording's own.</summary>
/// <param name="Speed">How fast the issue runs: 1.02 is two in a hundred sharp and short.</param>
/// <param name="Offset">Milliseconds of the issue before the recording begins; negative where its start is cut.</param>
public sealed record IssueClock(double Speed, int Offset)
{
    public static IssueClock Same { get; } = new(1, 0);

    /// <summary>Where on the issue a time of the recording sounds; nothing where it is cut off.</summary>
    public ClockTime? OnIssue(ClockTime at) => Whole(Offset + at.Milliseconds / Speed);

    /// <summary>The recording's time of a time on the issue; nothing before it begins.</summary>
    public ClockTime? OnRecording(ClockTime at) => Whole((at.Milliseconds - Offset) * Speed);

    private static ClockTime? Whole(double ms) => Math.Round(ms) is >= 0 and < 86_400_000 and var whole ? new ClockTime((int)whole) : null;
}
