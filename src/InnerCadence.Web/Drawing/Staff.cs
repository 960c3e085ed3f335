using System.Text.Json.Nodes;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <summary>A passage on five lines: what the engraving script sets, sign by sign. Positions, heads and lengths are decided here.</summary>
public static class Staff
{
    /// <param name="hidden">Voices that are left out of the picture.</param>
    public static JsonObject Draw(Passage passage, int firstBar, IReadOnlySet<Voice>? hidden = null)
    {
        var shown = hidden is { Count: > 0 } ? passage with { Strokes = [.. passage.Strokes.Where(s => !hidden.Contains(s.Voice))] }
            : passage;
        var bars = Score.Of(shown);
        return new()
        {
            ["label"] = $"Staff, {shown.Bars} {(shown.Bars == 1 ? "bar" : "bars")}. The words beside say the same.",
            ["firstBar"] = firstBar,
            ["tempo"] = shown.Tempo is { } tempo ? Math.Round(tempo.Value) : null,
            ["length"] = shown.Length.Value,
            ["feet"] = shown.Strokes.Any(s => s.Voice.IsFoot),
            ["bars"] = new JsonArray([.. bars.Select((bar, i) =>
                (JsonNode)Bar(shown, bar, i, i == 0 || !bar.Meter.Equals(bars[i - 1].Meter)))]),
        };
    }

    private static JsonObject Bar(Passage passage, ScoreBar bar, int index, bool newMeter) => new()
    {
        ["at"] = bar.At.Value,
        ["length"] = bar.Meter.Length.Value,
        ["meter"] = newMeter ? $"{bar.Meter.Counts}/{bar.Meter.Lower}" : null,
        ["asBefore"] = bar.AsBefore,
        ["unheard"] = string.Join(", ", passage.Unheard.Where(u => u.Bar == index).Select(u => u.Voice.Name)),
        ["hands"] = new JsonArray([.. bar.Hands.Select(s => (JsonNode)One(passage, s, index))]),
        ["feet"] = new JsonArray([.. bar.Feet.Select(s => (JsonNode)One(passage, s, index))]),
    };

    private static JsonObject One(Passage passage, Sign sign, int bar)
    {
        // Low to high, as an engraver stacks them.
        var strokes = sign.Strokes.Select(s => (Stroke: s, Place: StaffPlaces.Of(s.Voice))).OrderBy(p => Height(p.Place.Key)).ToList();
        bool Any(Func<Stroke, bool> holds) => sign.Strokes.Any(holds);
        return new()
        {
            ["at"] = sign.At.Value,
            ["type"] = sign.Type,
            ["dots"] = sign.Dots,
            ["beam"] = sign.Beam,
            ["tuplet"] = sign.Tuplet is { } t ? new JsonArray(t.Number, t.Actual, t.Normal) : null,
            ["heads"] = new JsonArray([.. strokes.Select(p => (JsonNode)new JsonObject
            {
                ["key"] = p.Place.Key, ["head"] = p.Place.Head, ["voice"] = p.Stroke.Voice.Code,
                ["ghost"] = p.Stroke.Dynamic == Dynamic.Ghost, ["optional"] = p.Stroke.Optional, ["unsure"] = p.Stroke.Unsure,
                ["title"] = Bead.Title(p.Stroke, CountNames.Spoken(p.Stroke.At - passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar))),
            })]),
            ["accent"] = Any(s => s.Dynamic == Dynamic.Accent),
            ["open"] = Any(s => s.Openness == Openness.Open) ? "open" : Any(s => s.Openness == Openness.Loose) ? "loose"
                : Closes(passage, sign) ? "closed" : null,
            ["graces"] = Any(s => s.Ornaments.HasFlag(Ornaments.Drag)) ? 2 : Any(s => s.Ornaments.HasFlag(Ornaments.Flam)) ? 1 : 0,
            ["graceKey"] = strokes.Where(p => p.Stroke.Ornaments.HasFlag(Ornaments.Drag) || p.Stroke.Ornaments.HasFlag(Ornaments.Flam))
                .Select(p => p.Place.Key).FirstOrDefault(),
            ["buzz"] = Any(s => s.Ornaments.HasFlag(Ornaments.Buzz)),
            ["words"] = string.Join(' ', ((string[])[Any(s => s.Ornaments.HasFlag(Ornaments.Rimshot)) ? "rim" : "",
                Any(s => s.Ornaments.HasFlag(Ornaments.Choke)) ? "choke" : "", Any(s => s.Unsure) ? "?" : "",
                .. sign.Strokes.SelectMany(s => s.Notes)]).Where(w => w.Length > 0)),
            ["hand"] = HandOf(sign),
        };
    }

    /// <summary>The hat that ends an open or loose one, where the next stroke of the hat is closed.</summary>
    private static bool Closes(Passage passage, Sign sign) =>
        sign.Strokes.Any(s => s.Voice == Voice.Hat && s.Openness == Openness.Closed)
        && passage.Strokes.LastOrDefault(s => s.At < sign.At && s.Voice.Family == Family.Hat) is
        {
            Openness: Openness.Open
            or Openness.Loose
        };

    private static string? HandOf(Sign sign)
    {
        var sides = sign.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand && s.Side is not null).ToList();
        if (sides.Count == 0) return null;
        var letter = sides.Select(s => s.Side).Distinct().Count() > 1 ? "B" : sides[0].Side == Side.Right ? "R" : "L";
        return sides.All(s => s.SideUnsure) ? letter.ToLowerInvariant() : letter;
    }

    private static int Height(string key) => key[2] * 7 + (key[0] - 'c' + 7) % 7;
}
