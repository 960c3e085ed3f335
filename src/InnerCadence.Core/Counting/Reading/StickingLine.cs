using System.Text.RegularExpressions;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>A line of hands (ST) or feet (SF): a letter a moment, in the order of time.</summary>
/// <remarks>count-lines.md, "Sticking line". A bar whose letters do not fit is told and stays without them; the others count.</remarks>
internal sealed partial class StickingLine
{
    private readonly SourceLine line;
    private readonly bool feet;
    private readonly Problems problems;
    private readonly List<BarOfLetters> bars;
    private readonly bool inBars;

    public StickingLine(SourceLine line, bool feet, Language language, Problems problems)
    {
        (this.line, this.feet, this.problems) = (line, feet, problems);
        var start = line.Text.IndexOf(':') + 1;
        inBars = line.Text.IndexOf('|', start) >= 0;
        bars = [.. BarLines.Split(line, start, language).Select(Read)];
    }

    /// <summary>The strokes with their hands or feet.</summary>
    public IReadOnlyList<Stroke> On(IReadOnlyList<Stroke> strokes, MeterCycle meters, int passageBars, Handedness? hands)
    {
        var moments = Moments(strokes);
        var given = new Dictionary<(int, int), (Side Side, bool Unsure)>();
        if (!inBars) Give(bars[0].Letters, bars[0].RestUnknown, [.. moments], line.Whole, meters, hands, given);
        else
        {
            var byBar = moments.ToLookup(m => meters.Locate(m.At).Bar);
            foreach (var (bar, index) in Expanded(passageBars))
                Give(bar.Letters, bar.RestUnknown, [.. byBar[index]], bar.At, meters, hands, given, index);
        }
        return [.. strokes.Select(s => !s.Echo && given.TryGetValue((s.At.Value, s.Voice.Order), out var g)
            ? s with { Side = g.Side, SideUnsure = g.Unsure } : s)];
    }

    private IEnumerable<(BarOfLetters Bar, int Index)> Expanded(int passageBars)
    {
        var index = 0;
        BarOfLetters? before = null;
        foreach (var bar in bars)
        {
            if (bar.Repeats is { } times)
            {
                if (before is null)
                {
                    problems.Error(bar.At, "% repeats the bar before it, and this is the first: write the bar out.");
                    yield break;
                }
                for (var i = 0; i < (times == 0 ? passageBars : times) && index < passageBars; i++) yield return (Again(before, bar.At),
                    index++);
                continue;
            }
            if (index >= passageBars)
            {
                if (bar.Letters.Count > 0) problems.Error(bar.At,
                    $"The passage has {passageBars} {(passageBars == 1 ? "bar" : "bars")}: take this bar of letters out.");
                yield break;
            }
            before = bar;
            yield return (bar, index++);
        }
        // After a rest that is not known nothing more is; a bar that is simply missing has too few letters.
        while (index < passageBars && before is { RestUnknown: false }) yield return (new([], false, null, line.Whole), index++);
    }

    /// <summary>What does not fit where a bar is repeated is told at the sign that repeats it.</summary>
    private static BarOfLetters Again(BarOfLetters bar, TextSpan at) =>
        bar with { At = at, Letters = [.. bar.Letters.Select(l => l with { At = at })] };

    private List<Moment> Moments(IReadOnlyList<Stroke> strokes)
    {
        var letters = bars.SelectMany(b => b.Letters).Select(l => l.Text).ToHashSet();
        var moments = new List<Moment>();
        // An echo was struck by nobody.
        foreach (var tick in strokes.Where(s => !s.Echo).GroupBy(s => s.At))
        {
            if (feet)
            {
                if (tick.FirstOrDefault(s => s.Voice == Voice.Kick) is { } kick) moments.Add(new(tick.Key, [kick], ' '));
                continue;
            }
            Stroke[] struck = [.. tick.Where(s => s.Voice.Limbs == LimbClass.Hand)];
            if (struck.Length > 0) moments.Add(new(tick.Key, struck, ' '));
            else if (letters.Contains('K') && tick.Any(s => s.Voice is { IsFoot: true, Family: Family.Kick })) moments.Add(new(tick.Key,
                [], 'K'));
            else if (letters.Contains('H') && tick.Any(s => s.Voice is { IsFoot: true, Family: Family.Hat })) moments.Add(new(tick.Key, [],
                'H'));
        }
        return moments;
    }

    private void Give(
        IReadOnlyList<Letter> letters, bool restUnknown, IReadOnlyList<Moment> moments, TextSpan at, MeterCycle meters, Handedness? hands,
            Dictionary<(int, int), (Side, bool)> given, int? bar = null)
    {
        var (good, found) = (true, new Dictionary<(int, int), (Side, bool)>());
        string Where(Tick tick)
        {
            var (index, inBar) = meters.Locate(tick);
            return $"bar {index + 1}, {CountNames.Spoken(inBar, meters.MeterOf(index))}";
        }
        foreach (var (letter, moment) in letters.Zip(moments))
        {
            if (Fit(letter, moment, hands, found) is not { } wrong) continue;
            problems.Error(letter.At, $"At {Where(moment.At)} {wrong}");
            good = false;
        }
        if (letters.Count > moments.Count)
        {
            problems.Error(letters[moments.Count].At,
                $"There are more letters than strokes{(bar is { } b ? $" in bar {b + 1}" : "")}: from here on "
                + $"{(letters.Count - moments.Count == 1 ? "one has" : $"{letters.Count - moments.Count} have")} none. Take them out.");
            good = false;
        }
        else if (letters.Count < moments.Count && !restUnknown)
        {
            problems.Error(at, $"There are fewer letters than strokes: from {Where(moments[letters.Count].At)} on "
                + $"{(moments.Count - letters.Count == 1 ? "one stroke has" : $"{moments.Count - letters.Count} strokes have")} none. "
                + $"Write them, - for one that is not known, or ... for the rest.");
            good = false;
        }
        if (!good) return;
        foreach (var (key, hand) in found) given[key] = hand;
    }

    /// <summary>What is wrong with a letter at a moment; nothing, with the hands found, where it fits.</summary>
    private string? Fit(Letter letter, Moment moment, Handedness? hands, Dictionary<(int, int), (Side, bool)> found)
    {
        if (moment.Foot != ' ')
            return letter.Text == moment.Foot || letter.Text == '-' ? null
                : $"only the {(moment.Foot == 'K' ? "kick" : "hat foot")} sounds: write {moment.Foot}.";
        if (moment.Struck.Count > 2) return "three hand strokes sound at once, and there are two hands: take one out, or leave the "
            + "sticking line out.";
        if (letter.Text == '-') return null;
        if (letter.Text is 'K' or 'H') return $"a hand plays: {letter.Text} stands only where nothing but the "
            + $"{(letter.Text == 'K' ? "kick" : "hat foot")} sounds. Write R, L or B.";
        if (moment.Struck is [var one])
        {
            if (letter.Text == 'B') return "one stroke sounds: write R or L.";
            var side = letter.Text == 'R' ? Side.Right : Side.Left;
            if (one.Side is { } marked && marked != side) return $"the stroke is marked {(marked == Side.Right ? 'R' : 'L')} and its "
                + $"letter says {letter.Text}: make them agree.";
            found[(one.At.Value, one.Voice.Order)] = (side, letter.Unsure && (one.Side is null || one.SideUnsure));
            return null;
        }
        if (letter.Text != 'B') return "two strokes sound: write B, both hands at once.";
        var (upper, lower) = HandOrder.Hands(hands);
        var sorted = HandOrder.Sorted(moment.Struck.Select(s => s.Voice));
        var (first, second) = (moment.Struck.First(s => s.Voice == sorted[0]), moment.Struck.First(s => s.Voice == sorted[1]));
        if (first.Side is { } a && second.Side is { } b
            && a == b) return "both strokes are marked for one hand: give one of them the other.";
        var firstSide = first.Side ?? (second.Side is { } other ? Other(other) : upper);
        found[(first.At.Value, first.Voice.Order)] = (firstSide, false);
        found[(second.At.Value, second.Voice.Order)] = (Other(firstSide), false);
        return null;
    }

    private static Side Other(Side side) => side == Side.Right ? Side.Left : Side.Right;

    private BarOfLetters Read((int From, int To) span)
    {
        var text = line.Text[span.From..span.To].TrimEnd();
        var at = line.Span(span.From + text.Length - text.TrimStart().Length, text.Trim().Length);
        if (Repeat().Match(text.Trim()) is { Success: true } repeat && inBars)
            return new([], false, repeat.Groups["times"].Success
                ? Math.Clamp(int.Parse(repeat.Groups["times"].Value, System.Globalization.CultureInfo.InvariantCulture), 1,
                CountLines.MostBars) : repeat.Value == "%*" ? 0 : 1, at);
        var letters = new List<Letter>();
        var rest = false;
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            var here = line.Span(span.From + i, 1);
            if (c == ' ') continue;
            if (rest)
            {
                problems.Error(here, "... stands last: what comes after it cannot be placed. Write - for each stroke that is not known.");
                break;
            }
            if (c == '…') rest = true;
            else if (c == '.' && string.CompareOrdinal(text, i, "...", 0, 3) == 0) (rest, i) = (true, i + 2);
            else if (c == '-' || (feet ? c is 'R' or 'L' or 'r' or 'l' : c is 'R' or 'L' or 'B' or 'K' or 'H' or 'r' or 'l'))
                letters.Add(new(char.ToUpperInvariant(c), char.IsLower(c), here));
            else
            {
                problems.Error(here, feet
                    ? $"‘{c}’ is no foot: write R, L, r, l for a probable one, - for one that is not known, ... for the rest."
                    : $"‘{c}’ is no hand: write R, L, B for both, r or l for a probable one, K for the kick, H for the hat foot, - for "
                        + $"one that is not known, ... for the rest.");
                // What comes after a fault is not known; one fault is told once.
                rest = true;
                break;
            }
            if (letters.Count > CountLines.MostStrokes) break;
        }
        return new(letters, rest, null, at);
    }

    private sealed record Letter(char Text, bool Unsure, TextSpan At);

    /// <param name="Repeats">How often the bar before is repeated; 0 up to the end; nothing for a bar of its own.</param>
    private sealed record BarOfLetters(ValueList<Letter> Letters, bool RestUnknown, int? Repeats, TextSpan At);

    /// <param name="Foot">K or H where only a foot sounds.</param>
    private sealed record Moment(Tick At, ValueList<Stroke> Struck, char Foot);

    [GeneratedRegex(@"^%(?:x(?<times>\d{1,3})|\*)?$")]
    private static partial Regex Repeat();
}
