using System.Globalization;
using System.Text.RegularExpressions;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Words;

/// <summary>Why a line in words was not taken up.</summary>
internal enum NotUnderstood { NoWords, NoVoice }

/// <summary>Reads one line in words (count-lines.md, "Words"). Where it may mean two things, <paramref name="takes"/> says which is taken:
/// one reading after another leads to every meaning.</summary>
/// <param name="takes">The meanings taken so far, from 0; those beyond are the first.</param>
internal sealed partial class WordLine(string line, Passage passage, Directives said, IReadOnlyList<int> takes)
{
    private readonly string[] typed = [.. Token().Matches(line).Select(m => m.Value)];
    private readonly string[] words = [.. Token().Matches(line).Select(m => m.Value.ToLowerInvariant())];
    private readonly List<SpokenPart> parts = [];
    private int at;
    private int asked;
    private Voice? voice;
    private bool afterOn;
    private IReadOnlyList<int>? targets;

    /// <summary>How many questions the line left open.</summary>
    public int Asked => asked;

    public NotUnderstood? Problem { get; private set; }

    /// <summary>Everything the line says; nothing where a word of it is not understood.</summary>
    public IReadOnlyList<SpokenPart>? Read()
    {
        while (at < words.Length)
        {
            var first = parts.Count;
            while (at < words.Length && !Take(";", "."))
                if (!ReadPart(first)) return null;
        }
        return parts.Count == 0 ? Fail(NotUnderstood.NoWords) : parts;
    }

    private IReadOnlyList<SpokenPart>? Fail(NotUnderstood why)
    {
        Problem ??= why;
        return null;
    }

    private bool No(NotUnderstood why = NotUnderstood.NoWords)
    {
        Problem ??= why;
        return false;
    }

    /// <param name="first">The first part of the stretch between semicolons: what is said of bars is said of all of it.</param>
    private bool ReadPart(int first)
    {
        if (!IsLimbAt(at) && Take(",", "and", "then", "with", "plus", "too", "also", "but", "is") && !IsAt("not")) return true;
        if (at > 0 && words[at - 1] == "but" && Take("not")) return ReadRemoval();
        if (IsAt("in") && ReadBars() is { } bars)
        {
            for (var i = first; i < parts.Count; i++) parts[i] = parts[i] with { Bars = bars };
            return true;
        }
        if (Take("without")) return ReadRemoval();
        if (ReadSame()) return true;
        if (ReadHands()) return true;
        if (Take("silent"))
        {
            parts.Add(new Silent(targets));
            return true;
        }
        if (Take("not"))
        {
            if (!Take("heard") || voice is not { } unheard) return No();
            parts.Add(new NotHeard(targets, unheard));
            return true;
        }
        if (IsAt("on") && !IsRunAfterOn()) return Take("on") && ReadPlain(false);
        afterOn |= Take("on");
        if (voice is not null && IsPlaceAt(at) && (OrdinalAt(at) is null || NumberAt(at) is not null)) return ReadPlain(!afterOn);
        Article();
        if (ReadMark() is { } mark) return ReadMarked(mark, first);
        if (ReadRun() is { } run) return AddRun(run);
        if (TryVoice() is not { } named) return voice is not null && No();
        (voice, afterOn) = (named, false);
        if (Take("instead"))
        {
            if (!Take("of")) return No();
            Article();
            if (TryVoice() is not { } before) return No();
            parts.Add(new Exchanged(targets, before, named));
            return true;
        }
        return !IsPlaceAt(at) || OrdinalAt(at) is not null && NumberAt(at) is null || ReadPlain(true);
    }

    private bool IsRunAfterOn() => at + 1 < words.Length && (words[at + 1] is "every" or "all" || UnitAt(at + 1) is not null);

    private bool ReadPlain(bool withoutOn)
    {
        afterOn |= !withoutOn;
        if (ReadPlaces(withoutOn) is not { } places) return No();
        if (voice is not { } own) return No(NotUnderstood.NoVoice);
        parts.Add(new Struck(targets, own, places, null));
        return true;
    }

    private bool ReadRemoval()
    {
        Article();
        var from = TryVoice() ?? voice;
        SpokenPlaces? places = null;
        if (Take("on") && (places = ReadPlaces(false)) is null) return No();
        parts.Add(new TakenOut(targets, from, places));
        return true;
    }

    private bool ReadSame()
    {
        var back = at;
        IReadOnlyList<int>? bars = null;
        if (Take("same")) bars = [passage.Bars];
        else if (Take("bar", "bars")) bars = ReadNumbers();
        if (bars is null || !Take("as") || !Take("bar") || Number() is not { } from)
        {
            at = back;
            return false;
        }
        // Numbers are said from 1, bars are kept from 0; the same is the next bar already.
        targets = words[back] == "same" ? bars : [.. bars.Select(b => b - 1)];
        parts.Add(new SameAs(targets, from - 1));
        return true;
    }

    /// <summary>in bar 2, in bars 1, 2 and 4 to 6, in all 4 bars.</summary>
    private IReadOnlyList<int>? ReadBars()
    {
        var back = at;
        if (!Take("in")) return null;
        if (Take("all", "every", "each"))
        {
            var count = Number() ?? passage.Bars;
            if (Take("bar", "bars")) return [.. Enumerable.Range(0, Math.Max(1, count))];
        }
        else if (Take("bar", "bars") && ReadNumbers() is { } bars) return [.. bars.Select(b => b - 1)];
        at = back;
        return null;
    }

    private IReadOnlyList<int>? ReadNumbers()
    {
        var all = new List<int>();
        do
        {
            if (Number() is not { } from || from < 1 || from > CountLines.MostBars) return null;
            var to = from;
            if (IsAt("to") && NumberAt(at + 1) is { } last && last <= CountLines.MostBars) (to, at) = (last, at + 2);
            for (var n = from; n <= to; n++) all.Add(n);
        }
        while (NumberAt(at + 1) is not null && !IsPlaceWordAt(at + 2) && Take(",", "and"));
        return all;
    }

    private bool IsPlaceWordAt(int i) => i < words.Length && words[i] is "of" or "triplet";

    /// <summary>right left left right, sixteenths, from 3.</summary>
    private bool ReadHands()
    {
        var back = at;
        var letters = "";
        while (at < words.Length && (words[at] is "right" or "left" || (letters.Length > 0 && words[at] == "kick")))
        {
            if (words[at] == "left" && at + 1 < words.Length && words[at + 1] == "foot") break;
            letters += char.ToUpperInvariant(words[at++][0]);
            if (IsAt("and") && at + 1 < words.Length && words[at + 1] is "right" or "left") at++;
        }
        if (letters.Length < 2 || IsAt("hand") || IsAt("foot"))
        {
            at = back;
            return false;
        }
        Tick? note = null;
        SpokenPlaces from = _ => [Tick.Zero];
        var drum = Voice.Snare;
        while (at < words.Length && words[at] is not ("." or ";"))
        {
            if (Take(",", "in", "and", "every", "all")) continue;
            if (Unit() is { } unit) note = unit;
            else if (Take("from"))
            {
                if (ReadPlaces(false) is not { } place) return No();
                from = place;
            }
            else if (Take("on"))
            {
                Article();
                if (TryVoice() is not { } named) return No();
                drum = named;
            }
            else return No();
        }
        if (note is not { } length) return No();
        parts.Add(new Sticked(targets, drum, letters, length, from));
        return true;
    }

    // Marks

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

    // Runs

    /// <param name="Every">1 for each note, 3 for every third.</param>
    private sealed record Run(Tick Note, int Every, SpokenPlaces? From, Func<Meter, Tick, Tick?>? Until, SpokenPlaces? Beats);

    private Tick? UnitAt(int i) => i < words.Length ? UnitOf(words[i]) : null;

    private static Tick? UnitOf(string word) => word switch
    {
        "quarter" or "quarters" or "4ths" or "4th" => new(Tick.PerQuarter),
        "eighth" or "eighths" or "8ths" or "8th" => new(Tick.PerQuarter / 2),
        "sixteenth" or "sixteenths" or "16ths" or "16th" => new(Tick.PerQuarter / 4),
        "32nd" or "32nds" or "thirty-second" or "thirty-seconds" => new(Tick.PerQuarter / 8),
        "triplet" or "triplets" or "8t" => new(Tick.PerQuarter / 3),
        "sextuplet" or "sextuplets" or "16t" => new(Tick.PerQuarter / 6),
        _ => null,
    };

    private Tick? Unit()
    {
        if (UnitAt(at) is not { } unit) return null;
        at++;
        if (unit.Value == Tick.PerQuarter / 3 && Take("sixteenth", "sixteenths")) unit = new(Tick.PerQuarter / 6);
        else if (unit.Value == Tick.PerQuarter / 3) Take("eighth", "eighths");
        else if (Take("triplet", "triplets")) unit = new(unit.Value * 2 / 3);
        Take("note", "notes");
        return unit;
    }

    private Run? ReadRun()
    {
        var back = at;
        var (every, said) = (1, Take("every", "all", "each"));
        if (said && OrdinalAt(at) is { } nth && UnitAt(at + 1) is not null) (every, at) = (nth, at + 1);
        if (Unit() is not { } note)
        {
            at = back;
            return null;
        }
        if (Take("throughout")) { }
        if (IsAt("on") || IsAt("in"))
        {
            var before = at++;
            Article();
            if (TryVoice() is { } named) voice = named;
            else at = before;
        }
        SpokenPlaces? from = null, beats = null;
        Func<Meter, Tick, Tick?>? until = null;
        if (Take("from") && (from = ReadPlaces(false, true)) is null) return null;
        if (Take("up"))
        {
            if (!Take("to") || ReadPlaces(false, true) is not { } last) return null;
            until = (meter, _) => last(meter).Select(t => (Tick?)(t + new Tick(1))).FirstOrDefault();
        }
        else if (Take("to"))
        {
            Article();
            if (Take("end"))
            {
                if (!Take("of") || Number() is not { } beat) return null;
                until = (meter, _) => meter.Beat * beat;
            }
            else
            {
                var bare = NumberAt(at) is not null;
                if (ReadPlaces(false, true) is not { } last) return null;
                // A run finer than the beat may end on a beat or with it.
                var whole = bare && note < new Tick(Tick.PerQuarter) && Choose() == 1;
                until = (meter, _) => last(meter).Select(t => (Tick?)(whole ? t + meter.Beat : t + new Tick(1))).FirstOrDefault();
            }
        }
        else if (from is null && IsAt("on") && (NumberAt(at + 1) is not null))
        {
            at++;
            beats = ReadPlaces(false);
        }
        return new(note, every, from, until, beats);
    }

    private bool AddRun(Run run, Func<Stroke, Stroke>? mark = null)
    {
        if (voice is not { } own) return No(NotUnderstood.NoVoice);
        var step = run.Note * run.Every;
        parts.Add(new Struck(targets, own, meter =>
        {
            if (run.Beats is { } beats)
                return beats(meter).SelectMany(b => Steps(b, b + meter.Beat, step));
            var from = run.From is null ? Tick.Zero : run.From(meter).FirstOrDefault();
            return Steps(from, run.Until?.Invoke(meter, from) ?? meter.Length, step);
        }, mark));
        return true;
    }

    private static IEnumerable<Tick> Steps(Tick from, Tick end, Tick step)
    {
        for (var t = from; t < end; t += step) yield return t;
    }

    // Places

    /// <param name="withoutOn">kick one and three: the and may be a count.</param>
    /// <param name="one">Only the first.</param>
    private SpokenPlaces? ReadPlaces(bool withoutOn, bool one = false)
    {
        var all = new List<SpokenPlaces>();
        do
        {
            if (ReadPlace(one) is not { } place) return null;
            all.Add(place);
            if (!withoutOn || !IsAt("and") || NumberAt(at + 1) is null || NumberAt(at - 1) is not { } beat) continue;
            if (Choose() == 1) all.Add(meter => In(meter, new(beat, Sub.And, false, false)));
        }
        while (!one && GoesOn());
        return meter => all.SelectMany(place => place(meter)).Distinct();
    }

    /// <summary>Another place follows, past a comma or an and.</summary>
    private bool GoesOn()
    {
        var back = at;
        while (Take(",", "and")) { }
        if (at == back) return false;
        if (IsAt("on") && IsPlaceAt(at + 1)) at++;
        if (IsPlaceAt(at)) return true;
        at = back;
        return false;
    }

    private bool IsPlaceAt(int i)
    {
        if (i < words.Length && words[i] == "the") i++;
        return i < words.Length && (NumberAt(i) is not null && !(i + 1 < words.Length && words[i + 1] is "bars" or "bar")
            || TokenReader.WholePlace(words[i]) is not null || words[i] is "ands" or "just"
            || (words[i] == "stroke" && i + 1 < words.Length && char.IsAsciiDigit(words[i + 1][0]))
                || (SubAt(i) is not null && i + 1 < words.Length
                && words[i + 1] == "of")
            || (words[i] == "second" && i + 1 < words.Length && words[i + 1] == "ta") || (OrdinalAt(i) is not null && i + 1 < words.Length
            && words[i + 1] == "triplet"));
    }

    private SpokenPlaces? ReadPlace(bool one)
    {
        if (Take("just"))
        {
            return Take("after") && ReadPlace(true) is { } before
                ? meter => before(meter).Select(t => t + Place.StepOf(meter)).Where(t => t < meter.Length) : null;
        }
        Article("the");
        if (Take("stroke"))
        {
            return Figure() is { } index && Take("of") && Figure() is { } size && Take("in") && Take("beat") && Number() is { } inBeat
                ? meter => inBeat <= meter.Counts && index <= size && meter.Beat.Value % size == 0
                    ? [meter.Beat * (inBeat - 1) + new Tick(meter.Beat.Value / size * (index - 1))] : [] : null;
        }
        if (Take("ands")) return meter => Enumerable.Range(1, meter.Counts).SelectMany(beat => In(meter, new(beat, Sub.And, false, false)));
        if (Take("beat")) { }
        if (NumberAt(at) is { } number)
        {
            at++;
            return meter => In(meter, new(number, Sub.Beat, false, false));
        }
        if (at < words.Length && TokenReader.WholePlace(words[at]) is { } whole)
        {
            at++;
            return meter => In(meter, whole);
        }
        if (OrdinalAt(at) is { } nth and <= 3 && at + 2 < words.Length && words[at + 1] == "triplet" && words[at + 2].StartsWith("partial",
            StringComparison.Ordinal))
        {
            at += 3;
            var sub = nth switch { 1 => Sub.Beat, 2 => Sub.Trip, _ => Sub.Let };
            return Take("of") && PartialBeats(one) is { } beats
                ? meter => beats.SelectMany(beat => In(meter, new(beat, sub, false, false))) : null;
        }
        var second = words.Length > at + 1 && words[at] == "second" && words[at + 1] == "ta";
        if (second) at++;
        if (SubAt(at) is not { } syllable) return null;
        at++;
        if (!Take("of") || SyllableBeats(one) is not { } named) return null;
        return meter => named.SelectMany(n => In(meter, new(n.Beat, n.Plain ? Sub.Beat : syllable, second && !n.Plain, false)));
    }

    /// <summary>the &amp; of 2 and 4: of both, or the &amp; of 2, and 4.</summary>
    private List<(int Beat, bool Plain)>? SyllableBeats(bool one)
    {
        if (Number() is not { } first) return null;
        var all = new List<(int, bool)> { (first, false) };
        while (!one && IsAt("and") && NumberAt(at + 1) is { } next && !IsPlaceWordAt(at + 2))
        {
            at += 2;
            all.Add((next, Choose() == 0));
        }
        return all;
    }

    /// <summary>third triplet partial of 1 and 2: of both.</summary>
    private List<int>? PartialBeats(bool one)
    {
        if (Number() is not { } first) return null;
        var all = new List<int> { first };
        while (!one && words.Length > at && words[at] is "and" or "," && NumberAt(at + 1) is { } next && !IsPlaceWordAt(at + 2))
        {
            at += 2;
            all.Add(next);
        }
        return all;
    }

    /// <summary>A syllable that the school of the text lacks has its usual place.</summary>
    private IEnumerable<Tick> In(Meter meter, Place place) =>
        place.In(meter, place.IsSpokenIn(said.School) ? said.School : CountSchool.Standard) is { } tick ? [tick] : [];

    private Sub? SubAt(int i) => i < words.Length ? words[i] switch
    {
        "e" => Sub.E,
        "and" or "&" or "+" => Sub.And,
        "a" or "ah" or "uh" => Sub.A,
        "t" or "trip" => Sub.Trip,
        "l" or "let" => Sub.Let,
        "ti" => Sub.Ti,
        "ta" => Sub.Ta,
        _ => null,
    } : null;

    // Words

    private int Choose()
    {
        var take = asked < takes.Count ? takes[asked] : 0;
        asked++;
        return take;
    }

    private bool IsAt(string word) => at < words.Length && words[at] == word;

    private bool Take(params ReadOnlySpan<string> any)
    {
        if (at >= words.Length || !any.Contains(words[at])) return false;
        at++;
        return true;
    }

    /// <summary>An article; a is one where it is no count.</summary>
    private bool Article(string only = "")
    {
        if (at >= words.Length || (words[at] != "the"
            && (only.Length > 0 || words[at] is not ("a" or "an" or "some" or "one")))) return false;
        if (words[at] == "one" && !IsMarkAt(at + 1)) return false;
        at++;
        return true;
    }

    private Voice? TryVoice()
    {
        if (TryVoiceAt(at) is not { } found) return null;
        at += found.Words;
        return found.Voice;
    }

    private (Voice Voice, int Words)? TryVoiceAt(int i)
    {
        for (var count = Math.Min(3, words.Length - i); count > 0; count--)
        {
            var name = string.Join(' ', words[i..(i + count)]);
            if (count == 1 && name.Length < 2) continue;
            if ((said.VoiceCalled(name) ?? said.FindVoice(Singular(name))) is { } found)
                return (found, count);
        }
        return null;
    }

    private static string Singular(string word) => word.Length > 2 && word[^1] == 's' && word[^2] != 's' ? word[..^1] : word;

    private int? Number()
    {
        if (NumberAt(at) is not { } number) return null;
        at++;
        return number;
    }

    /// <summary>A number as large as a beat can be divided.</summary>
    private int? Figure() => at < words.Length && int.TryParse(words[at], NumberStyles.None, CultureInfo.InvariantCulture, out var n)
        && n is > 0 and <= 4 * Tick.PerQuarter && at++ >= 0 ? n : Number();

    /// <summary>5/14 of a quarter: what no note is as long as.</summary>
    private Tick? Share()
    {
        var back = at;
        if (Figure() is { } share && Take("/") && Figure() is { } whole && Take("of") && Take("a") && Take("quarter")
            && (long)share * Tick.PerQuarter % whole == 0) return new((int)((long)share * Tick.PerQuarter / whole));
        at = back;
        return null;
    }

    private int? NumberAt(int i) => i < 0 || i >= words.Length ? null
        : int.TryParse(words[i], NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n is > 0 and < 1000 ? n
        : Array.IndexOf(Numbers, words[i]) is >= 0 and var index ? index + 1 : null;

    private int? OrdinalAt(int i) => i < words.Length && Array.IndexOf(Ordinals, words[i]) is >= 0 and var index ? index % 12 + 1 : null;

    private static readonly string[] Numbers =
        ["one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"];

    private static readonly string[] Ordinals =
    [
        "first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth", "eleventh", "twelfth",
        "1st", "2nd", "3rd", "4th", "5th", "6th", "7th", "8th", "9th", "10th", "11th", "12th",
    ];

    [GeneratedRegex(@"\p{L}+(?:-\p{L}+)*|\d+(?:nds?|ths?|st|rd|t(?![a-z]))?(?:[&+'a-z]+)?|\S")]
    private static partial Regex Token();
}
