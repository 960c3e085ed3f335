using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Writing;

/// <summary>Says a passage in words, a sentence a voice, bars that are equal said once.</summary>
public static class ReadBack
{
    /// <summary>In the counts of its text: what is said can be written below the same directives.</summary>
    public static IReadOnlyList<string> Of(CountText read) => Of(read.Passage, read.Said.School);

    public static IReadOnlyList<string> Of(Passage passage, CountSchool school = CountSchool.Standard)
    {
        var order = passage.Voices.Concat(passage.Unheard.Select(u => u.Voice)).Distinct().OrderBy(Prominence).ThenBy(v => v.Order);
        var said = order.Select(voice => (Voice: voice, Bars: BarsOf(passage, voice, school))).ToList();
        // How many bars there are is known where a sentence names the last.
        var isNamed = passage.Bars < 2 || said.Exists(v => v.Bars.Count > 1
            && v.Bars.Exists(b => b.Phrase != Silent && b.Bars[^1] == passage.Bars));
        return [.. said.Select((v, i) => Sentence(v.Voice, v.Bars, i == 0 && !isNamed ? passage.Bars : null)),
            .. LevelWriter.Sentences(passage, school)];
    }

    /// <summary>What keeps time is said first, then the snare, then the feet, then the rest.</summary>
    private static int Prominence(Voice voice) => voice.Family switch
    {
        Family.Hat when !voice.IsFoot => 0,
        Family.Ride => 1,
        Family.Snare => 2,
        Family.Kick => 3,
        Family.Hat => 4,
        Family.Ensemble => 7,
        Family.Tom => 5,
        _ => 6,
    };

    /// <summary>What is said of which bars, from 1; bars that are equal once.</summary>
    private static List<(string Phrase, List<int> Bars)> BarsOf(Passage passage, Voice voice, CountSchool school)
    {
        var bars = new List<(string Phrase, List<int> Bars)>();
        for (var bar = 0; bar < passage.Bars; bar++)
        {
            var phrase = passage.Unheard.Contains((bar, voice)) ? "not heard" : Phrase(passage, voice, bar, school);
            var known = bars.FirstOrDefault(b => b.Phrase == phrase);
            if (known.Bars is null) bars.Add((phrase, [bar + 1]));
            else known.Bars.Add(bar + 1);
        }
        return bars;
    }

    /// <param name="last">A bar that is to be named because no other sentence does.</param>
    private static string Sentence(Voice voice, List<(string Phrase, List<int> Bars)> bars, int? last)
    {
        var spoken = bars is [var only] && last is null ? [only.Phrase]
            : bars.Where(b => b.Phrase != Silent).Select(b => $"{b.Phrase} in {Bars(b.Bars)}")
                .Concat(bars.Where(b => b.Phrase == Silent && b.Bars[^1] == last).Select(_ => $"{Silent} in bar {last}"));
        var name = voice.Name.Capital();
        return $"{name} {string.Join("; ", spoken)}.";
    }

    private const string Silent = "silent";

    private static string Phrase(Passage passage, Voice voice, int bar, CountSchool school)
    {
        var (start, meter) = (passage.Meters.StartOf(bar), passage.Meters.MeterOf(bar));
        var strokes = passage.Strokes.Where(s => s.Voice == voice && s.At >= start && s.At < start + meter.Length)
            .Select(s => (Stroke: s, Place: CountNames.Spoken(s.At - start, meter, school), InBar: s.At - start)).ToList();
        if (strokes.Count == 0) return Silent;

        var parts = new List<string>();
        var even = Even([.. strokes.Select(s => s.InBar.Value)], meter);
        var plain = strokes.Where(s => even is not null
            || (s.Stroke.Dynamic != Dynamic.Ghost && s.Stroke is { Unsure: false, Echo: false })).ToList();
        if (even is not null) parts.Add($"on every {even}");
        else if (plain.Count > 0) parts.Add("on " + Places(Runs([.. plain.Select(s => (s.InBar, s.Place))])));

        if (even is null && plain.Count > 0 && plain.All(s => s.Stroke.Dynamic == Dynamic.Accent)) parts.Add("accented");
        else Tell(s => s.Dynamic == Dynamic.Accent, "accented on", "accented on");
        Tell(s => s.Dynamic == Dynamic.Ghost, "a ghost on", "ghosts on");
        Tell(s => s.Openness == Openness.Open, voice.IsFoot ? "splashed on" : "open on", voice.IsFoot ? "splashed on" : "open on");
        Tell(s => s.Openness == Openness.Loose, "loose on", "loose on");
        Tell(s => s.Ornaments.HasFlag(Ornaments.Flam) && s.Grace is null, "a flam on", "flams on");
        Tell(s => s.Ornaments.HasFlag(Ornaments.Drag) && s.Grace is null, "a drag on", "drags on");
        foreach (var grace in strokes.Select(s => s.Stroke.Grace).OfType<Voice>().Distinct().Order())
        {
            Tell(s => s.Ornaments.HasFlag(Ornaments.Flam) && s.Grace == grace, $"a flam from the {grace.Name} on",
                $"flams from the {grace.Name} on");
            Tell(s => s.Ornaments.HasFlag(Ornaments.Drag) && s.Grace == grace, $"a drag from the {grace.Name} on",
                $"drags from the {grace.Name} on");
        }
        Tell(s => s.Ornaments.HasFlag(Ornaments.Buzz), "a buzz on", "buzzes on");
        Tell(s => s.Ornaments.HasFlag(Ornaments.Rimshot), "a rimshot on", "rimshots on");
        Tell(s => s.Ornaments.HasFlag(Ornaments.Choke), "choked on", "choked on");
        Tell(s => s.OrnamentUnsure, "an unsure ornament on", "unsure ornaments on");
        foreach (var limb in strokes.Where(s => s.Stroke.Side is not null).Select(s => (s.Stroke.Side, s.Stroke.SideUnsure)).Distinct()
            .Order())
        {
            var with = $"{(limb.SideUnsure ? "probably " : "")}with the {limb.Side.ToString()!.ToLowerInvariant()} {(voice.IsFoot ? "foot" : "hand")} on";
            Tell(s => s.Side == limb.Side && s.SideUnsure == limb.SideUnsure, with, with);
        }
        foreach (var note in strokes.SelectMany(s => s.Stroke.Notes).Distinct())
            Tell(s => s.Notes.Contains(note), $"{{{note}}} on", $"{{{note}}} on");
        foreach (var length in strokes.Select(s => s.Stroke.Length).OfType<Tick>().Distinct().Order())
            Tell(s => s.Length == length, $"lasting {CountNames.Length(length)} on", $"lasting {CountNames.Length(length)} on");
        Tell(s => s.Unsure, even is null ? "perhaps on" : "unsure on", even is null ? "perhaps on" : "unsure on");
        Tell(s => s.Optional, "optional on", "optional on");
        Tell(s => s.Echo, "an echo on", "echoes on");
        return string.Join(", ", parts);

        void Tell(Func<Stroke, bool> which, string one, string many)
        {
            var places = strokes.Where(s => which(s.Stroke)).Select(s => s.Place).ToList();
            if (places.Count == strokes.Count && even is not null && places.Count > 1) parts.Add(one[..one.LastIndexOf(' ')]
                + " throughout");
            else if (places.Count > 0) parts.Add($"{(places.Count == 1 ? one : many)} {Places(places)}");
        }
    }

    /// <summary>Five and more strokes in a row with one gap are said as a run: every eighth from 1 to the &amp; of 3.</summary>
    private static IEnumerable<string> Runs(IReadOnlyList<(Tick InBar, string Place)> strokes)
    {
        for (var i = 0; i < strokes.Count;)
        {
            var end = i + 1;
            while (end + 1 < strokes.Count && strokes[end + 1].InBar - strokes[end].InBar == strokes[end].InBar - strokes[
                end - 1].InBar) end++;
            if (end - i >= 4 && end < strokes.Count && Note(strokes[i + 1].InBar - strokes[i].InBar) is { } note)
            {
                yield return $"every {note} from {strokes[i].Place} up to {strokes[end].Place}";
                i = end + 1;
            }
            else yield return strokes[i++].Place;
        }
    }

    /// <summary>The note that the strokes fill the whole bar with, if they do.</summary>
    private static string? Even(int[] ticks, Meter meter)
    {
        if (ticks.Length < 3 || ticks[0] != 0) return null;
        var gap = ticks[1];
        for (var i = 1; i < ticks.Length; i++)
            if (ticks[i] - ticks[i - 1] != gap) return null;
        if (ticks[^1] + gap < meter.Length.Value) return null;
        return Note(new(gap));
    }

    private static string? Note(Tick gap)
    {
        return gap.Value switch
        {
            Tick.PerQuarter => "quarter",
            Tick.PerQuarter / 2 => "eighth",
            Tick.PerQuarter / 4 => "sixteenth",
            Tick.PerQuarter / 8 => "32nd",
            Tick.PerQuarter / 3 => "triplet eighth",
            Tick.PerQuarter / 6 => "triplet sixteenth",
            _ => null,
        };
    }

    private static string Bars(IReadOnlyList<int> bars)
    {
        if (bars.Count == 1) return $"bar {bars[0]}";
        var runs = new List<string>();
        for (var i = 0; i < bars.Count;)
        {
            var end = i;
            while (end + 1 < bars.Count && bars[end + 1] == bars[end] + 1) end++;
            if (end - i >= 2) runs.Add($"{bars[i]} to {bars[end]}");
            else runs.AddRange(bars.Skip(i).Take(end - i + 1).Select(b => $"{b}"));
            i = end + 1;
        }
        return "bars " + List(runs);
    }

    /// <summary>A beat after a part of one says on again: the &amp; of 2 and 4 may be of both.</summary>
    private static string Places(IEnumerable<string> places)
    {
        var all = places.ToList();
        for (var i = all.Count - 1; i > 0; i--)
            if (char.IsAsciiDigit(all[i][0]) && all[i - 1].Contains(" of ", StringComparison.Ordinal)) all[i] = "on " + all[i];
        return List(all);
    }

    private static string List(IEnumerable<string> items)
    {
        var all = items.ToList();
        return all.Count switch
        {
            1 => all[0],
            2 => $"{all[0]} and {all[1]}",
            _ => string.Join(", ", all.Take(all.Count - 1)) + " and "
            + all[^1]
        };
    }
}
