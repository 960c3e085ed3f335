using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Editing;

/// <summary>What two readings of one passage hear differently, in words.</summary>
public static class ReadingDifference
{
    /// <summary>In the order of time; nothing where they agree stroke for stroke.</summary>
    /// <param name="preferred">The reading from which it is told.</param>
    /// <param name="other">What the other one has instead.</param>
    /// <param name="firstBar">Number of their first bar in the recording.</param>
    public static IReadOnlyList<(Tick At, string Words)> Between(Passage preferred, Passage other, int firstBar = 1)
    {
        string Place(Passage passage, Tick at)
        {
            var (bar, inBar) = passage.Meters.Locate(at);
            return $"bar {firstBar + bar}, {CountNames.Spoken(inBar, passage.Meters.MeterOf(bar))}";
        }

        var told = new List<(Tick At, string Words)>();
        var there = other.Strokes.ToDictionary(s => (s.At, s.Voice));
        var gone = new List<Stroke>();
        foreach (var stroke in preferred.Strokes)
        {
            if (!there.Remove((stroke.At, stroke.Voice), out var same)) gone.Add(stroke);
            else if (Changes(stroke, same) is { Count: > 0 } changes) told.Add((stroke.At,
                $"{Place(preferred, stroke.At)}: the {stroke.Voice.Name} {string.Join(", ", changes)}"));
        }
        foreach (var stroke in gone)
        {
            // A stroke of the same hands or feet at the same moment is the same stroke on another drum.
            var instead = there.Values.Where(s => s.At == stroke.At && s.Voice.Limbs == stroke.Voice.Limbs).OrderBy(s => s.Voice)
                .FirstOrDefault();
            if (instead is not null) there.Remove((instead.At, instead.Voice));
            told.Add((stroke.At, instead is null ? $"{Place(preferred, stroke.At)}: no {stroke.Voice.Name}"
                : $"{Place(preferred, stroke.At)}: {instead.Voice.Name} instead of {stroke.Voice.Name}"));
        }
        foreach (var stroke in there.Values) told.Add((stroke.At, $"{Place(other, stroke.At)}: {stroke.Voice.Name} as well"));
        if (preferred.Bars != other.Bars) told.Add((preferred.Length > other.Length ? preferred.Length : other.Length,
            $"{other.Bars} {(other.Bars == 1 ? "bar" : "bars")} instead of {preferred.Bars}"));
        return [.. told.OrderBy(t => t.At)];
    }

    internal static List<string> Changes(Stroke from, Stroke to)
    {
        var changes = new List<string>();
        if (from.Dynamic != to.Dynamic) changes.Add(to.Dynamic switch
        {
            Dynamic.Ghost => "as a ghost",
            Dynamic.Accent => "accented",
            _ =>
            from.Dynamic == Dynamic.Ghost ? "not as a ghost" : "without accent"
        });
        if (from.Openness != to.Openness) changes.Add((to.Openness ?? Openness.Closed).ToString().ToLowerInvariant());
        foreach (var ornament in Enum.GetValues<Ornaments>()
            .Where(o => o != Ornaments.None && from.Ornaments.HasFlag(o) != to.Ornaments.HasFlag(o)))
            changes.Add($"{(to.Ornaments.HasFlag(ornament) ? "with" : "without")} {ornament.ToString().ToLowerInvariant()}");
        if (from.Side != to.Side) changes.Add(to.Side is { } side ? $"with the {side.ToString().ToLowerInvariant()}"
            : "by an unknown hand");
        if (from.Unsure != to.Unsure) changes.Add(to.Unsure ? "unsure" : "certain");
        if (from.Optional != to.Optional) changes.Add(to.Optional ? "optional" : "not optional");
        if (from.Length != to.Length) changes.Add("of another length");
        return changes;
    }
}
