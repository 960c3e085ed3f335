using System.Numerics;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting;

/// <summary>Names places in a bar the way they are counted aloud.</summary>
public static class CountNames
{
    private static readonly (int Numerator, int Denominator, string Written, string Spoken)[] Parts =
    [
        (0, 1, "", ""), (1, 4, "e", "e"), (1, 2, "&", "&"), (3, 4, "a", "a"), (1, 3, "t", "trip"), (2, 3, "l", "let"),
        (1, 6, "ti", "ti"), (5, 6, "&ta", "second ta"),
    ];

    /// <summary>What stands for the two later thirds where triplets are counted 1 &amp; a.</summary>
    private static readonly (int Numerator, string Written)[] Thirds = [(0, ""), (1, "&"), (2, "a")];

    /// <summary>As an address in a count line, 3&amp; or 4a'; nothing where no count names the place.</summary>
    public static string? Place(Tick inBar, Meter meter, CountSchool school = CountSchool.Standard)
    {
        var (beat, past) = Split(inBar, meter);
        // 8t and 16t are runs, so those two places are written out.
        return Syllable(past, meter, school) is not { } syllable ? null
            : $"{beat}{(syllable == "t" && beat is (8 or 16) ? "trip" : syllable)}";
    }

    private static readonly int[] TupletSizes = [5, 7, 9, 10, 12, 14, 15, 16, 2, 3, 4, 6, 8];

    /// <summary>One stroke of a tuplet, for a tick that no count names: 2[5:3]; nothing where none has it.</summary>
    public static string? Tuplet(Tick inBar, Meter meter)
    {
        for (var beats = 1; beats <= meter.Counts; beats++)
        {
            foreach (var size in TupletSizes)
            {
                var length = meter.Beat.Value * beats;
                if (length % size != 0) continue;
                for (var beat = 1; beat + beats - 1 <= meter.Counts; beat++)
                {
                    var past = inBar.Value - meter.Beat.Value * (beat - 1);
                    if (past >= 0 && past < length && past % (length / size) == 0)
                        return $"{beat}[{size}{(beats == 1 ? "" : $"/{beats}")}:{past / (length / size) + 1}]";
                }
            }
        }
        return null;
    }

    /// <summary>The syllable for a distance from the beat, empty on the beat itself; nothing where none names it.</summary>
    public static string? Syllable(Tick past, Meter meter, CountSchool school = CountSchool.Standard)
    {
        var beat = meter.Beat.Value;
        if (school == CountSchool.Triplet)
            return Array.Find(Thirds, third => past.Value * 3 == beat * third.Numerator).Written;
        foreach (var (numerator, denominator, written, _) in Parts)
            if (past.Value * denominator == beat * numerator) return written;
        var step = Counting.Place.StepOf(meter).Value;
        foreach (var (numerator, denominator, written, _) in Parts)
            if (denominator is (1 or 2 or 4) && (past.Value - step) * denominator == beat * numerator) return written + "'";
        return null;
    }

    /// <summary>As it is said: 3, the &amp; of 3, the let of 4, just after the e of 2; what has no such name by its share of the beat,
    /// stroke 6 of 24 in beat 2. Where triplets are counted 1 &amp; a, those two syllables say nothing else.</summary>
    public static string Spoken(Tick inBar, Meter meter, CountSchool school = CountSchool.Standard)
    {
        var (beat, past) = Split(inBar, meter);
        var length = meter.Beat.Value;
        var parts = school == CountSchool.Standard ? Parts : [.. Parts.Where(p => p.Written is not ("&" or "a"))];
        foreach (var (numerator, denominator, _, spoken) in parts)
            if (past.Value * denominator == length * numerator) return spoken.Length == 0 ? $"{beat}" : $"the {spoken} of {beat}";
        var step = Counting.Place.StepOf(meter);
        foreach (var (numerator, denominator, _, spoken) in parts)
        {
            if (denominator is not (1 or 2 or 4) || (past - step).Value * denominator != length * numerator) continue;
            return spoken.Length == 0 ? $"just after {beat}" : $"just after the {spoken} of {beat}";
        }
        var (index, size) = Reduced(past.Value, length);
        return $"stroke {index + 1} of {size} in beat {beat}";
    }

    /// <summary>Beat from 1 and the distance from its start.</summary>
    public static (int Beat, Tick Past) Split(Tick inBar, Meter meter) =>
        (inBar.Value / meter.Beat.Value + 1, new(inBar.Value % meter.Beat.Value));

    /// <summary>How long so many ticks are, as drummers say it: a sixteenth, two eighths, a triplet eighth.</summary>
    public static string Length(Tick length)
    {
        (int Ticks, string One, string Many)[] units =
        [
            (Tick.PerQuarter, "a quarter", "quarters"), (Tick.PerQuarter / 2, "an eighth", "eighths"),
                (Tick.PerQuarter / 4, "a sixteenth", "sixteenths"),
            (Tick.PerQuarter / 3, "a triplet eighth", "triplet eighths"),
                (Tick.PerQuarter / 6, "a triplet sixteenth", "triplet sixteenths"),
            (Tick.PerQuarter / 8, "a 32nd", "32nds"),
        ];
        foreach (var (ticks, one, many) in units)
            if (length.Value % ticks == 0) return length.Value == ticks ? one : $"{Number(length.Value / ticks)} {many}";
        var (share, whole) = Reduced(length.Value, Tick.PerQuarter);
        return $"{share}/{whole} of a quarter";
    }

    private static (int Numerator, int Denominator) Reduced(int numerator, int denominator)
    {
        var common = (int)BigInteger.GreatestCommonDivisor(numerator, denominator);
        return (numerator / common, denominator / common);
    }

    /// <summary>Small numbers in words.</summary>
    public static string Number(int n) => n switch
    {
        1 => "one",
        2 => "two",
        3 => "three",
        4 => "four",
        5 => "five",
        6 => "six",
        7 => "seven",
        8 => "eight",
        9 => "nine",
        _ => n.ToString(),
    };

    /// <summary>1st, 2nd, 3rd.</summary>
    public static string Ordinal(int n) => n + ((n % 100 is >= 11 and <= 13 ? 0 : n % 10) switch
    {
        1 => "st",
        2 => "nd",
        3 => "rd",
        _ =>
        "th"
    });
}
