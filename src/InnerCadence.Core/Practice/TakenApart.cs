using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Practice;

/// <summary>A piece of a figure to be taken by itself.</summary>
/// <param name="From">Where it begins, in ticks of the figure.</param>
/// <param name="To">Where it ends, with its overlap into the next.</param>
public sealed record Part(string Name, Tick From, Tick To);

/// <summary>A figure with some of it left out.</summary>
public sealed record Layer(string Name, Passage Passage);

/// <summary>Taking a figure apart (hands.md, "Practice"): across time at its own joints, and into layers.</summary>
public static class TakenApart
{
    /// <summary>Cut where the drum changes after a run on one, and at bar lines; each part goes on to the first stroke of the
    /// next.</summary>
    public static IReadOnlyList<Part> Parts(Passage passage)
    {
        passage = passage.Played();
        if (passage.Strokes.IsEmpty) return [];
        var joints = new SortedSet<int>();
        for (var bar = 1; bar < passage.Bars; bar++) joints.Add(passage.Meters.StartOf(bar).Value);
        var line = passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand).ToList();
        for (var i = 2; i < line.Count; i++)
            if (line[i].Voice != line[i - 1].Voice && line[i - 1].Voice == line[i - 2].Voice
                && line[i].At > line[i - 1].At) joints.Add(line[i].At.Value);
        var starts = new List<int> { passage.Strokes[0].At.Value };
        starts.AddRange(joints.Where(j => j > starts[0] && j < passage.Length.Value));
        if (starts.Count == 1) return [];
        return [.. starts.Select((start, i) =>
        {
            var end = i + 1 < starts.Count ? passage.Strokes.FirstOrDefault(s => s.At.Value >= starts[i + 1])?.At.Value + 1
                ?? passage.Length.Value : passage.Length.Value;
            var (bar, inBar) = passage.Meters.Locate(new(start));
            return new Part($"from {(passage.Bars > 1 ? $"bar {bar + 1}, " : "")}{CountNames.Spoken(inBar, passage.Meters.MeterOf(bar))}",
                new(start), new(Math.Max(end, start + 1)));
        })];
    }

    /// <summary>Feet; hands on one drum; on their drums; with accents; with everything. Layers that would be the same as the one before are
    /// left out.</summary>
    public static IReadOnlyList<Layer> Layers(Passage passage)
    {
        passage = passage.Played();
        var plain = passage.Strokes.Where(s => s.Dynamic != Dynamic.Ghost)
            .Select(s => s with { Dynamic = Dynamic.Normal, Ornaments = Ornaments.None }).ToList();
        var hands = plain.Where(s => s.Voice.Limbs == LimbClass.Hand).ToList();
        (string Name, IEnumerable<Stroke> Strokes)[] layers =
        [
            ("feet", plain.Where(s => s.Voice.IsFoot)),
            ("hands on one drum", hands.GroupBy(s => s.At).SelectMany(g => g.Take(1))
                .Select(s => s with { Voice = Voice.Snare, Openness = null })),
            ("hands on their drums", hands),
            ("hands and feet", plain),
            ("with accents and ornaments", passage.Strokes.Where(s => s.Dynamic != Dynamic.Ghost)),
            ("with ghosts", passage.Strokes),
        ];
        var made = new List<Layer>();
        foreach (var (name, strokes) in layers)
        {
            var layer = passage with { Strokes = Passage.InOrder(strokes) };
            if (!layer.Strokes.IsEmpty && made.All(m => !m.Passage.Strokes.SequenceEqual(layer.Strokes))) made.Add(new(name, layer));
        }
        return made;
    }
}
