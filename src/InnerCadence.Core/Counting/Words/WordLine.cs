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
}
