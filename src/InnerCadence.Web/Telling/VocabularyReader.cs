using InnerCadence.Core.Claims;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Telling;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Telling;

/// <summary>What a report is about and how it is set.</summary>
/// <param name="Ideas">Empty for all.</param>
/// <param name="Leave">Parts that are left out; see <see cref="Parts"/>.</param>
public sealed record ReportChoice(IReadOnlySet<IdeaId> Ideas, IReadOnlySet<string> Leave, string Paper, string Notation)
{
    public static readonly IReadOnlyList<(string Word, string Says)> Parts =
        [("numbers", "numbers with intervals"), ("counts", "count lines"), ("sticking", "sticking in words"),
            ("variants", "variants and lineage"), ("where", "where and where not"), ("claims", "claims"), ("feel", "how early and late"),
            ("sources", "sources with clock times"), ("searched", "the recordings searched")];

    public static readonly IReadOnlyList<(string Word, string Says)> Notations =
        [("both", "staff, strands under it"), ("strands", "strands"), ("staff", "staff")];

    public bool OnFiveLines => Notation != "strands";

    public bool Has(string part) => !Leave.Contains(part);
}

/// <summary>One idea of the vocabulary, with everything that its page says.</summary>
public sealed record VocabularyEntry(
    IdeaRow Idea, Passage Exemplar, Answer Answer, Answer Others, string Sentence, FirstOnRecord First,
        IReadOnlyList<(Division By, IReadOnlyList<SplitPart> Parts)> Where, IReadOnlyList<ListedPlace> Places,
    IReadOnlyList<StandingClaim> Claims, IReadOnlyList<string> Lineage, IReadOnlyList<string> Looked);

/// <summary>What was searched of one player.</summary>
/// <param name="All">All recordings, searched or not.</param>
/// <param name="Not">Names of those of which nothing is searched.</param>
public sealed record SearchedOf(string Name, int All, IReadOnlyList<SearchedRecording> Searched, IReadOnlyList<string> Not);

/// <param name="Of">All bars that it has; nothing where nobody said.</param>
public sealed record SearchedRecording(RecordingId Id, string Name, string Recorded, int Bars, int? Of);

/// <summary>A player's vocabulary: coverage and limits first, then each idea.</summary>
/// <param name="Feel">How early and late the player is, over every recording that was measured.</param>
public sealed record Vocabulary(Study Study, DateOnly On, SearchedAtAll Searched, IReadOnlyList<string> Limits,
    IReadOnlyList<VocabularyEntry> Entries, IReadOnlyList<Lateness> Feel, IReadOnlyList<SearchedOf> Appendix)
{
    /// <summary>Named, and no bar is searched for them: they stand apart, since no number says anything of them.</summary>
    public IEnumerable<VocabularyEntry> NotSearched => Entries.Where(e => e.Answer.Bars == 0);
}

/// <summary>Brings together what a report says (evidence.md, "Report").</summary>
public sealed class VocabularyReader(IdeaStore ideas, RecordingStore recordings, StudyMaterial material, SightingStore sightings,
    PlacesOfIdeas places, HeardStore heard, ClaimStore claims, LineageStore lineages, FeelStore feels, LookedIdeas lookedIdeas)
{
    public async Task<Vocabulary> ReadAsync(Study study, ReportChoice choice, CancellationToken stop)
    {
        var weighed = await material.WithCautiousAsync(study, stop);
        var evidence = weighed.Plain;
        var everything = await recordings.OfStudyAsync(study.Id, stop);
        var (subject, own) = (study.Subject.Id.Value, everything.Where(r => r.BySubject).ToList());
        var others = study.Comparison.Select(p => p.Id.Value).ToList();
        var standing = await claims.StandAsync(study, stop);
        var all = await ideas.OfStudyAsync(study.Id, stop);
        var searched = SearchedAtAll.Of(weighed.Account.Recordings.Where(r => r.Player == subject));
        var links = await lineages.OfStudyAsync(study.Id, stop);
        var byHand = (await heard.OfStudyAsync(study.Id, stop)).ToDictionary(h => h.Id);
        var entries = new List<VocabularyEntry>();
        foreach (var idea in all.Where(i => choice.Ideas.Count == 0 || choice.Ideas.Contains(i.Id)))
        {
            var performances = evidence.Of(idea.Id.Value, subject);
            var borrowed = (await lineages.SourcesAsync(idea.Id, stop))
                .Select(s => $"borrowed from {s.Who}{(s.Dated is { } d ? $", {d}" : "")}");
            var shown = await sightings.TheseAsync([.. performances.SelectMany(p => p.Appearances).Select(a => a.Sighting).OfType<long>()
                .Select(id => new SightingId(id))], stop);
            var views = SightingView.Of(shown).ToDictionary(v => v.Row.Id.Value);
            var found = (await places.OfIdeaAsync(study.Id, idea.Id, stop)).ToDictionary(p => p.Id.Value);
            string Name(long id) => all.FirstOrDefault(i => i.Id.Value == id)?.Nickname ?? "a deleted idea";
            entries.Add(new(
                idea, CountLines.Parse(idea.Text).Passage, Answer.Of(performances),
                    Answer.Of([.. others.SelectMany(other => evidence.Of(idea.Id.Value, other))]),
                    IdeaSentence.Of(evidence.Ideas[idea.Id.Value], subject), FirstOnRecord.Of(performances),
                [.. new[] { Division.Section, Division.Kind, Division.Year }.Select(by => (by, by.Parts(performances)))],
                [.. Concordance.Sorted([.. performances.SelectMany(p => p.Appearances)
                    .Select(a => a.Sighting is { } id ? new ListedPlace(found[id], null) { View = views[id] }
                    : new ListedPlace(null, byHand[a.Heard!.Value]))], null)],
                [.. standing.Where(c => c.Claim.Test is IdeaClaim of && of.Idea == idea.Id.Value)],
                [.. links.Where(l => l.Idea == idea.Id.Value).Select(l => $"{l.Kind} {Name(l.Of)}"),
                    .. links.Where(l => l.Of == idea.Id.Value).Select(l => $"{Name(l.Idea)} is {l.Kind} it"), .. borrowed],
                [.. (await lookedIdeas.OfAsync(idea, stop)).Words]));
        }
        return new(
            study, DateOnly.FromDateTime(DateTime.Now), searched, Limits(study, own, searched, weighed.Account), entries,
            Lateness.Of((await feels.OfStudyAsync(study.Id, stop)).Where(g => g.Player == subject)),
            [.. study.Comparison.Prepend(study.Subject).Select(player => Appendix(player, everything)).Where(p => p.All > 0)]);
    }

    private static SearchedOf Appendix(Player player, IReadOnlyList<Recording> everything)
    {
        var all = everything.Where(r => r.PlayerId == player.Id).OrderBy(r => r.RecordedFrom).ThenBy(r => r.Name).ToList();
        return new(player.Name, all.Count, [.. all.Where(r => r.SearchedBars > 0).Select(r => new SearchedRecording(r.Id, r.Name,
            r.Recorded?.ToString() ?? "no date", r.SearchedBars, r.TotalBars))], [.. all.Where(r => r.SearchedBars == 0)
                .Select(r => r.Name)]);
    }

    private static List<string> Limits(Study study, List<Recording> own, SearchedAtAll searched, Account account)
    {
        var limits = new List<string>();
        if (searched.IsFew) limits.Add($"Fewer than {Answer.FewestRecordings} recordings are searched: every number is a first hint.");
        if (own.Count(r => r.SearchedBars == 0) is > 0
            and var silent) limits.Add($"{(silent == 1 ? "One recording is" : $"{silent} recordings are")} not searched at all.");
        if (own.Count(r => r.TotalBars is null) is > 0 and var unknown) limits.Add($"Of {unknown} the length in bars is not known.");
        if (own.Count(r => r.Recorded is null || r.RecordedFrom != r.RecordedTo) is > 0
            and var vague) limits.Add($"{(vague == 1 ? "One is" : $"{vague} are")} not dated to the day.");
        if (own.Count(r => !r.Sure.IsCertain) is > 0 and var disputed) limits.Add($"Of {disputed} it is not certain who drums.");
        if (own.Select(r => r.Title).Distinct().Count() < own.Count) limits.Add(
            "Takes and performances of one tune hang together: intervals count each tune once.");
        foreach (var player in study.Comparison)
            if (SearchedAtAll.Of(account.Recordings.Where(r => r.Player == player.Id.Value)).Bars == 0) limits.Add(
                $"Of {player.Name} nothing is searched, so nothing here compares with that playing.");
        if (own.Sum(r => r.NotPlaced) is > 0 and var placeless) limits.Add(
            $"Of {Words.Bars(placeless)} searched nobody said where they are: they are in no number.");
        limits.Add("Only confirmed sightings are counted; near misses and what waits for judgement are not.");
        return limits;
    }
}
