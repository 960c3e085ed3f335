using InnerCadence.Core.Music;

namespace InnerCadence.Core.Practice;

/// <summary>A stroke on a pad or a key.</summary>
/// <param name="At">From the first bar line of the first round; before it below zero.</param>
/// <param name="Velocity">0 to 1; nothing where a key tells none.</param>
public readonly record struct PadStroke(Seconds At, Voice Voice, double? Velocity);

/// <summary>How one voice was played in one round.</summary>
/// <param name="Written">Strokes that it has.</param>
/// <param name="Loud">Ghosts struck as loud as the rest.</param>
/// <param name="Soft">Accents struck no louder than the rest.</param>
public sealed record PlayedVoice(Voice Voice, int Written, int Early, int Late, int Missed, int Extra, int Loud, int Soft)
{
    public bool IsRight => Early + Late + Missed + Extra + Loud + Soft == 0;

    /// <summary>snare: 1 late, 1 missed</summary>
    public override string ToString()
    {
        (int Count, string What)[] all = [(Early, "early"), (Late, "late"), (Missed, "missed"), (Extra, "too many"), (Loud, "too loud"),
            (Soft, "too soft")];
        return $"{Voice.Name}: {string.Join(", ", all.Where(a => a.Count > 0).Select(a => $"{a.Count} {a.What}"))}";
    }
}

/// <summary>One time through a passage on pads.</summary>
/// <param name="Mean">Milliseconds of the strokes that were met, late positive; nothing where none was.</param>
/// <param name="IsClean">Nothing missed, nothing too many, and at most a tenth of the strokes early or late.</param>
public sealed record PlayedRound(ValueList<PlayedVoice> Voices, double? Mean, bool IsClean)
{
    /// <summary>What was not right, the worst first; or that all was.</summary>
    public string Words
    {
        get
        {
            var wrong = Voices.Where(v => !v.IsRight).OrderByDescending(v => v.Missed + v.Extra).ThenByDescending(v => v.Early + v.Late)
                .ToList();
            return wrong.Count == 0 ? "every stroke in its place" : string.Join("; ", wrong);
        }
    }
}

/// <summary>Scores what was played along with a passage, round after round.</summary>
/// <remarks>time.md, "Played along". A stroke is met by the nearest of its drum within 90 ms, or half the way to that drum's next stroke;
/// it is early or late beyond 30 ms.</remarks>
public static class PlayedRounds
{
    private static readonly Seconds Farthest = Seconds.OfMilliseconds(90), OnTime = Seconds.OfMilliseconds(30);
    private const double GhostAtMost = 0.85, AccentAtLeast = 1.1, MostOff = 0.1;

    /// <param name="times">When each stroke of the passage sounds, from the first bar line.</param>
    /// <param name="length">Of one round.</param>
    /// <param name="rounds">How many were played to their end.</param>
    public static IReadOnlyList<PlayedRound> Of(Passage passage, Func<Stroke, Seconds> times, Seconds length, int rounds,
        IReadOnlyList<PadStroke> played)
    {
        var written = passage.Strokes.Where(s => !s.Echo).ToList();
        // The first strokes of the round after come early too, and are nothing too many of this one.
        var due = Enumerable.Range(0, rounds + 1).SelectMany(round => written.Select(s => (Round: round, Stroke: s, At: times(s)
            + length * round)))
            .OrderBy(d => d.At.Value).ToList();
        var own = played.Where(p => p.At > -Farthest && p.At < length * rounds + Farthest).OrderBy(p => p.At.Value).ToList();
        var met = Match(due, own);
        if (rounds == 0) return [];
        var usual = Usual(due, own, met);
        var extra = Enumerable.Range(0, own.Count).Where(i => !met.ContainsValue(i) && own[i].At < length * rounds)
            .ToLookup(i => Math.Clamp((int)(own[i].At / length), 0, rounds - 1), i => own[i].Voice);
        return [.. Enumerable.Range(0, rounds).Select(round =>
        {
            var here = Enumerable.Range(0, due.Count).Where(d => due[d].Round == round).ToList();
            var off = here.Where(met.ContainsKey).Select(d => (own[met[d]].At - due[d].At).Milliseconds).ToList();
            PlayedVoice[] voices = [.. here.Select(d => due[d].Stroke.Voice).Concat(extra[round]).Distinct().Order()
                .Select(voice => Score(voice, [.. here.Where(d => due[d].Stroke.Voice == voice)], extra[round].Count(v => v == voice)))];
            return new PlayedRound(voices, off.Count == 0 ? null : off.Average(),
                voices.Sum(v => v.Missed + v.Extra) == 0 && voices.Sum(v => v.Early + v.Late) <= MostOff * here.Count);
        })];

        PlayedVoice Score(Voice voice, List<int> places, int extras)
        {
            var hit = places.Where(met.ContainsKey).Select(d => (due[d].Stroke, Off: own[met[d]].At - due[d].At,
                Loud: own[met[d]].Velocity / usual.GetValueOrDefault(voice, 1)))
                .ToList();
            return new(voice, places.Count, hit.Count(h => h.Off < -OnTime), hit.Count(h => h.Off > OnTime), places.Count - hit.Count,
                extras,
                hit.Count(h => h.Stroke.Dynamic == Dynamic.Ghost && h.Loud > GhostAtMost),
                    hit.Count(h => h.Stroke.Dynamic == Dynamic.Accent && h.Loud < AccentAtLeast));
        }
    }

    /// <summary>The nearest pairs first, each stroke once.</summary>
    private static Dictionary<int, int> Match(List<(int Round, Stroke Stroke, Seconds At)> due, List<PadStroke> own)
    {
        var pairs = new List<(double Apart, int Due, int Own)>();
        foreach (var voice in due.Select(d => d.Stroke.Voice).Distinct())
        {
            var places = Enumerable.Range(0, due.Count).Where(d => due[d].Stroke.Voice == voice).ToList();
            var mine = Enumerable.Range(0, own.Count).Where(i => own[i].Voice == voice).ToList();
            for (var k = 0; k < places.Count; k++)
            {
                var at = due[places[k]].At;
                var before = k > 0 ? (at - due[places[k - 1]].At) / 2 : Farthest;
                var after = k + 1 < places.Count ? (due[places[k + 1]].At - at) / 2 : Farthest;
                pairs.AddRange(mine.Select(i => (Off: own[i].At - at, Own: i))
                    .Where(p => p.Off > -Math.Min(before, Farthest) && p.Off < Math.Min(after, Farthest))
                        .Select(p => (Math.Abs(p.Off), places[k], p.Own)));
            }
        }
        var (met, taken) = (new Dictionary<int, int>(), new HashSet<int>());
        foreach (var (_, place, stroke) in pairs.OrderBy(p => p.Apart))
            if (!met.ContainsKey(place) && taken.Add(stroke)) met[place] = stroke;
        return met;
    }

    /// <summary>How loud each voice's plain strokes are; of all its strokes where it has none.</summary>
    private static Dictionary<Voice, double> Usual(List<(int Round, Stroke Stroke, Seconds At)> due, List<PadStroke> own, Dictionary<int,
        int> met) =>
        met.Where(m => own[m.Value].Velocity is not null).GroupBy(m => due[m.Key].Stroke.Voice).ToDictionary(g => g.Key, g =>
        {
            var plain = g.Where(m => due[m.Key].Stroke.Dynamic == Dynamic.Normal).ToList();
            double[] loud = [.. (plain.Count > 0 ? plain : [.. g]).Select(m => own[m.Value].Velocity!.Value).Order()];
            return Math.Max(0.05, loud[loud.Length / 2]);
        });
}
