using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>A passage that is written down, as far as it depends on what it counts as.</summary>
/// <param name="Bar">Its first bar in the recording; nothing where that is not known.</param>
public sealed record WrittenDown(long Recording, int? Bar, int Bars, bool BecauseHeard);

/// <summary>What of a written passage is material for fills, traits, fingerprints, stock of bars and voice-and-place (evidence.md, "What is
/// counted").</summary>
/// <param name="Bars">Those of it that count, from 0: each bar of a recording once.</param>
/// <param name="Whole">The passage as such counts: it was not written down because an idea was heard in it, or all of it was listened to
/// anyway.</param>
public sealed record WrittenMaterial(ValueList<int> Bars, bool Whole)
{
    /// <summary>In the order given; of passages that overlap, one written for its own sake goes before one written because something was
    /// heard.</summary>
    public static IReadOnlyList<WrittenMaterial> Of(IEnumerable<RecordingFacts> recordings, IReadOnlyList<WrittenDown> passages)
    {
        var covered = recordings.ToDictionary(r => r.Id, r =>
            (r.TotalBars, Exposure.ForEverything(r.TotalBars, r.Searches, r.Written).Bars));
        var taken = new HashSet<(long, int)>();
        var counted = new WrittenMaterial[passages.Count];
        foreach (var (p, i) in passages.Select((p, i) => (p, i)).OrderBy(x => x.p.BecauseHeard))
        {
            bool Counts(int index) => !p.BecauseHeard || (covered.TryGetValue(p.Recording, out var of)
                && (p.Bar is { } bar ? of.Bars.Contains(bar + index) : of.TotalBars is { } total && of.Bars.Count >= total));
            var all = Enumerable.Range(0, p.Bars).ToList();
            counted[i] = new([.. all.Where(index => Counts(index) && (p.Bar is not { } bar || taken.Add((p.Recording, bar + index))))],
                all.All(Counts));
        }
        return counted;
    }
}

/// <summary>How much was searched at all, whatever for.</summary>
/// <param name="Recordings">There are so many.</param>
/// <param name="Searched">Far enough to count.</param>
public sealed record SearchedAtAll(int Recordings, int Searched, int Bars, int TotalBars)
{
    public bool IsFew => Searched < Answer.FewestRecordings;

    public static SearchedAtAll Of(IEnumerable<RecordingFacts> recordings)
    {
        var all = recordings.Select(r => (r.TotalBars, Bars: Exposure.AtAll(r.TotalBars, r.Searches, r.Written).Bars.Count)).ToList();
        return new(all.Count, all.Count(r => Exposure.IsEnough(r.Bars, r.TotalBars)), all.Sum(r => r.Bars), all.Sum(r => r.TotalBars ?? 0));
    }
}
