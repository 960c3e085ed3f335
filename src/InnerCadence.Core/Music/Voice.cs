namespace InnerCadence.Core.Music;

/// <summary>Groups of voices that may stand for one another.</summary>
public enum Family { Kick, Snare, Hat, Ride, Bell, Crash, Tom, Ensemble }

public enum LimbClass { Hand, Foot, None }

/// <summary>An instrument of the kit. Two voices are the same when their codes are.</summary>
public sealed class Voice : IEquatable<Voice>, IComparable<Voice>
{
    private Voice(int order, string code, string name, Family family, LimbClass limbs, params string[] words)
    {
        (Order, Code, Name, Family, Limbs) = (order, code, name, family, limbs);
        Words = words;
    }

    /// <summary>Place in the canonical order, cymbals first, feet last.</summary>
    public int Order { get; }
    /// <summary>Canonical code, such as SN.</summary>
    public string Code { get; }
    /// <summary>As it is said: snare.</summary>
    public string Name { get; }
    public Family Family { get; }
    public LimbClass Limbs { get; }
    /// <summary>Other words by which a count line may call it.</summary>
    public IReadOnlyList<string> Words { get; }

    public bool IsFoot => Limbs == LimbClass.Foot;

    /// <summary>A tom or a cymbal, not known which: it agrees with every other of its kind.</summary>
    public bool IsUnknownKind => Code is "TT" or "CY";

    public static readonly Voice Kick = new(30, "BD", "kick", Family.Kick, LimbClass.Foot, "kick", "bass", "bass drum", "kick drum");
    public static readonly Voice Snare = new(28, "SN", "snare", Family.Snare, LimbClass.Hand, "snare", "sd", "snare drum");
    public static readonly Voice CrossStick = new(29, "XS", "cross-stick", Family.Snare, LimbClass.Hand, "cross-stick", "rim-click", "rim",
        "side stick");
    public static readonly Voice Hat = new(20, "HH", "hat", Family.Hat, LimbClass.Hand, "hat", "hi-hat", "hats");
    public static readonly Voice HatFoot = new(31, "HF", "hat foot", Family.Hat, LimbClass.Foot, "hat-foot", "foot", "left foot",
        "hi-hat foot");
    public static readonly Voice Ride = new(5, "RD", "ride", Family.Ride, LimbClass.Hand, "ride", "ride cymbal");
    public static readonly Voice RideBell = new(6, "RB", "ride bell", Family.Bell, LimbClass.Hand, "ride-bell", "bell");
    public static readonly Voice Crash = new(0, "CR", "crash", Family.Crash, LimbClass.Hand, "crash", "crash 1", "crash cymbal");
    public static readonly Voice Crash2 = new(1, "C2", "crash 2", Family.Crash, LimbClass.Hand, "crash 2");
    public static readonly Voice China = new(2, "CH", "china", Family.Crash, LimbClass.Hand, "china", "china cymbal");
    public static readonly Voice Splash = new(3, "SP", "splash", Family.Crash, LimbClass.Hand, "splash", "splash cymbal");
    public static readonly Voice Cymbal = new(4, "CY", "cymbal", Family.Crash, LimbClass.Hand, "cymbal");
    public static readonly Voice Cowbell = new(7, "CB", "cowbell", Family.Bell, LimbClass.Hand, "cowbell");
    public static readonly Voice Tom1 = new(21, "T1", "tom 1", Family.Tom, LimbClass.Hand, "high-tom", "tom 1", "rack tom");
    public static readonly Voice Tom2 = new(22, "T2", "tom 2", Family.Tom, LimbClass.Hand, "mid-tom", "tom 2");
    public static readonly Voice Tom3 = new(23, "T3", "tom 3", Family.Tom, LimbClass.Hand, "tom 3");
    public static readonly Voice Tom4 = new(24, "T4", "tom 4", Family.Tom, LimbClass.Hand, "tom 4");
    public static readonly Voice AnyTom = new(25, "TT", "tom", Family.Tom, LimbClass.Hand, "tom");
    public static readonly Voice FloorTom = new(26, "FT", "floor tom", Family.Tom, LimbClass.Hand, "floor", "floor-tom");
    public static readonly Voice FloorTom2 = new(27, "F2", "floor tom 2", Family.Tom, LimbClass.Hand, "floor 2", "floor-tom 2");
    public static readonly Voice Ensemble = new(32, "EN", "band", Family.Ensemble, LimbClass.None, "ensemble");

    /// <summary>Its name where it is chosen from a list: a tom or a cymbal of no known kind says so.</summary>
    public string NameInLists => IsUnknownKind ? $"{Name}, not known which" : Name;

    /// <summary>Every standard voice, in canonical order.</summary>
    public static IReadOnlyList<Voice> All { get; } =
    [
        Crash, Crash2, China, Splash, Cymbal, Ride, RideBell, Cowbell, Hat, Tom1, Tom2, Tom3, Tom4, AnyTom, FloorTom, FloorTom2,
        Snare, CrossStick, Kick, HatFoot, Ensemble,
    ];

    /// <summary>Every standard voice, those of most grooves first: the order in which a line is offered.</summary>
    public static IReadOnlyList<Voice> AsOffered { get; } =
    [
        Hat, Snare, Kick, Ride, Crash, Tom1, Tom2, Tom3, FloorTom, HatFoot, CrossStick, RideBell, Cowbell, Crash2, Splash, China, Cymbal,
            AnyTom,
        Tom4, FloorTom2, Ensemble,
    ];

    /// <summary>An instrument of one's own, P1 to P8.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The number is not 1 to 8.</exception>
    public static Voice Own(int number, string name, Family family, bool foot)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(number, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(number, 8);
        return new(number + 11, $"P{number}", name, family, foot ? LimbClass.Foot : LimbClass.Hand);
    }

    private static readonly Dictionary<string, Voice> ByWord = All
        .SelectMany(v => v.Words.Append(v.Code).Select(word => (Plain(word), v)))
        .ToDictionary(pair => pair.Item1, pair => pair.v, StringComparer.OrdinalIgnoreCase);

    /// <summary>The voice of a code or an accepted word, in any case, with blanks and hyphens where one likes.</summary>
    public static Voice? Find(string word) => ByWord.GetValueOrDefault(Plain(word));

    private static string Plain(string word) => word.AsSpan().ContainsAny(' ', '-') ? word.Replace(" ", "").Replace("-", "") : word;

    public bool Equals(Voice? other) => other is not null && Order == other.Order;
    public override bool Equals(object? obj) => Equals(obj as Voice);
    public override int GetHashCode() => Order;
    public int CompareTo(Voice? other) => Order.CompareTo(other?.Order ?? -1);
    public static bool operator ==(Voice? a, Voice? b) => a is null ? b is null : a.Equals(b);
    public static bool operator !=(Voice? a, Voice? b) => !(a == b);
    public override string ToString() => Code;
}
