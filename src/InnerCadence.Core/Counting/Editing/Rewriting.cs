using System.Text.RegularExpressions;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Editing;

/// <summary>Puts changed strokes back into the text they were read from: what did not change stays as typed.</summary>
public static partial class Rewriting
{
    /// <summary>The text that says the changed passage, or why it cannot be written without losing what was typed.</summary>
    /// <param name="Text">Nothing where it cannot be written.</param>
    /// <param name="Why">A sentence with the way out; nothing where it was written.</param>
    public readonly record struct Result(string? Text, string? Why);

    /// <summary>Only the lines of voices that changed are written anew, with their comments; the whole text where hands or licks share the
    /// strokes.</summary>
    /// <param name="dropSilent">Takes out the lines of voices that fell silent; else they stay, with silent bars.</param>
    public static Result Put(string text, Passage changed, bool dropSilent = false)
    {
        var read = CountLines.Parse(text);
        if (read.Problems.FirstOrDefault(p => p.Severity == Severity.Error) is { } error)
            return new(null, $"Line {error.At.Line} has a problem: put it right first, so that nothing typed is lost.");
        if (changed.Bars > CountLines.MostBars) return new(null, $"A passage has at most {CountLines.MostBars} bars.");
        var byLines = read.HasShared || !SameMeters(read.Passage, changed)
            || changed.Bars != read.Passage.Bars && read.LinesOf.Count == 0 ? null
            : ByLines(text, read, changed, dropSilent);
        if (byLines is not null && Says(byLines, changed)) return new(byLines, null);
        var whole = Whole(text, read, changed);
        return Says(whole, changed) ? new(whole, null) : new(null, "This change has no place in count lines: write it by hand.");
    }

    private static bool Says(string text, Passage passage)
    {
        var read = CountLines.Parse(text);
        return !read.HasErrors && read.Passage.Bars == passage.Bars && read.Passage.Strokes.SequenceEqual(passage.Strokes)
            && SameMeters(read.Passage, passage) && read.Passage.Unheard.SetEquals(passage.Unheard);
    }

    private static bool SameMeters(Passage one, Passage other) =>
        Enumerable.Range(0, Math.Max(1, other.Bars)).All(bar => one.Meters.MeterOf(bar) == other.Meters.MeterOf(bar));

    private static string? ByLines(string text, CountText read, Passage changed, bool dropSilent)
    {
        var lines = text.ReplaceLineEndings("\n").Split('\n').ToList();
        var gone = new HashSet<int>();
        foreach (var voice in read.Voices.Concat(changed.Voices).Distinct().Order())
        {
            if (changed.Bars == read.Passage.Bars && Of(changed, voice).SequenceEqual(Of(read.Passage, voice))) continue;
            if (CountWriter.LineOf(changed, voice, read.Said.School) is not { } written) return null;
            var own = read.LinesOf[voice].ToList();
            var bars = string.Join(" | ", written);
            if (own.Count == 0)
            {
                while (lines.Count > 0 && lines[^1].Length == 0) lines.RemoveAt(lines.Count - 1);
                lines.AddRange([$"{voice.Code}: {bars}", ""]);
                continue;
            }
            var first = Head().Match(lines[own[0] - 1]);
            if (dropSilent && !Of(changed, voice).Any() && own.All(line => !lines[line - 1].Contains('#')))
            {
                gone.UnionWith(own.Select(line => line - 1));
                continue;
            }
            if (own.Count == 1) bars = WithBarsAsTyped(first.Groups["bars"].Value, written, read.Passage, changed, voice);
            lines[own[0] - 1] = $"{first.Groups["head"].Value}{bars}{first.Groups["comment"].Value}";
            // A second line of the same voice has gone into the first; its comment stays.
            foreach (var other in own.Skip(1))
            {
                var comment = Head().Match(lines[other - 1]).Groups["comment"].Value.Trim();
                if (comment.Length > 0) lines[other - 1] = comment;
                else gone.Add(other - 1);
            }
        }
        return string.Join('\n', lines.Where((_, i) => !gone.Contains(i)));
    }

    /// <summary>Bars whose strokes stayed keep their words and every bar its width, so that lines stay aligned; a line with repeats is
    /// written anew.</summary>
    private static string WithBarsAsTyped(string typed, string[] written, Passage before, Passage after, Voice voice)
    {
        var inner = typed.Trim();
        if (inner.StartsWith('|')) inner = inner[1..];
        if (inner.EndsWith('|')) inner = inner[..^1];
        var old = inner.Split('|');
        if (old.Length != before.Bars || typed.Contains('%')) return string.Join(" | ", written);
        IEnumerable<Stroke> InBar(Passage passage, int bar) =>
            Of(passage, voice).Where(s => s.At >= passage.Meters.StartOf(bar) && s.At < passage.Meters.StartOf(bar + 1));
        return string.Join(" | ", written.Select((bar, i) =>
            (i < old.Length && InBar(before, i).SequenceEqual(InBar(after, i))
                && before.Unheard.Contains((i, voice)) == after.Unheard.Contains((i, voice)) ? old[i].Trim() : bar)
            .PadRight(i < old.Length ? Math.Max(0, old[i].Length - (i == 0 ? 1 : 2)) : 0))).TrimEnd();
    }

    /// <summary>The canonical text; comments of whole lines stand above it, those of a voice stay on its line.</summary>
    private static string Whole(string text, CountText read, Passage changed)
    {
        var written = CountWriter.Write(changed, read.Title).Split('\n').ToList();
        var above = new List<string>();
        var ofVoice = read.LinesOf.SelectMany(lines => lines.Select(line => (line, lines.Key)))
            .ToDictionary(pair => pair.line, pair => pair.Key);
        var typed = text.ReplaceLineEndings("\n").Split('\n');
        for (var i = 0; i < typed.Length; i++)
        {
            var at = typed[i].IndexOf('#');
            if (at < 0) continue;
            var own = ofVoice.TryGetValue(i + 1, out var voice)
                ? written.FindIndex(line => line.StartsWith(voice.Code + ":", StringComparison.Ordinal) && !line.Contains('#')) : -1;
            if (own >= 0) written[own] += "  " + typed[i][at..].TrimEnd();
            else above.Add(typed[i][at..].TrimEnd());
        }
        return string.Join('\n', above.Concat(written));
    }

    /// <summary>The canonical form of a text with its comments and its title; nothing is lost but faulty lines.</summary>
    public static string Canonical(string text)
    {
        var read = CountLines.Parse(text);
        return Whole(text, read, read.Passage);
    }

    private static IEnumerable<Stroke> Of(Passage passage, Voice voice) => passage.Strokes.Where(s => s.Voice == voice);

    [GeneratedRegex(@"^(?<head>[^:#]*:\s?)(?<bars>[^#]*?)(?<comment>\s*#.*)?$")]
    private static partial Regex Head();
}
