using System.Text.Encodings.Web;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Telling;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Ideas;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Telling;

/// <summary>An article with its references filled in.</summary>
/// <param name="Numbers">What each live number says now, by its code.</param>
/// <param name="Changed">Live numbers that say something else than when the text was saved.</param>
/// <param name="Unknown">References to what there is not.</param>
public sealed record ReadArticle(string Html, IReadOnlyDictionary<string, string> Numbers,
    IReadOnlyList<(string Code, string Was, string Is)> Changed, IReadOnlyList<string> Unknown);

/// <summary>Fills an article in: numbers and claims as they are now, examples with their notation, notes to recordings and other
/// sources.</summary>
public sealed class ArticleReader(IdeaStore ideas, PassageStore passages, RecordingStore recordings, StudyMaterial material,
    ClaimStore claims, AttributionStore attributions, ArticleStore articles, Records records, FeelStore feels)
{
    /// <param name="sounds">Passages can be heard where they are shown: on screen, not in what is frozen or printed.</param>
    public async Task<ReadArticle> ReadAsync(Study study, string text, IReadOnlyDictionary<string, string> saved, bool sounds,
        CancellationToken stop)
    {
        var found = await FoundAsync(study, ArticleMarkup.ReferencesOf(text), sounds, stop);
        var (notes, examples) = (new List<string>(), new Dictionary<Reference, int>());
        var (numbers, unknown) = (new Dictionary<string, string>(), new List<string>());
        var html = ArticleMarkup.Render(text, reference =>
        {
            if (!found.TryGetValue(reference, out var filled))
            {
                unknown.Add(reference.Code);
                return ($"<span class=\"bad\">[{Text(reference.Code)}: there is no such thing]</span>", false);
            }
            if (reference.IsLive)
            {
                numbers[reference.Code] = filled.Words;
                var was = saved.TryGetValue(reference.Code, out var before) && before != filled.Words
                    ? $" <span class=\"near\">(was {Text(before)})</span>" : "";
                return ($"<a class=\"live\" href=\"{filled.Link}\">{Text(filled.Words)}</a>{was}", false);
            }
            if (reference.Kind == "example")
            {
                if (examples.TryGetValue(reference, out var again)) return ($"<a href=\"#example-{again}\">example {again}</a>", false);
                examples[reference] = examples.Count + 1;
                return ($"<figure id=\"example-{examples.Count}\"><figcaption><b>Example {examples.Count}.</b> <a "
                    + $"href=\"{filled.Link}\">{Text(filled.Words)}</a>{filled.Hear}</figcaption>{filled.Picture}</figure>", true);
            }
            var note = notes.IndexOf(filled.Words);
            if (note < 0)
            {
                notes.Add(filled.Words);
                note = notes.Count - 1;
            }
            return ($"<a class=\"note\" href=\"#note-{note + 1}\">[{note + 1}]</a>", false);
        });
        if (notes.Count > 0) html += $"<h2>Sources</h2><ol "
            + $"class=\"notes\">{string.Concat(notes.Select((n, i) => $"<li id=\"note-{i + 1}\">{Text(n)}</li>"))}</ol>";
        return new(html, numbers, [.. numbers.Where(n => saved.TryGetValue(n.Key, out var was) && was != n.Value)
            .Select(n => (n.Key, saved[n.Key], n.Value))], [.. unknown.Distinct()]);
    }

    private static string Text(string words) => HtmlEncoder.Default.Encode(words);

    private sealed record Filled(string Words, string Link, string Picture = "", string Hear = "");

    private async Task<IReadOnlyDictionary<Reference,
        Filled>> FoundAsync(Study study, IReadOnlyList<Reference> references, bool sounds, CancellationToken stop)
    {
        var found = new Dictionary<Reference, Filled>();
        if (references.Count == 0) return found;
        var named = await ideas.OfStudyAsync(study.Id, stop);
        IdeaRow? Idea(string nickname) => named.FirstOrDefault(i =>
            string.Equals(i.Nickname, nickname, StringComparison.OrdinalIgnoreCase));
        if (references.Any(r => r.IsLive))
        {
            var weighed = await material.WithCautiousAsync(study, stop);
            var evidence = weighed.Plain;
            var standing = references.Any(r => r.Kind == "claim") ? await claims.StandAsync(study, stop) : [];
            foreach (var reference in references.Where(r => r.IsLive))
            {
                if (reference.Kind == "claim")
                {
                    if (standing.FirstOrDefault(c => $"{c.Claim.Id}" == reference.Argument) is { } claim)
                        found[reference] = new($"{claim.Stand.Standing.ToString().ToLowerInvariant()} ({claim.Stand.Figures})",
                            $"/claims/{claim.Claim.Id}");
                }
                else if (reference.Kind == "feel")
                {
                    if (await LatenessAsync(study, reference.Argument, stop) is { } late)
                        found[reference] = new(late.ToString(),
                            $"/studies/{study.Id}/feel?voice={late.Voice.Code}&against={late.Against.Code}");
                }
                else if (Idea(reference.Argument) is { } idea)
                {
                    var link = PlaceQuery.Link(idea.Id, reference.Kind == "first" ? "confirmed" : "counted",
                        PlaceQuery.OfPlayer(study.Subject.Id), reference.Kind == "presence" ? "in=searched" : "");
                    found[reference] = new(reference.Kind == "sentence"
                        ? IdeaSentence.Of(evidence.Ideas[idea.Id.Value], study.Subject.Id.Value).TrimEnd('.')
                        : Number(reference.Kind, evidence.Of(idea.Id.Value, study.Subject.Id.Value)), link);
                }
            }
        }
        foreach (var reference in references.Where(r => r.Kind == "example"))
        {
            if (reference.Argument.Split(' ') is ["passage", var number] && PassageId.TryParse(number, out var id)
                && await passages.FindAsync(id, stop) is { } passage && passage.StudyId == study.Id)
                found[reference] =
                    new($"{passage.RecordingName}{(passage.Bar is { } bar ? $", bar {bar}" : "")}"
                        + $"{(passage.StartsAt is { } at ? $", {at}" : "")}", $"/passages/{id}",
                        Picture(passage.Text), sounds ? Hear(passage, await records.BesideAsync(passage, stop)) : "");
            else if (Idea(reference.Argument) is { } idea) found[reference] = new(idea.Nickname, $"/ideas/{idea.Id}", Picture(idea.Text));
        }
        foreach (var reference in references.Where(r => r.Kind == "source"))
            if (SourcePlace.Parse(reference.Argument) is { } place
                && await SourceAsync(study, place, stop) is { } words) found[reference] = new(words, $"/recordings/{place.Recording}");
        if (references.Any(r => r.Kind == "cite"))
        {
            var others = await articles.SourcesAsync(study.Id, stop);
            foreach (var reference in references.Where(r => r.Kind == "cite"))
                if (others.FirstOrDefault(o => o.Key == reference.Argument) is { } other) found[reference] = new(other.Text, "");
        }
        return found;
    }

    /// <param name="of">snare, or snare against ride.</param>
    private async Task<Lateness?> LatenessAsync(Study study, string of, CancellationToken stop)
    {
        var named = of.Split(" against ", 2).Select(Voice.Find).ToArray();
        return Lateness.Of((await feels.OfStudyAsync(study.Id, stop)).Where(g => g.Player == study.Subject.Id.Value))
            .FirstOrDefault(l => l.Voice == named[0] && (named.Length == 1 || l.Against == named[1]));
    }

    /// <summary>A recording as a reader finds it: on an issue, at the time that issue's clock shows.</summary>
    private async Task<string?> SourceAsync(Study study, SourcePlace place, CancellationToken stop)
    {
        if (await recordings.FindAsync(new(place.Recording), stop) is not { } recording || recording.StudyId != study.Id) return null;
        var issues = await attributions.IssuesAsync(recording.Id, stop);
        var issue = place.Issue is { } wanted ? issues.FirstOrDefault(i => i.Id.Value == wanted) : issues.Count > 0 ? issues[0] : null;
        if (place.Issue is not null && issue is null) return null;
        var clock = place.At is not { } at ? null : issue is null ? at : issue.Clock.OnIssue(at);
        return string.Join(", ", new[]
        {
            recording.Name, recording.Ensemble.Length > 0 ? $"{recording.Player} with {recording.Ensemble}" : recording.Player,
                recording.Recorded?.ToString() ?? "no date", recording.Kind.Word,
            issue is null ? recording.Release : $"{issue.Name}{(issue.Issued is { } issued ? $" ({issued})" : "")}",
                clock is { } c ? $"at {c}" : place.At is null ? "" : "cut off on this issue",
        }.Where(part => part.Length > 0)) + ".";
    }

    private static string Number(string kind, IReadOnlyList<Performance> own)
    {
        var answer = Answer.Of(own);
        var few = answer.IsFew ? ", a first hint" : "";
        switch (kind)
        {
            case "rate":
                return answer.Rate is { } rate ? $"{Words.Rate(rate.Value)} in 100 bars ({Words.Range(rate.Interval)}{few})"
                    : "not searched";
            case "presence":
                return answer.Presence is { } share
                    ? $"{answer.Found} of {answer.Searched} recordings ({Words.Percent(share.Interval)}, in "
                    + $"{Words.Bars(answer.Bars)}{few})" : "not searched";
            case "count":
                return $"{answer.Events}{(answer.Outside > 0 ? $" and {answer.Outside} outside what was searched" : "")}";
            default:
                var first = FirstOnRecord.Of(own);
                return first.First is { } on ? $"{on.Recorded} ({on.Name}{(first.Remark.Length > 0 ? $"; {first.Remark}" : "")})"
                    : "no dated sighting";
        }
    }

    private static string Hear(PassageRow passage, RecordView? record) => record is null ? "" : FormattableString.Invariant(
        $" <button type=\"button\" class=\"plain hear\" data-address=\"{record.Address}\" data-from=\"{record.Lines[0].Value:0.###}\"")
        + FormattableString.Invariant($" data-to=\"{record.Lines[^1].Value:0.###}\" data-judged=\"Confirmed\"")
        + $" data-says=\"{Text(passage.RecordingName)}\" hidden>hear</button>";

    private static string Picture(string text)
    {
        using var writer = new StringWriter();
        Strands.Draw(CountLines.Parse(text).Passage, new() { Width = 640, Gap = 24 }).AsMarkup().WriteTo(writer, HtmlEncoder.Default);
        return $"<div class=\"sheet-staff\" data-text=\"{Text(text)}\" data-as=\"sheet\"></div>{writer}<pre class=\"counts\">{Text(text.Trim())}</pre>";
    }
}
