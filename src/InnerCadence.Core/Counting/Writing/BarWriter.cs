using System.Text;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Writing;

/// <summary>Writes one bar of one voice in the shortest of its possible ways.</summary>
internal sealed class BarWriter(Meter meter, Tick pickup, CountSchool school = CountSchool.Standard)
{
    private static readonly string[] Units = ["4ths", "8ths", "16ths", "32nds", "8t", "16t"];

    public string Shortest(IReadOnlyList<(Tick InBar, string Marks, bool Ghost)> strokes)
    {
        var best = Counted(strokes);
        foreach (var unit in Units)
            if (AsRun(strokes, unit) is { } run && run.Length < best.Length) best = run;
        return best;
    }

    /// <summary>Numbers, syllables in running count and addresses, in time order.</summary>
    private string Counted(IEnumerable<(Tick InBar, string Marks, bool Ghost)> strokes)
    {
        var words = new List<(string Word, bool Ghost)>();
        var running = 0;
        foreach (var (inBar, marks, ghost) in strokes)
        {
            var (beat, past) = CountNames.Split(inBar, meter);
            var syllable = CountNames.Syllable(past, meter, school);
            var place = syllable is null ? Tuplet(inBar)
                : syllable.Length > 0 && running == beat && syllable is not ("ti" or "&ta" or "'") ? syllable
                : CountNames.Place(inBar, meter, school)!;
            running = syllable is null ? 0 : beat;
            words.Add((place + marks, ghost));
        }
        return Joined(words);
    }

    /// <summary>A run over the whole bar with strokes taken out, replaced and added; nothing where too few lie on it.</summary>
    private string? AsRun(IReadOnlyList<(Tick InBar, string Marks, bool Ghost)> strokes, string unit)
    {
        var step = RunUnit.Of(unit).Value;
        var onGrid = strokes.Where(s => s.InBar >= pickup && (s.InBar - pickup).Value % step == 0).ToList();
        if (onGrid.Count < 2) return null;
        var usual = onGrid.GroupBy(s => (s.Marks, s.Ghost)).OrderByDescending(g => g.Count()).First().Key;
        if (usual.Marks.Contains('_')) return null;
        var words = new List<(string Word, bool Ghost)> { (unit + usual.Marks, usual.Ghost) };
        for (var at = pickup; at < meter.Length; at += new Tick(step))
        {
            if (onGrid.Any(s => s.InBar == at)) continue;
            if (CountNames.Place(at, meter, school) is not { } place) return null;
            words.Add(("-" + place, false));
        }
        foreach (var stroke in strokes)
        {
            var isOnGrid = onGrid.Any(s => s.InBar == stroke.InBar);
            if (isOnGrid && (stroke.Marks, stroke.Ghost) == usual) continue;
            if (CountNames.Place(stroke.InBar, meter, school) is not { } place)
            {
                if (isOnGrid) return null;
                place = Tuplet(stroke.InBar);
            }
            words.Add((place + stroke.Marks, stroke.Ghost));
        }
        return Joined(words);
    }

    /// <summary>Whether a count or a tuplet names the tick.</summary>
    public bool CanName(Tick inBar) => CountNames.Place(inBar, meter, school) is not null || CountNames.Tuplet(inBar, meter) is not null;

    private string Tuplet(Tick inBar) => CountNames.Tuplet(inBar, meter)
        ?? throw new InvalidOperationException($"No count and no tuplet of {meter} names the tick {inBar}.");

    /// <summary>Words with one blank between, neighbouring ghosts in one pair of brackets.</summary>
    private static string Joined(IReadOnlyList<(string Word, bool Ghost)> words)
    {
        var text = new StringBuilder();
        for (var i = 0; i < words.Count; i++)
        {
            if (i > 0) text.Append(' ');
            if (words[i].Ghost && (i == 0 || !words[i - 1].Ghost)) text.Append('(');
            text.Append(words[i].Word);
            if (words[i].Ghost && (i == words.Count - 1 || !words[i + 1].Ghost)) text.Append(')');
        }
        return text.ToString();
    }
}
