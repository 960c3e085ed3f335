using InnerCadence.Core.Claims;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Storage;

/// <summary>A passage as material for what is counted in bars and passages.</summary>
/// <param name="Bars">Those of it that count: each bar of a recording once.</param>
/// <param name="Whole">The passage as such counts: it was not written down because an idea was heard in it, or all of it was listened to anyway.</param>
public sealed record CountedPassage(WrittenPassage Row, IReadOnlyList<Bar> Bars, bool Whole)
{
    /// <summary>The unit of what is counted: a player's title.</summary>
    public string Title => $"{Row.PlayerId} {Row.Title}";
}

/// <summary>Brings a study's evidence into the form in which the core weighs it.</summary>
public sealed class StudyMaterial(Ideas ideas, EvidenceOfIdeas evidence, WrittenPassages written)
{
    /// <summary>Everything that claims can be about.</summary>
    public async Task<Material> OfAsync(Study study, CancellationToken stop) => (await WithCautiousAsync(study, stop)).Plain;

    /// <summary>The same twice: as it is, and without what rests on unsure or unheard strokes.</summary>
    public async Task<(Material Plain, Material Cautious)> WithCautiousAsync(Study study, CancellationToken stop)
    {
        var named = await ideas.OfStudyAsync(study.Id, stop);
        var account = await evidence.AccountAsync(study.Id, stop);
        var passages = CountedOf(account, await written.OfStudyAsync(study.Id, stop));
        var plain = new Material(ClaimText.NamesOf(study, named), named.ToDictionary(i => i.Id.Value, i => account.Of(i.AsNamed())),
            [.. passages.SelectMany(p => p.Bars.Select(bar => new PlayedBar(p.Row.PlayerId.Value, p.Row.RecordingId.Value, p.Row.Title, p.Row.RecordingName, p.Row.Bar + bar.Index, bar, p.Row.PassageId.Value)))],
            [.. passages.Where(p => p is { Whole: true, Row.Kind: "fill" }).Select(p => (p.Row, Traits: Traits.Of(p.Row.Passage))).Where(x => x.Traits is not null)
                .Select(x => new PlayedFill(x.Row.PlayerId.Value, x.Row.Title, $"{x.Row.RecordingName}{(x.Row.Bar is { } bar ? $", bar {bar}" : "")}", x.Row.PassageId.Value, x.Row.Passage, x.Traits!))]);
        var cautious = account.Cautious();
        return (plain, plain with { Ideas = named.ToDictionary(i => i.Id.Value, i => cautious.Of(i.AsNamed())) });
    }

    /// <summary>All that is written down in a study, as far as it counts as material.</summary>
    public async Task<IReadOnlyList<CountedPassage>> PassagesAsync(StudyId study, CancellationToken stop) =>
        CountedOf(await evidence.AccountAsync(study, stop), await written.OfStudyAsync(study, stop));

    /// <summary>Every recording of the study for each idea, by player and date, with what was confirmed in it.</summary>
    /// <param name="cautious">Without what rests on unsure or unheard strokes.</param>
    public async Task<IReadOnlyDictionary<IdeaId, IReadOnlyList<Performance>>> PerformancesAsync(StudyId study, IReadOnlyList<IdeaRow> named, CancellationToken stop, bool cautious = false)
    {
        var account = await evidence.AccountAsync(study, stop);
        if (cautious) account = account.Cautious();
        return named.ToDictionary(i => i.Id, i => account.Of(i.AsNamed()));
    }

    private static List<CountedPassage> CountedOf(Account account, IReadOnlyList<WrittenPassage> passages)
    {
        var facts = account.Recordings.ToDictionary(r => r.Id);
        var covered = facts.ToDictionary(r => r.Key, r => Exposure.ForEverything(r.Value.TotalBars, r.Value.Searches, r.Value.Written).Bars);
        var taken = new HashSet<(RecordingId, int)>();
        var counted = new Dictionary<ReadingId, CountedPassage>();
        // What was written for its own sake goes before what was written because something was heard.
        foreach (var p in passages.OrderBy(p => p.BecauseHeard))
        {
            bool Counts(int? bar) => !p.BecauseHeard || (covered.TryGetValue(p.RecordingId.Value, out var bars) && (bar is { } b ? bars.Contains(b) : facts[p.RecordingId.Value].TotalBars is { } total && bars.Count >= total));
            counted[p.ReadingId] = new(p, [.. p.Bars.Where(bar => Counts(p.Bar + bar.Index) && (p.Bar is not { } first || taken.Add((p.RecordingId, first + bar.Index))))], Enumerable.Range(0, p.Bars.Count).All(i => Counts(p.Bar + i)));
        }
        return [.. passages.Select(p => counted[p.ReadingId])];
    }
}
