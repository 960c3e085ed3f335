using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Words;

// Places: two and four, the e of three.
internal sealed partial class WordLine
{
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
}
