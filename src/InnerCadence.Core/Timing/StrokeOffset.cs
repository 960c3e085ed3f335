using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>How far a stroke was played from where it is written (time.md, "Micro-timing").</summary>
/// <param name="Milliseconds">Late positive.</param>
public readonly record struct StrokeOffset(Tick At, Voice Voice, double Milliseconds);
