using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Claims;

public enum Standing { Open, Supported, Contradicted }

/// <summary>Something that a person can open and hear: a sighting, or a passage, or a recording.</summary>
public sealed record Witness(string Words, long? Sighting, long? Passage, long? Recording)
{
    public static Witness Of(Appearance occurrence, Performance performance) =>
        new(occurrence.Words, occurrence.Sighting, null, performance.Id);
    public static Witness Of(Performance performance) => new(performance.Name, null, null, performance.Id);
}

/// <summary>How a claim stands against the evidence, and why.</summary>
/// <param name="Reason">A sentence with the numbers in it.</param>
/// <param name="Figures">The numbers alone, so that two standings can be told apart: 7 of 19 recordings.</param>
public sealed record Stand(Standing Standing, string Reason, string Figures)
{
    public const string OutOfReach = "would take more than 1,000 bars";

    /// <summary>The interval it rests on, and the number it is held against; nothing where no interval decides.</summary>
    public Interval? Interval { get; init; }
    public double? Against { get; init; }
    /// <summary>share, rate or times.</summary>
    public string Unit { get; init; } = "";
    /// <summary>So many titles stand behind the interval; with fewer than two it is as if bars were independent.</summary>
    public int Titles { get; init; }
    /// <summary>Whose further recordings could settle it; nothing where only the subject's of the claim could.</summary>
    public ValueList<long> SettledBy { get; init; } = [];
    /// <summary>What would settle it; only of open ones.</summary>
    public string? Settles { get; init; }
    public bool IsOutOfReach => Settles == OutOfReach;
    /// <summary>What would break it; only of supported ones.</summary>
    public string? Breaks { get; init; }
    /// <summary>Few recordings or bars were searched.</summary>
    public bool Few { get; init; }
    /// <summary>What it is counted from, or what an “only” rests on.</summary>
    public ValueList<Witness> For { get; init; } = [];
    /// <summary>What speaks against an “only” or a “never”; of a share, what was searched and is without it.</summary>
    public ValueList<Witness> Counter { get; init; } = [];
    /// <summary>What could not be placed: without a tempo, a date, a section, or with somebody else perhaps at the drums.</summary>
    public ValueList<Witness> Unclear { get; init; } = [];
    /// <summary>Where to look for what would break or settle it.</summary>
    public ValueList<Witness> Look { get; init; } = [];

    /// <summary>Why this standing came after another: what changed in the numbers, and what speaks against it now that did not.</summary>
    public string CauseAfter(string figures)
    {
        var counter = Counter.IsEmpty ? "" : $"; against it: {string.Join("; ", Counter.Take(3).Select(w => w.Words))}";
        return figures == Figures ? $"its test was changed{counter}" : $"{Figures}, where it was {figures}{counter}";
    }
}
