using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>How far a stroke was played from where it is written (time.md, "Micro-timing").</summary>
/// <param name="Milliseconds">Late positive.</param>
/// <param name="Sureness">How clearly its start was heard, 0 to 1; 1 where a machine told it.</param>
/// <param name="Flam">Milliseconds from its grace stroke to it; nothing where none was heard.</param>
/// <param name="Loudness">As MIDI velocity / 127; nothing where nobody knows.</param>
public readonly record struct StrokeOffset(Tick At, Voice Voice, double Milliseconds, double Sureness = 1, double? Flam = null,
    double? Loudness = null);
