using System.Globalization;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hands;

/// <summary>Where the drums of a kit stand, seen from the seat of a right-handed player: decimetres to the right and away.</summary>
public sealed record KitLayout(IReadOnlyDictionary<Voice, (double Right, double Away)> Places)
{
    /// <summary>A usual kit; instruments of one's own stand where the cowbell does.</summary>
    public static KitLayout Usual { get; } = new(new Dictionary<Voice, (double, double)>
    {
        [Voice.Hat] = (-4.5, 4),
        [Voice.Snare] = (0, 2),
        [Voice.CrossStick] = (0, 2),
        [Voice.Tom1] = (-1.5, 5),
        [Voice.Tom2] = (1.5, 5),
        [Voice.Tom3] = (3, 4.5),
        [Voice.Tom4] = (4, 4),
        [Voice.AnyTom] = (1.5, 4.5),
        [Voice.FloorTom] = (4.5, 2),
        [Voice.FloorTom2] = (6, 1),
        [Voice.Crash] = (-4, 6.5),
        [Voice.Crash2] = (4.5, 6.5),
        [Voice.China] = (6.5, 5),
        [Voice.Splash] = (-0.5, 7),
        [Voice.Cymbal] = (0, 6.5),
        [Voice.Ride] = (5, 5),
        [Voice.RideBell] = (5, 5.3),
        [Voice.Cowbell] = (0, 6),
    });

    /// <summary>In centimetres: nobody reaches further.</summary>
    private const int Furthest = 200;

    /// <summary>Reads lines such as “FT 45 20”: a voice, centimetres to the right of the seat (less than 0 is left) and away from it.
    /// Voices that are not named stand as usual.</summary>
    /// <param name="tell">A sentence for each line that cannot be read.</param>
    public static KitLayout Read(string text, Action<string> tell)
    {
        var places = Usual.Places.ToDictionary();
        foreach (var line in text.Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            if (line.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries) is [var code, var right, var away]
                && Voice.Find(code) is { } voice && Usual.Places.ContainsKey(voice) && Centimetres(right) is { } r
                && Centimetres(away) is { } a)
                places[voice] = (r / 10.0, a / 10.0);
            else tell($"‘{line}’ says no drum’s place: write a hand’s drum and two whole numbers of centimetres up to {Furthest}, such "
                + $"as FT 45 20.");
        }
        return new(places);

        static int? Centimetres(string word) => int.TryParse(word, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var n)
            && Math.Abs(n) <= Furthest ? n : null;
    }

    /// <summary>One line a drum, as <see cref="Read"/> takes them.</summary>
    public string Written => string.Join('\n', Places.OrderBy(p => p.Key)
        .Select(p => FormattableString.Invariant($"{p.Key.Code} {p.Value.Right * 10:0} {p.Value.Away * 10:0}")));

    public (double Right, double Away) PlaceOf(Voice voice) => Places.TryGetValue(voice, out var place) ? place : Places[Voice.Cowbell];

    /// <summary>Metres between two drums.</summary>
    public double Reach(Voice a, Voice b)
    {
        var (one, two) = (PlaceOf(a), PlaceOf(b));
        return Math.Sqrt((one.Right - two.Right) * (one.Right - two.Right) + (one.Away - two.Away) * (one.Away - two.Away)) / 10;
    }

    /// <summary>So much further right one drum stands than another, in decimetres.</summary>
    public double RightOf(Voice a, Voice b) => PlaceOf(a).Right - PlaceOf(b).Right;
}
