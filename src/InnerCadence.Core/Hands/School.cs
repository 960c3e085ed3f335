namespace InnerCadence.Core.Hands;

/// <summary>What each awkwardness costs (hands.md, "Sticking options"); a school is a set of these.</summary>
/// <param name="Word">In an address and in the API.</param>
public sealed record School(string Word, string Says)
{
    /// <summary>A hand repeated at moderate speed.</summary>
    public double Double { get; init; } = 1;
    /// <summary>A hand repeated faster than the player's doubles.</summary>
    public double FastDouble { get; init; } = 9;
    /// <summary>A hand three times in a row and more.</summary>
    public double Triple { get; init; } = 3.5;
    /// <summary>A metre in a second's quarter, by one hand.</summary>
    public double Reach { get; init; } = 1;
    public double Crossed { get; init; } = 2;
    public double WeakAccent { get; init; } = 0.5;
    /// <summary>The weak hand on a beat; half of it on an and.</summary>
    public double LeadOff { get; init; } = 0.6;
    /// <summary>A flam whose main stroke falls to the weak hand.</summary>
    public double FlamFromWeak { get; init; } = 0.4;
    /// <summary>Ride, bell or hat not by the lead hand.</summary>
    public double RideLeft { get; init; } = 0.5;

    public static IReadOnlyList<School> All { get; } =
    [
        new("natural-lead", "natural lead") { LeadOff = 1.2, Double = 0.8 },
        new("alternate", "alternate strictly") { Double = 6, Triple = 8, LeadOff = 0.1, Reach = 0.3, Crossed = 1 },
        new("doubles", "doubles for economy") { Double = 0.1, Triple = 2.5, Reach = 3, Crossed = 4, LeadOff = 0.2 },
        new("ride-hand", "lead hand keeps the ride or bell") { RideLeft = 8, Triple = 1.5, LeadOff = 0.3 },
    ];

    public static School? Find(string? word) => All.FirstOrDefault(s => s.Word == word);
}

/// <summary>How fast hands and feet are, in strokes a second (hands.md, "Playability"); a player's own log replaces them.</summary>
public sealed record Limits
{
    /// <summary>One hand, kept up.</summary>
    public double Hand { get; init; } = 8;
    public double HandBurst { get; init; } = 10;
    /// <summary>Doubles between two hands.</summary>
    public double Doubles { get; init; } = 16;
    public double Foot { get; init; } = 6.5;
    /// <summary>Two strokes of one foot.</summary>
    public double FootDouble { get; init; } = 9;

    public static Limits Usual { get; } = new();
}
