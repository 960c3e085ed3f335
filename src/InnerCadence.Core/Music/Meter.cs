using System.Text.RegularExpressions;

namespace InnerCadence.Core.Music;

/// <summary>A meter such as 4/4 or 7/8(2+2+3): a number of counts of the lower figure, and how they go in pulses.</summary>
/// <remarks>6/8, 9/8 and 12/8 go in threes without saying so; every other meter goes by its lower figure unless it says
/// otherwise.</remarks>
public sealed partial record Meter
{
    public static readonly Meter CommonTime = Parse("4/4")!;

    private Meter(int counts, int lower, ValueList<int> pulses, bool pulsesWritten)
    {
        (Counts, Lower, Pulses, PulsesWritten) = (counts, lower, pulses, pulsesWritten);
        Beat = new Tick(Tick.PerWhole / lower);
        Length = Beat * counts;
    }

    /// <summary>The upper figure: how many counts a bar has, 1 to 32.</summary>
    public int Counts { get; }
    /// <summary>The lower figure: 1, 2, 4, 8, 16 or 32.</summary>
    public int Lower { get; }
    /// <summary>Lengths of the pulses in counts; they add up to <see cref="Counts"/>.</summary>
    public ValueList<int> Pulses { get; }
    public bool PulsesWritten { get; }
    /// <summary>One count.</summary>
    public Tick Beat { get; }
    public Tick Length { get; }

    /// <summary>The start, inside the bar, of the pulse in which a place falls.</summary>
    public Tick PulseStart(Tick inBar)
    {
        var start = Tick.Zero;
        foreach (var counts in Pulses)
        {
            var next = start + Beat * counts;
            if (inBar < next) return start;
            start = next;
        }
        return start;
    }

    /// <summary>Nothing when the text is no meter: figures out of bounds, or pulses that do not add up.</summary>
    public static Meter? Parse(string text)
    {
        if (Form().Match(text) is not { Success: true } match) return null;
        var (counts, lower) = (int.Parse(match.Groups[1].Value), int.Parse(match.Groups[2].Value));
        if (counts is < 1 or > 32 || lower is not (1 or 2 or 4 or 8 or 16 or 32)) return null;
        if (!match.Groups[3].Success)
        {
            var size = lower == 8 && counts is (6 or 9 or 12) ? 3 : 1;
            return new(counts, lower, [.. Enumerable.Repeat(size, counts / size)], false);
        }
        ValueList<int> pulses = [.. match.Groups[3].Value.Split('+').Select(int.Parse)];
        return pulses.Sum() == counts && pulses.All(p => p > 0) ? new(counts, lower, pulses, true) : null;
    }

    public bool Equals(Meter? other) =>
        other is not null && Counts == other.Counts && Lower == other.Lower && Pulses.Equals(other.Pulses);

    public override int GetHashCode() => HashCode.Combine(Counts, Lower, Pulses.Count);

    public override string ToString() => PulsesWritten ? $"{Counts}/{Lower}({string.Join('+', Pulses)})" : $"{Counts}/{Lower}";

    [GeneratedRegex(@"^(\d{1,2})/(\d{1,2})(?:\((\d{1,2}(?:\+\d{1,2})*)\))?$")]
    private static partial Regex Form();
}
