using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Words;

// How strokes are played: marks, hands and feet.
internal sealed partial class WordLine
{
    private static readonly Dictionary<string, Func<Stroke, Stroke>> Marked = new()
    {
        ["open"] = s => s with { Openness = Openness.Open },
        ["splashed"] = s => s with { Openness = Openness.Open },
        ["loose"] = s => s with { Openness = Openness.Loose },
        ["accented"] = s => s with { Dynamic = Dynamic.Accent },
        ["accent"] = s => s with { Dynamic = Dynamic.Accent },
        ["ghost"] = s => s with { Dynamic = Dynamic.Ghost },
        ["ghosted"] = s => s with { Dynamic = Dynamic.Ghost },
        ["flam"] = s => s with { Ornaments = s.Ornaments | Ornaments.Flam },
        ["drag"] = s => s with { Ornaments = s.Ornaments | Ornaments.Drag },
        ["buzz"] = s => s with { Ornaments = s.Ornaments | Ornaments.Buzz },
        ["buzze"] = s => s with { Ornaments = s.Ornaments | Ornaments.Buzz },
        ["rimshot"] = s => s with { Ornaments = s.Ornaments | Ornaments.Rimshot },
        ["choked"] = s => s with { Ornaments = s.Ornaments | Ornaments.Choke },
        ["echo"] = s => s with { Echo = true },
        ["echoe"] = s => s with { Echo = true },
        ["perhaps"] = s => s with { Unsure = true },
        ["unsure"] = s => s with { Unsure = true },
        ["optional"] = s => s with { Optional = true },
    };

    private static Func<Stroke, Stroke>? MarkOf(string word) => Marked.GetValueOrDefault(word) ?? Marked.GetValueOrDefault(Singular(word));

    private bool IsMarkAt(int i) => i < words.Length && (MarkOf(words[i]) is not null || words[i] is "{" or "lasting" || IsLimbAt(i));

    /// <summary>with the right hand, probably with the left foot.</summary>
    private bool IsLimbAt(int i)
    {
        if (i < words.Length && words[i] == "probably") i++;
        return i + 3 < words.Length && words[i] == "with" && words[i + 1] == "the" && words[i + 2] is "right" or "left"
            && words[i + 3] is "hand" or "foot";
    }

    private Func<Stroke, Stroke>? ReadMark()
    {
        if (!IsMarkAt(at)) return null;
        if (Take("unsure"))
        {
            if (Take("ornament", "ornaments")) return s => s with { OrnamentUnsure = true };
            return Marked["unsure"];
        }
        if (IsLimbAt(at))
        {
            var perhaps = Take("probably");
            var side = words[at + 2] == "right" ? Side.Right : Side.Left;
            at += 4;
            return s => s with { Side = side, SideUnsure = perhaps };
        }
        if (Take("{"))
        {
            var note = at < typed.Length ? typed[at++] : "";
            return Take("}") ? s => s with { Notes = [.. s.Notes, note] } : null;
        }
        if (Take("lasting"))
        {
            Article();
            if (Share() is { } share) return s => s with { Length = share };
            var times = Number() ?? 1;
            return Unit() is { } unit ? s => s with { Length = unit * times } : null;
        }
        var mark = MarkOf(words[at++])!;
        Take("stroke", "strokes", "note", "notes");
        if (!Take("from")) return mark;
        Article();
        if (TryVoice() is not { } grace) return null;
        return s => mark(s) with { Grace = grace };
    }

    /// <summary>A mark's part marks the strokes at its places, or what was just said; alone it speaks of the snare.</summary>
    private bool ReadMarked(Func<Stroke, Stroke> mark, int first)
    {
        Take("throughout");
        if (IsRunAfterOn() && Take("on")) { }
        else if (Take("on"))
        {
            var back = at;
            Article();
            if (TryVoice() is { } drum) voice = drum;
            else at = back;
            if (at > back && !Take("on")) return No();
            if (ReadPlaces(false) is not { } places) return No();
            parts.Add(new Struck(targets, voice ?? Voice.Snare, places, mark));
            return true;
        }
        // Open, accented, a ghost: before the drum or the run it speaks of, or after it.
        if (ReadRun() is { } run) return AddRun(run, mark);
        var before = at;
        if (TryVoice() is { } named && Take("on"))
        {
            voice = named;
            if (ReadPlaces(false) is not { } places) return No();
            parts.Add(new Struck(targets, named, places, mark));
            return true;
        }
        at = before;
        var spoken = parts.Skip(first).OfType<Struck>().Where(s => s.Marked is null && s.Voice == voice).ToList();
        parts.AddRange(spoken.Select(s => s with { Marked = mark }));
        return spoken.Count > 0 || No();
    }
}
