using InnerCadence.Core.Music;

namespace InnerCadence.Core.Rhythm;

/// <summary>Moments of a passage that may divide it into groups.</summary>
/// <param name="Name">accents, a voice's code, a limb, or pairs.</param>
/// <param name="At">Different ticks in order.</param>
public sealed record Markers(string Name, ValueList<Tick> At)
{
    public const string Accents = "accents", Pairs = "pairs";

    private static readonly string[] Limbs = ["RH", "LH", "RF", "LF"];

    /// <summary>What a passage proposes by itself (rhythm.md, "Grouping"): accents, each voice, each limb, pairs. Those without a moment
    /// are left out.</summary>
    public static IReadOnlyList<Markers> Of(Passage passage)
    {
        passage = passage.Played();
        var all = new List<Markers> { Named(Accents, passage.Strokes.Where(s => s.Dynamic == Dynamic.Accent).Select(s => s.At)) };
        all.AddRange(passage.Voices.Select(voice => Named(voice.Code, passage.Strokes.Where(s => s.Voice == voice).Select(s => s.At))));
        all.AddRange(Limbs.Select(limb => Named(limb, passage.Strokes.Where(s => s.Limb == limb).Select(s => s.At))));
        all.Add(Named(Pairs, PairsOf(passage)));
        return [.. all.Where(m => m.At.Count > 0)];
    }

    private static Markers Named(string name, IEnumerable<Tick> at) => new(name, [.. at.Distinct().Order()]);

    /// <summary>The first of two strokes of a voice that are closer together than to their neighbours, round the join where the passage
    /// repeats.</summary>
    private static IEnumerable<Tick> PairsOf(Passage passage)
    {
        foreach (var voice in passage.Voices)
        {
            var at = passage.Strokes.Where(s => s.Voice == voice).Select(s => s.At.Value).ToList();
            if (at.Count < 2) continue;
            int Gap(int i) => i >= 0 && i + 1 < at.Count ? at[i + 1] - at[i]
                : passage.Looped ? passage.Length.Value - at[^1] + at[0] : int.MaxValue;
            for (var i = 0; i < at.Count; i++)
            {
                if (i + 1 == at.Count && !passage.Looped) continue;
                var (before, own, after) = (Gap(i == 0 ? -1 : i - 1), Gap(i), Gap(i + 1 == at.Count ? 0 : i + 1));
                if (own < before && own < after) yield return new(at[i]);
            }
        }
    }
}
