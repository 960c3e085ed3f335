using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hearing;

/// <summary>What a person puts right in the beats that the ear heard, in a few words.</summary>
/// <param name="Later">Beats by which every bar line lies later.</param>
/// <param name="Pace">Beats in place of one: 1 as heard, 2 where one lies between every two as well, -2 where every other is none.</param>
/// <param name="Beats">Of a bar; nothing for bars as they were heard.</param>
/// <param name="One">Bar 1 begins at the beat nearest to it; nothing for the first bar line that was heard.</param>
/// <remarks>sound.md, "Beats put right".</remarks>
public sealed record BeatCorrection(int Later = 0, int Pace = 1, int? Beats = null, Seconds? One = null)
{
    public const int MostBeats = 16;

    public bool IsNone => this == new BeatCorrection();

    /// <returns>In order of time; without a bar line where there was none and nobody says how many beats a bar has.</returns>
    public IReadOnlyList<HeardBeat> Of(IReadOnlyList<HeardBeat> heard)
    {
        var beats = Paced(heard);
        var first = beats.FindIndex(b => b.Bar);
        if (IsNone || beats.Count == 0 || (first < 0 && Beats is null)) return heard;
        if (One is { } one) first = Enumerable.Range(0, beats.Count).MinBy(i => Math.Abs(beats[i].At - one));
        var length = Beats ?? (Pace == 1 ? null : Usual(heard));
        if (length is not { } a)
        {
            // Bars keep their lengths: the lines move as they are.
            var moved = Enumerable.Range(0, beats.Count).Select(i => beats[i] with
            {
                Bar = i - Later is >= 0 and var from && from < beats.Count
                && beats[from].Bar
            }).ToList();
            return One is null ? moved : [.. moved.Select((b, i) => b with { Bar = i == first || (b.Bar && i > first) })];
        }
        first = Math.Max(0, first) + Later % a;
        if (One is null) first %= a;
        return [.. beats.Select((b, i) => b with { Bar = i >= first && (i - first) % a == 0 })];
    }

    private List<HeardBeat> Paced(IReadOnlyList<HeardBeat> heard)
    {
        if (Pace == -2)
        {
            var phase = Math.Max(0, Enumerable.Range(0, heard.Count).FirstOrDefault(i => heard[i].Bar, 0)) % 2;
            return [.. heard.Where((_, i) => i % 2 == phase)];
        }
        if (Pace != 2) return [.. heard];
        return [.. heard.SelectMany((b, i) => i + 1 < heard.Count
            ? (HeardBeat[])[b, new(new((b.At + heard[i + 1].At) / 2), false)] : [b])];
    }

    /// <summary>How many beats most bars have.</summary>
    private static int? Usual(IReadOnlyList<HeardBeat> heard)
    {
        int[] lines = [.. Enumerable.Range(0, heard.Count).Where(i => heard[i].Bar)];
        return lines.Length < 2 ? null : lines.Zip(lines.Skip(1), (a, b) => b - a).GroupBy(n => n).OrderByDescending(g => g.Count())
            .ThenBy(g => g.Key).First().Key;
    }
}
