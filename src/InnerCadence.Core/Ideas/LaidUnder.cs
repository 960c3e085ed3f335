using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>A stroke of an idea and what stands for it.</summary>
/// <param name="Expected">Where it would fall in the passage.</param>
/// <param name="There">Nothing where it is missing.</param>
/// <param name="Differs">Something about it is said.</param>
public sealed record LaidPair(Stroke Own, Tick Expected, Stroke? There, bool Differs);

/// <summary>A place where an idea was found, laid under the idea: which stroke stands for which, and how it differs as music
/// (ideas.md, "Explanation").</summary>
public sealed class LaidUnder
{
    private readonly Idea idea;
    private readonly Pattern pattern;
    private readonly Passage passage;
    private readonly Tick start;
    private readonly Factor factor;
    /// <summary>By voice: where a stroke is missing, where one is too many, and those that are early or late.</summary>
    private readonly Dictionary<Voice, (List<Tick> Gone, List<Tick> Added, List<(Tick Expected, Tick There)> Late)> shifts = [];
    private readonly List<Edit> others;

    private LaidUnder(Idea idea, Pattern pattern, Passage passage, Tick start, Factor factor, IReadOnlyList<Edit> edits)
    {
        (this.idea, this.pattern, this.passage, this.start, this.factor) = (idea, pattern, passage, start, factor);
        (First, Span) = (pattern.Written.Min(), new(factor.ScaleUp(pattern.Span)));
        // A stroke that moved to another drum of its family is told as it was found.
        others = [.. edits.Where(e => e.Kind is not ("missing" or "extra" or "moved") || e.Kind == "moved" && IsAcross(e))];
        foreach (var voice in edits.Where(e => !others.Contains(e)).GroupBy(e => e.Voice))
            shifts[voice.Key] = ShiftsOf(voice.Key, [.. voice]);
        Pairs = Laid();
        TooMany = [.. shifts.SelectMany(s => s.Value.Added.SelectMany(at => At(at).Where(stroke => stroke.Voice == s.Key)))];
    }

    /// <summary>The idea's first stroke, in its exemplar.</summary>
    public Tick First { get; }
    /// <summary>How long it lasts in the passage.</summary>
    public Tick Span { get; }
    public IReadOnlyList<LaidPair> Pairs { get; }
    /// <summary>Strokes of the passage that the idea does not have.</summary>
    public IReadOnlyList<Stroke> TooMany { get; }

    /// <summary>Nothing where the idea has no stroke any more.</summary>
    public static LaidUnder? Of(Idea idea, Passage passage, Tick start, Factor factor, IReadOnlyCollection<string> transforms,
        IReadOnlyList<Edit> edits)
    {
        if (Pattern.Of(idea, idea.VoicesSeen()) is not { } pattern) return null;
        return new(idea, transforms.Contains("reversed") ? pattern.As(Transform.Reversed) : pattern, passage, start, factor, edits);
    }

    /// <summary>Sentences without a full stop, what a listener hears first before the others; where it starts last, unless its place is a
    /// rule.</summary>
    public IReadOnlyList<string> Said()
    {
        var said = shifts.OrderBy(s => s.Key).SelectMany(s => SaidOf(s.Key)).Concat(others.OrderBy(e => Importance(e.Kind))
            .Select(e => e.Text.Replace("exemplar", "the model", StringComparison.Ordinal))).Distinct().ToList();
        var (own, here) = (SpokenIn(idea.Exemplar, First), Spoken(start));
        if (own == here) return said;
        return idea.Rules.Placement == PlacementRule.Anywhere ? [.. said, $"on {here}; the model on {own}"]
            : [$"starts on {here}, its place is {own}", .. said];
    }

    /// <summary>What the matcher paired in order is taken apart: a stroke that stands where another of the idea's would is that other. One
    /// that is missing and one too many are one stroke early or late only where none of its voice stands between, within a beat.</summary>
    private (List<Tick> Gone, List<Tick> Added, List<(Tick Expected, Tick There)> Late) ShiftsOf(Voice voice, IReadOnlyList<Edit> edits)
    {
        var own = Enumerable.Range(0, pattern.Strokes.Length)
            .Where(p => pattern.Strokes[p].Stroke.Voice == voice && edits.Any(e => e.PatternTick == pattern.Written[p]))
            .Select(p => PlaceOf(pattern.Strokes[p].At)).ToHashSet();
        var here = edits.Select(e => e.PassageTick).OfType<Tick>().ToHashSet();
        var (gone, added) = (own.Except(here).Order().ToList(), here.Except(own).Order().ToList());
        var late = new List<(Tick Expected, Tick There)>();
        foreach (var place in gone.ToList())
        {
            var beat = passage.Meters.MeterOf(passage.Meters.Locate(place).Bar).Beat;
            var near = added.Where(at => Math.Abs((at - place).Value) <= beat.Value && !AnyBetween(voice, place, at))
                .OrderBy(at => Math.Abs((at - place).Value)).Take(1).ToList();
            if (near is not [var there]) continue;
            gone.Remove(place);
            added.Remove(there);
            late.Add((place, there));
        }
        return (gone, added, late);
    }

    private bool IsAcross(Edit moved) =>
        !pattern.Strokes.Where((_, p) => pattern.Written[p] == moved.PatternTick).Any(s => s.Stroke.Voice == moved.Voice);

    private bool AnyBetween(Voice voice, Tick one, Tick other)
    {
        var (from, to) = one < other ? (one, other) : (other, one);
        return passage.Strokes.Any(s => s.Voice == voice && s.At > from && s.At < to)
            || pattern.Strokes.Any(s => s.Stroke.Voice == voice && PlaceOf(s.At) is var at && at > from && at < to);
    }

    private List<LaidPair> Laid()
    {
        var (taken, pairs) = (new HashSet<Stroke>(), new List<LaidPair>());
        for (var p = 0; p < pattern.Strokes.Length; p++)
        {
            var (own, expected, written) = (pattern.Strokes[p].Stroke, PlaceOf(pattern.Strokes[p].At), pattern.Written[p]);
            var (gone, _, late) = shifts.GetValueOrDefault(own.Voice, ([], [], []));
            var said = others.Any(e => e.PatternTick == written
                && (e.Voice == own.Voice || e.Kind is "voicing" or "not-known" or "ending"));
            var at = late.Where(l => l.Expected == expected).Select(l => (Tick?)l.There).FirstOrDefault()
                ?? others.FirstOrDefault(e => e.Kind == "moved" && e.PatternTick == written
                    && Distance(e.Voice, own.Voice) < 3)?.PassageTick;
            var there = gone.Contains(expected) ? null
                : At(at ?? expected).Where(s => !taken.Contains(s) && Distance(s.Voice, own.Voice) < (said || at is not null ? 3 : 2))
                    .MinBy(s => Distance(s.Voice, own.Voice));
            if (there is not null) taken.Add(there);
            pairs.Add(new(own, expected, there, there is null ? !own.Optional : said || at is not null));
        }
        return pairs;
    }

    /// <summary>0 the same drum, 1 of its family, 2 of the same limbs.</summary>
    private static int Distance(Voice one, Voice other) =>
        one == other ? 0 : one.Family == other.Family ? 1 : one.Limbs == other.Limbs ? 2 : 3;

    private IEnumerable<string> SaidOf(Voice voice)
    {
        var (gone, added, late) = shifts[voice];
        if (gone.Count > 0)
            yield return $"no {voice.Name} {Under(voice, gone)}{(added.Count > 0 ? $", one too many {Listed(added)}" : "")}";
        else if (added.Count > 0) yield return $"one {voice.Name} too many {Listed(added)}";
        foreach (var (expected, there) in late)
            yield return $"{voice.Name} {CountNames.Length(new(Math.Abs((there - expected).Value)))} "
                + $"{(there < expected ? "early" : "late")}: on {Spoken(there)}, not {Spoken(expected)}";
    }

    /// <summary>A foot under what the hands play there, else the counts.</summary>
    private string Under(Voice voice, List<Tick> places)
    {
        if (places is not [var only] || !voice.IsFoot) return Listed(places);
        if (At(only).Any(s => s.Voice == Voice.Hat && s.Openness == Openness.Open)) return "under the open hat";
        return At(only).FirstOrDefault(s => s.Voice.Family == Family.Crash) is { } crash ? $"under the {crash.Voice.Name}" : Listed(places);
    }

    private string Listed(List<Tick> places) => "on " + string.Join(" and ", places.Select(Spoken));

    private static int Importance(string kind) => kind switch
    {
        "ending" => 0,
        "moved" or "voicing" or "contour" => 1,
        "openness" => 2,
        "dynamics" or "levels" => 3,
        "ornaments" => 4,
        "sticking" => 5,
        _ => 6,
    };

    private Tick PlaceOf(long fine)
    {
        var at = start + new Tick(factor.ScaleUp(fine));
        return passage.Looped && passage.Length > Tick.Zero ? new(at.Value % passage.Length.Value) : at;
    }

    private IEnumerable<Stroke> At(Tick at) => passage.Strokes.Where(s => s.At == at);

    private string Spoken(Tick at) => SpokenIn(passage, at);

    private static string SpokenIn(Passage passage, Tick at)
    {
        var (bar, inBar) = passage.Meters.Locate(at);
        return CountNames.Spoken(inBar, passage.Meters.MeterOf(bar));
    }
}
