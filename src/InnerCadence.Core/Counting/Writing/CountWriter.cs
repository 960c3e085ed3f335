using System.Globalization;
using System.Text;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Writing;

/// <summary>Writes a passage as count lines in canonical form; reading what it writes gives the same strokes.</summary>
public static class CountWriter
{
    /// <summary>
    /// Directives, then a line a voice in canonical order, bars aligned, each the shortest way to write it. Limbs are marks or a sticking
    /// line, whichever is
    /// shorter; a probable limb needs the line. What no count names is written as licks.
    /// </summary>
    public static string Write(Passage passage, string? title = null)
    {
        var sticking = new StickingWriter(passage);
        var marked = Lines(passage, title, sticking, false);
        if (!sticking.CanStandForMarks) return marked;
        var lined = Lines(passage, title, sticking, true);
        return sticking.IsNeeded || lined.Length < marked.Length ? lined : marked;
    }

    /// <summary>Only the lines that say how loud it is.</summary>
    public static IEnumerable<string> LevelLines(Passage passage) => LevelWriter.Lines(passage);

    /// <summary>A count, a tuplet or a lick leads to a tick, so that a stroke there can be written.</summary>
    public static bool Leads(Passage passage, Tick at) => CanName(passage, at) || LickWriter.Way(passage, at) is not null;

    private static string Lines(Passage passage, string? title, StickingWriter sticking, bool withHands)
    {
        var text = new StringBuilder();
        foreach (var line in DirectiveLines(passage, title)) text.Append(line).Append('\n');
        var asLicks = passage.Strokes.Where(s => sticking.NeedsLick(s) || !CanName(passage, s.At)).ToHashSet();
        var counted = passage with
        {
            Strokes = [.. passage.Strokes.Where(s => !asLicks.Contains(s))
            .Select(s => sticking.WithoutWhatLinesSay(s, withHands))]
        };

        var voices = counted.Voices.Concat(passage.Unheard.Select(u => u.Voice)).Distinct().Order().ToList();
        if (voices.Count == 0 && passage.Bars > 0) voices.Add(Voice.Hat);
        var lines = voices.Select(voice => (Voice: voice, Bars: BarsOf(counted, voice))).ToList();
        var widths = Enumerable.Range(0, passage.Bars).Select(bar => lines.Max(line => line.Bars[bar].Length)).ToArray();
        foreach (var (voice, bars) in lines)
        {
            text.Append(voice.Code).Append(": ");
            text.AppendJoin(" | ", bars.Select((bar, i) => bar.PadRight(widths[i])));
            while (text[^1] == ' ') text.Length--;
            text.Append('\n');
        }
        foreach (var line in LevelWriter.Lines(passage)) text.Append(line).Append('\n');
        if (withHands && sticking.Hands is { } hands) text.Append("ST: ").Append(hands).Append('\n');
        if (sticking.Feet is { } feet) text.Append("SF: ").Append(feet).Append('\n');
        foreach (var stroke in passage.Strokes.Where(asLicks.Contains))
            text.AppendJoin('\n', AsLick(passage, stroke)).Append('\n');
        return text.ToString();
    }

    private static bool CanName(Passage passage, Tick at, CountSchool school = CountSchool.Standard)
    {
        var (bar, inBar) = passage.Meters.Locate(at);
        return new BarWriter(passage.Meters.MeterOf(bar), bar == 0 ? passage.Pickup : Tick.Zero, school).CanName(inBar);
    }

    private static IEnumerable<string> DirectiveLines(Passage passage, string? title)
    {
        if (title is not null) yield return $"title {title}";
        var meters = passage.Meters.ToString();
        if (meters != "4/4") yield return $"meter {meters}";
        if (passage.Tempo is { } tempo) yield return string.Join(' ',
            passage.TempoChanges.Select(c => $"@{Place(passage, c.At)} {Figure(c.Tempo)}").Prepend($"tempo {Figure(tempo)}"));
        if (passage.Feel != Feel.Straight) yield return $"feel {passage.Feel}";
        if (passage.Pickup > Tick.Zero && CountNames.Place(passage.Pickup,
            passage.Meters.MeterOf(0)) is { } pickup) yield return $"pickup {pickup}";
        if (passage.Hands is { } hands) yield return $"hands {hands.ToString().ToLowerInvariant()}";
        foreach (var own in passage.Voices.Where(v => v.Code[0] == 'P'))
            yield return $"voice {own.Code} {own.Name}, {own.Family.ToString().ToLowerInvariant()}{(own.IsFoot ? ", foot" : "")}";
    }

    private static string Figure(Bpm tempo) => tempo.Value.ToString("0.######", CultureInfo.InvariantCulture);

    /// <summary>A bar, or a bar and a count of it.</summary>
    private static string Place(Passage passage, Tick at)
    {
        var (bar, inBar) = passage.Meters.Locate(at);
        return inBar == Tick.Zero ? $"{bar + 1}" : $"{bar + 1}.{CountNames.Place(inBar, passage.Meters.MeterOf(bar))}";
    }

    /// <summary>The bars of one voice, not aligned with other lines; nothing where a stroke needs a lick or a line of hands.</summary>
    internal static string[]? LineOf(Passage passage, Voice voice, CountSchool school = CountSchool.Standard)
    {
        var own = passage.Strokes.Where(s => s.Voice == voice).ToList();
        return own.Any(s => s.SideUnsure || !CanName(passage, s.At, school)) ? null : BarsOf(passage, voice, school);
    }

    /// <summary>What one voice needs where nothing is said of its hands elsewhere: its bars, unless licks say all, then licks for what no
    /// count names and for probable hands; probable feet of the kick in a line of their own. Nothing where no lick leads to a
    /// stroke.</summary>
    internal static (string[]? Bars, IReadOnlyList<string> Below)? LinesOf(Passage passage, Voice voice, CountSchool school)
    {
        var own = passage.Strokes.Where(s => s.Voice == voice).ToList();
        var asLicks = own.Where(s => (s.SideUnsure && voice != Voice.Kick) || !CanName(passage, s.At, school)).ToList();
        if (asLicks.Exists(s => LickWriter.Way(passage, s.At, school) is null)) return null;
        var feet = new StickingWriter(passage with { Strokes = [.. own.Except(asLicks)] }).Feet;
        var counted = passage with
        {
            Strokes = [.. own.Except(asLicks).Select(s => feet is null ? s : s with { Side = null, SideUnsure = false })]
        };
        var inLicks = counted.Strokes.Count == 0 && counted.Unheard.All(u => u.Voice != voice)
            && asLicks is [.., var last] && passage.Meters.Locate(last.At).Bar == passage.Bars - 1;
        return (inLicks ? null : BarsOf(counted, voice, school),
            [.. feet is null ? [] : (string[])[$"SF: {feet}"], .. asLicks.SelectMany(s => AsLick(passage, s, school))]);
    }

    private static string[] AsLick(Passage passage, Stroke stroke, CountSchool school = CountSchool.Standard)
    {
        var (bar, inBar) = passage.Meters.Locate(stroke.At);
        var marks = MarksOf(stroke with { Side = null }, inBar, passage.Meters.MeterOf(bar), passage.Meters.MeterOf(bar + 1), school);
        return LickWriter.Write(passage, stroke, marks, school)
            .TrimEnd().Split('\n');
    }

    private static string[] BarsOf(Passage passage, Voice voice, CountSchool school = CountSchool.Standard)
    {
        var bars = new string[passage.Bars];
        List<(Tick InBar, string Marks, bool Ghost)>? before = null;
        var strokes = passage.Strokes.Where(s => s.Voice == voice).ToLookup(s => passage.Meters.Locate(s.At).Bar);
        for (var bar = 0; bar < bars.Length; bar++)
        {
            var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
            if (passage.Unheard.Contains((bar, voice)))
            {
                (bars[bar], before) = ("?", null);
                continue;
            }
            var placed = strokes[bar].Select(s => (s.At - start, MarksOf(s, s.At - start, meter, passage.Meters.MeterOf(bar + 1), school),
                s.Dynamic == Dynamic.Ghost)).ToList();
            var sameMeter = bar > 0 && meter.Equals(passage.Meters.MeterOf(bar - 1)) && !(bar == 1 && passage.Pickup > Tick.Zero);
            bars[bar] = placed.Count == 0 ? "-"
                : sameMeter && before is not null && before.SequenceEqual(placed) ? "%"
                : new BarWriter(meter, bar == 0 ? passage.Pickup : Tick.Zero, school).Shortest(placed);
            before = placed;
        }
        return bars;
    }

    /// <summary>Everything after the place but the ghost, which stands in brackets.</summary>
    private static string MarksOf(Stroke stroke, Tick inBar, Meter meter, Meter next, CountSchool school)
    {
        var marks = new StringBuilder();
        if (stroke.Dynamic == Dynamic.Accent) marks.Append('>');
        if (stroke.Openness == Openness.Open) marks.Append('o');
        if (stroke.Openness == Openness.Loose) marks.Append('~');
        foreach (var (ornament, letter) in ((Ornaments, char)[])[(Ornaments.Flam, 'f'), (Ornaments.Drag, 'd'), (Ornaments.Buzz, 'z'),
            (Ornaments.Rimshot, 'r'), (Ornaments.Choke, 'c')])
        {
            if (!stroke.Ornaments.HasFlag(ornament)) continue;
            marks.Append(letter);
            if (stroke.Grace is { } grace && (ornament == Ornaments.Flam
                || (ornament == Ornaments.Drag && !stroke.Ornaments.HasFlag(Ornaments.Flam)))) marks.Append(grace.Code);
        }
        if (stroke.Ornaments != Ornaments.None && stroke.OrnamentUnsure) marks.Append("??");
        if (stroke.Echo) marks.Append('=');
        if (stroke.Side is { } side && !stroke.SideUnsure) marks.Append(side == Side.Right ? 'R' : 'L');
        if (stroke.Unsure) marks.Append('?');
        if (stroke.Optional) marks.Append('*');
        foreach (var note in stroke.Notes) marks.Append('{').Append(note).Append('}');
        if (stroke.Length is { } length)
        {
            var end = inBar + length;
            var place = end < meter.Length ? CountNames.Place(end, meter, school) : CountNames.Place(end - meter.Length, next, school);
            if (place is not null) marks.Append('_').Append(place);
        }
        return marks.ToString();
    }
}
