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
