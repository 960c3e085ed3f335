using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Words;

// Runs of notes: sixteenths from 3 to the end.
internal sealed partial class WordLine
{
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
}
