using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting;

/// <summary>Writes one stroke as a lick of its own: for a tick that no count and no tuplet names.</summary>
internal static class LickWriter
{
    private static readonly string[] Units = ["32nds", "16t", "16ths", "8t", "8ths", "4ths"];

    /// <param name="marks">Its marks but the hand and the ghost.</param>
    /// <exception cref="InvalidOperationException">No lick leads to its tick either.</exception>
    public static string Write(Passage passage, Stroke stroke, string marks)
    {
        for (var rests = 0; rests < 256; rests++)
        {
            foreach (var unit in Units)
            {
                var start = stroke.At - TokenReader.UnitOf(unit) * rests;
                if (start < passage.Pickup) continue;
                var (bar, inBar) = passage.Meters.Locate(start);
                if (CountNames.Place(inBar, passage.Meters.MeterOf(bar)) is not { } place) continue;
                var silence = string.Concat(Enumerable.Repeat(". ", rests));
                var hand = stroke.Voice.Limbs == LimbClass.Hand && stroke.Side is { } side ? (stroke.SideUnsure ? side == Side.Right ? "r" : "l" : side == Side.Right ? "R" : "L") : null;
                if (hand is null && stroke.Side is { } foot) marks += foot == Side.Right ? "R" : "L";
                var (open, close) = stroke.Dynamic == Dynamic.Ghost ? ("(", ")") : ("", "");
                var head = $"lick {unit} @{bar + 1}.{place}\n";
                return hand is null ? $"{head}ON: {silence}{open}{stroke.Voice.Code}{marks}{close}\n" : $"{head}ST: {silence}{open}{hand}{marks}{close}\nON: {silence}{stroke.Voice.Code}\n";
            }
        }
        throw new InvalidOperationException($"No count, tuplet or lick leads to the tick {stroke.At} of the {stroke.Voice.Name}.");
    }
}
