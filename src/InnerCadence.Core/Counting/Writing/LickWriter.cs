using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Writing;

/// <summary>Writes one stroke as a lick of its own: for a tick that no count and no tuplet names.</summary>
internal static class LickWriter
{
    private const int MostRests = 256;
    private static readonly string[] Units = ["32nds", "16t", "16ths", "8t", "8ths", "4ths"];

    /// <summary>The way to a tick from the nearest place with a count; nothing where no even columns lead there.</summary>
    /// <returns>Unit of the columns, place to start at, rests before the stroke.</returns>
    public static (string Unit, int Bar, string Place, int Rests)? Way(Passage passage, Tick at, CountSchool school = CountSchool.Standard)
    {
        for (var rests = 0; rests < MostRests; rests++)
        {
            foreach (var unit in Units)
            {
                var start = at - RunUnit.Of(unit) * rests;
                if (start < passage.Pickup) continue;
                var (bar, inBar) = passage.Meters.Locate(start);
                if (CountNames.Place(inBar, passage.Meters.MeterOf(bar), school) is { } place) return (unit, bar, place, rests);
            }
        }
        return null;
    }

    /// <param name="marks">Its marks but the hand and the ghost.</param>
    /// <exception cref="InvalidOperationException">No lick leads to its tick: see <see cref="CountWriter.Leads"/>.</exception>
    public static string Write(Passage passage, Stroke stroke, string marks, CountSchool school = CountSchool.Standard)
    {
        if (Way(passage, stroke.At, school) is not var (unit, bar, place, rests)) throw new InvalidOperationException(
            $"No count, tuplet or lick leads to the tick {stroke.At} of the {stroke.Voice.Name}.");
        var silence = string.Concat(Enumerable.Repeat(". ", rests));
        var hand = stroke.Voice.Limbs == LimbClass.Hand && stroke.Side is { } side
            ? (stroke.SideUnsure ? side == Side.Right ? "r" : "l" : side == Side.Right ? "R" : "L") : null;
        if (hand is null && stroke.Side is { } foot) marks += foot == Side.Right ? "R" : "L";
        var (open, close) = stroke.Dynamic == Dynamic.Ghost ? ("(", ")") : ("", "");
        var head = $"lick {unit} @{bar + 1}.{place}\n";
        return hand is null ? $"{head}ON: {silence}{open}{stroke.Voice.Code}{marks}{close}\n"
            : $"{head}ST: {silence}{open}{hand}{marks}{close}\nON: {silence}{stroke.Voice.Code}\n";
    }
}
