using System.Globalization;
using System.IO.Compression;
using System.Text;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Telling;

/// <summary>The report as files: Markdown, with a picture of each idea beside it.</summary>
public static class ReportFile
{
    public static byte[] Write(Vocabulary v, ReportChoice choice)
    {
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            Put(zip, "report.md", Markdown(v, choice));
            foreach (var (entry, i) in v.Entries.Select((e, i) => (e, i + 1))) Put(zip, $"pictures/idea-{i}.svg",
                StandaloneSvg.Of(Strands.Draw(entry.Exemplar, new() { Width = 640, Gap = 26 })));
        }
        return file.ToArray();
    }

    private static void Put(ZipArchive zip, string name, string text)
    {
        using var writer = new StreamWriter(zip.CreateEntry(name, CompressionLevel.Optimal).Open(), new UTF8Encoding(false));
        writer.Write(text);
    }

    private static string Markdown(Vocabulary v, ReportChoice choice)
    {
        var text = new StringBuilder();
        void Line(string words = "") => text.Append(words).Append('\n');
        Line($"# The vocabulary of {Plain(v.Study.Subject.Name)}");
        Line();
        Line($"{Plain(v.Study.Name)}, {v.On.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)}.");
        Line();
        Line("## What was searched");
        Line();
        Line($"{v.Searched.Searched} of {v.Searched.Recordings} recordings, {v.Searched.Bars} of {v.Searched.TotalBars} bars.");
        Line();
        foreach (var limit in v.Limits) Line($"- {Plain(limit)}");
        if (choice.Has("feel") && v.Feel.Count > 0)
        {
            Line();
            Line("## Early and late");
            Line();
            foreach (var lateness in v.Feel) Line($"- {Plain(lateness.ToString())}");
        }
        foreach (var (e, i) in v.Entries.Select((e, i) => (e, i + 1)))
        {
            Line();
            Line($"## {Plain(e.Idea.Nickname)}");
            Line();
            if (e.Idea.Note.Length > 0) Line(Plain(e.Idea.Note) + "\n");
            Line($"![{Plain(e.Idea.Nickname)}, as strands](pictures/idea-{i}.svg)");
            Line();
            if (choice.Has("counts")) Line($"```\n{e.Idea.Text.Trim()}\n```\n");
            if (choice.Has("sticking")) Line(ReportWords.Sticking(e.Exemplar) + "\n");
            if (choice.Has("numbers")) Line(Plain(e.Sentence) + "\n");
            if (choice.Has("numbers")) foreach (var (name, number) in ReportWords.Numbers(e)) Line($"- {name}: {number}");
            if (choice.Has("numbers")) foreach (var looked in e.Looked) Line($"- {Plain(looked)}");
            if (choice.Has("variants") && e.Lineage.Count > 0) Line($"- lineage: {Plain(string.Join("; ", e.Lineage))}");
            if (choice.Has("where"))
                foreach (var split in e.Where.Where(s => s.Parts.Count > 0)) Line(
                    $"- by {split.By.Name}: "
                    + $"{Plain(string.Join("; ", split.Parts.Select(p => $"{p.Name} {p.Events} in {Words.Bars(p.Bars)}")))}");
            if (choice.Has("claims")) foreach (var claim in e.Claims) Line(
                $"- {claim.Stand.Standing.ToString().ToLowerInvariant()}: {Plain(claim.Claim.Sentence)} ({Plain(claim.Stand.Figures)})");
            if (!choice.Has("sources") || e.Places.Count == 0) continue;
            Line();
            Line("| recorded | recording | clock | where |");
            Line("|---|---|---|---|");
            foreach (var s in e.Places) Line(
                $"| {ReportWords.Dated(s)} | {Plain(s.RecordingName)} | {s.View?.ClockWords ?? s.Heard?.At?.ToString()} | "
                + $"{s.View?.Where ?? s.HeardWords} |");
        }
        return text.ToString();
    }

    /// <summary>As text, whatever signs of Markdown are in it.</summary>
    private static string Plain(string words)
    {
        var text = new StringBuilder(words.Length);
        foreach (var c in words.ReplaceLineEndings(" "))
        {
            if ("\\`*_{}[]<>#|".Contains(c)) text.Append('\\');
            text.Append(c);
        }
        return text.ToString();
    }
}

/// <summary>What a report says in words, the same on paper and in the file.</summary>
public static class ReportWords
{
    public static IEnumerable<(string Name, string Number)> Numbers(VocabularyEntry e)
    {
        var answer = e.Answer;
        yield return ("in recordings", answer.Presence is { } share
            ? $"{answer.Found} of {answer.Searched} searched ({Words.Percent(share.Interval)}{Words.Basis(share)})" : "not searched");
        yield return ("in 100 bars", answer.Rate is { } rate
            ? $"{Words.Rate(rate.Value)} ({Words.Range(rate.Interval)}{Words.Basis(rate)}), {answer.Events} in {Words.Bars(answer.Bars)}"
            : "not searched");
        if (e.Others.Bars > 0) yield return ("the others", e.Others.Events == 0 ? $"none in {Words.Bars(e.Others.Bars)}"
            : $"{Words.Rate(e.Others.Rate!.Value)} in 100 bars, {e.Others.Events} in {Words.Bars(e.Others.Bars)}");
        if (answer.OccasionRate is { } occasions) yield return ("separate times",
            $"{answer.Occasions}, {Words.Rate(occasions.Value)} in 100 bars ({Words.Range(occasions.Interval)})");
        yield return ("first", e.First.First is { } first
            ? $"{first.Recorded}, {first.Name}{(e.First.Remark.Length > 0 ? $" ({e.First.Remark})" : "")}" : "no dated sighting");
        yield return ("near misses", $"{answer.NearMisses}, counted apart");
        if (answer.Outside > 0) yield return ("outside", $"{answer.Outside} confirmed outside what was searched, in no rate");
        if (VerdictWords.Varied(e.Places.Select(p => p.Found).OfType<PlaceOfIdea>().Select(p => p.Verdict)) is > 0
            and var variants) yield return ("variants", $"{variants} of {e.Places.Count} confirmed");
        if (answer.IsFew) yield return ("warning", "little is searched: take it as a first hint");
    }

    /// <summary>One stroke of each drum that the exemplars have, as a text for five lines, and their names in its order; nothing where
    /// there is none.</summary>
    public static (string Text, IReadOnlyList<string> Names)? KeyOfDrums(Vocabulary vocabulary)
    {
        var voices = vocabulary.Entries.SelectMany(e => e.Exemplar.Voices).Where(v => v.Limbs != LimbClass.None).DistinctBy(v => v.Code)
            .Order()
            .ToList();
        return voices.Count == 0 ? null : ($"meter {voices.Count}/4\n" + string.Concat(voices.Where(v => v.Code[0] == 'P')
                .Select(v => $"voice {v.Code} {v.Name}, {v.Family.ToString().ToLowerInvariant()}{(v.IsFoot ? ", foot" : "")}\n"))
            + string.Join('\n', voices.Select((v, i) => $"{v.Code}: {i + 1}")), [.. voices.Select(v => v.Name)]);
    }

    public static string Dated(ListedPlace p) => p.RecordedFrom is { } from ? (p.View?.Row.RecordedTo ?? p.Heard?.RecordedTo) is { } to
        ? new PartialDate(from, to).ToString() : from.ToString("yyyy", CultureInfo.InvariantCulture) : "no date";

    /// <summary>Sticking: R L R L; or that it is not known.</summary>
    public static string Sticking(Passage exemplar)
    {
        var hands = exemplar.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand).ToList();
        return hands.Count == 0 ? "No hand plays." : hands.All(s => s.Side is null) ? "Sticking: not known."
            : $"Sticking: {string.Join(' ', hands.Select(s => s.Side switch { Side.Right => "R", Side.Left => "L", _ => "?" }))}.";
    }
}
