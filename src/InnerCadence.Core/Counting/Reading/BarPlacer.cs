using System.Globalization;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>A stroke of one voice in one bar, with the words it came from.</summary>
/// <param name="InBar">From the bar's full start.</param>
/// <param name="Given">Put there by a run or a repeat, so that a later place may replace it or take it out.</param>
internal readonly record struct Placed(Tick InBar, Marks Marks, TextSpan At, bool Given);

/// <summary>Puts the words of one bar into its meter. One instance serves one bar.</summary>
internal sealed class BarPlacer(Meter meter, Directives said, Tick pickup, Problems problems)
{
    private readonly CountSchool school = said.School;
    private readonly Dictionary<int, Placed> strokes = [];
    private int? runningBeat;
    private bool afterAnd;
    private bool afterFill;
    private Tick? lastPlace;
    private RunToken? openRun;

    /// <summary>In the order of time.</summary>
    public IReadOnlyCollection<Placed> Strokes => [.. strokes.Values.OrderBy(s => s.InBar.Value)];

    /// <summary>Starts from what another bar has, as a repeat does.</summary>
    public void Give(IEnumerable<Placed> before, TextSpan at)
    {
        foreach (var stroke in before) strokes[stroke.InBar.Value] = stroke with { At = at, Given = true };
        EndCount();
        afterFill = false;
    }

    public void Put(IEnumerable<Token> tokens)
    {
        foreach (var token in tokens)
        {
            switch (token)
            {
                case PlaceToken place: PutPlace(place); break;
                case RunToken run: PutRun(run); break;
                case TupletToken tuplet: PutTuplet(tuplet); break;
                case RemovalToken removal: TakeOut(removal); break;
            }
        }
    }

    private void PutPlace(PlaceToken token)
    {
        if (Locate(token) is not { } at) return;
        var goesBack = !token.Place.IsAddress && lastPlace is { } last && at <= last;
        if (goesBack && !IsGiven(at))
        {
            if (strokes.ContainsKey(at.Value))
                problems.Error(token.At, "This place is written twice in the bar: take one of them out.");
            else
                problems.Error(token.At, token.Place.IsBare
                    ? $"The count goes back here: write counts in order, or the full place as one word, "
                        + $"{CountNames.Place(at, meter) ?? "such as 3&"}."
                    : "The count goes back here: write this number before the later counts; only a full place such as 3& may go back.");
            return;
        }
        lastPlace = at;
        if (OtherTa(token, at) is { } fix)
        {
            problems.Error(token.At, $"{fix.Beat}t and {fix.Beat}ta are one place; the other is {fix.Beat}&ta.",
                new Fix($"Write {fix.Beat}&ta", new TextEdit(fix.At, "&")));
            return;
        }
        if (!PutStroke(at, token.Marks, token.At) || !token.Doubled) return;
        var second = at + token.Place.Doubling(meter, school);
        if (second >= meter.Length)
            problems.Error(token.At, "The second stroke of this doubled place falls past the bar line: write it in the next bar.");
        else if (PutStroke(second, token.Marks, token.At))
            lastPlace = second;
    }

    /// <summary>3ta where 3t stands is likely to be the ta of the second half.</summary>
    private (int Beat, TextSpan At)? OtherTa(PlaceToken token, Tick at) =>
        token.Place is { Sub: Sub.Ta, AfterAnd: false, Beat: { } beat } && strokes.TryGetValue(at.Value, out var there) && !there.Given
            ? (beat, token.At with { Column = token.At.Column + beat.ToString(CultureInfo.InvariantCulture).Length, Length = 0 }) : null;

    /// <summary>Where a place falls, moving the running count; nothing, with a problem told, if the bar lacks it.</summary>
    internal Tick? Locate(PlaceToken token)
    {
        var place = token.Place;
        if (!place.IsSpokenIn(school))
        {
            problems.Error(token.At, "With count triplet a beat is counted 1 & a: this syllable has no place in it. Write & or a.",
                [.. InThisSchool(token)]);
            return null;
        }
        if (place.Beat is { } beat)
        {
            if (beat < 1 || beat > meter.Counts)
            {
                problems.Error(token.At, $"A bar of {meter} has the counts 1 to {meter.Counts}: there is no {beat} in it.");
                return null;
            }
            (runningBeat, afterFill) = (beat, false);
            afterAnd = place.Sub == Sub.And || place.AfterAnd;
        }
        else if (runningBeat is not { } running)
        {
            problems.Error(token.At, afterFill
                ? "After a run or a tuplet the count starts again with a number: write the beat first, as in 3&."
                : "This syllable stands before any beat number in its bar: write the beat first, as in 3&.");
            return null;
        }
        else
        {
            if (place.Sub is Sub.Ti or Sub.Ta) place = place with { AfterAnd = afterAnd };
            afterAnd = place.Sub == Sub.And || (afterAnd && place.Sub is Sub.Ti or Sub.Ta);
            place = place with { Beat = running };
        }
        if (place.In(meter, school) is { } at) return at;
        problems.Error(token.At, "This place falls past the bar line: write it in the next bar.");
        return null;
    }

    /// <summary>Its third of the beat by the syllable that it has here, or the same place as one of a tuplet; or the other
    /// school.</summary>
    private IEnumerable<Fix> InThisSchool(PlaceToken token)
    {
        var (place, beat) = (token.Place, token.Place.Beat ?? runningBeat);
        if (place is { Sub: Sub.Trip or Sub.Let, Step: false })
        {
            var syllable = $"{place.Beat}{(place.Sub == Sub.Trip ? "&" : "a")}";
            yield return new($"Write {syllable}", new TextEdit(token.Counted, syllable));
            yield break;
        }
        if ((place with { Beat = beat, AfterAnd = place.AfterAnd || (place.IsBare && afterAnd) }).In(meter, CountSchool.Standard) is { } at
            && CountNames.Tuplet(at, meter) is { } tuplet)
            yield return new($"Write {tuplet}", new TextEdit(token.Counted, tuplet));
        if (said.SchoolAt is { } directive) yield return new("Count standard", new TextEdit(directive, "standard"));
    }

    private void PutRun(RunToken token)
    {
        EndCount();
        var span = token.Range is { } range ? range.In(meter, school) : (pickup, meter.Length);
        if (span is not { } bounds)
        {
            problems.Error(token.At, $"A bar of {meter} has no such span: it has the counts 1 to {meter.Counts}, and a span ends after "
                + $"it starts.");
            return;
        }
        if (bounds.Item1 < pickup)
        {
            problems.Error(token.At, "This run starts before the pickup sounds: start it there.");
            return;
        }
        var added = false;
        for (var at = bounds.Item1; at < bounds.Item2; at += token.Unit * token.Every)
            added |= strokes.TryAdd(at.Value, new(at, token.Marks, token.At, true));
        if (!added && openRun is { } filled) WarnFull(token, filled, bounds.Item1);
        if (token.Range?.To is null) openRun = token;
    }

    /// <summary>A run to the end of the bar leaves nothing to one that comes after it.</summary>
    private void WarnFull(RunToken token, RunToken filled, Tick from)
    {
        var (beat, past) = CountNames.Split(from, meter);
        var starts = filled.Range?.From.Beat ?? 1;
        var end = $"{(filled.Range is null ? "@1" : "")}-{beat - 1}";
        problems.Warning(token.At, "Nothing is left for this run: the one before goes on to the end of the bar. Say where that one ends, as in "
            + "16ths@3-3.", past == Tick.Zero && beat > starts ? [new($"Let the one before end with beat {beat - 1}",
                new TextEdit(filled.Ends, end))] : []);
    }

    private void PutTuplet(TupletToken token)
    {
        EndCount();
        var length = meter.Beat.Value * token.Beats;
        if (token.Beat < 1 || token.Beat + token.Beats - 1 > meter.Counts)
        {
            problems.Error(token.At, $"This tuplet does not fit into a bar of {meter}: it needs the beats {token.Beat} to "
                + $"{token.Beat + token.Beats - 1}.");
            return;
        }
        if (length % token.Size != 0)
        {
            problems.Error(token.At, $"{token.Size} even strokes over {token.Beats} of these beats are finer than can be written: take "
                + $"another size.");
            return;
        }
        var start = meter.Beat * (token.Beat - 1);
        foreach (var index in token.Chosen) PutStroke(start + new Tick(length / token.Size * (index - 1)), token.Marks, token.At);
        lastPlace = start;
    }

    private void TakeOut(RemovalToken token)
    {
        runningBeat = null;
        if (token.Range.In(meter, school) is not { } span)
        {
            problems.Error(token.At, $"A bar of {meter} has no such place: it has the counts 1 to {meter.Counts}.");
            return;
        }
        var end = token.WholeSpan ? span.End : span.Start + new Tick(1);
        var taken = strokes.Values.Where(s => s.InBar >= span.Start && s.InBar < end && s.Given).Select(s => s.InBar.Value).ToList();
        if (taken.Count == 0)
            problems.Error(token.At, "There is nothing of a run or a % to take out here: leave this out.");
        foreach (var at in taken) strokes.Remove(at);
    }

    private bool IsGiven(Tick at) => strokes.TryGetValue(at.Value, out var there) && there.Given;

    private bool PutStroke(Tick at, Marks marks, TextSpan span)
    {
        if (at < pickup)
        {
            problems.Error(span, "This stroke comes before the pickup sounds: move it, or start the pickup earlier.");
            return false;
        }
        if (strokes.TryGetValue(at.Value, out var there) && !there.Given)
        {
            problems.Error(span, "This place is written twice in the bar: take one of them out.");
            return false;
        }
        strokes[at.Value] = new(at, marks, span, false);
        return true;
    }

    private void EndCount()
    {
        (runningBeat, afterFill, lastPlace) = (null, true, null);
    }
}
