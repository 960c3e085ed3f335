using InnerCadence.Core.Claims;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Storage.Evidence;

/// <summary>A passage as material for what is counted in bars and passages.</summary>
public sealed class CountedPassage(WrittenPassage row, IReadOnlyList<Bar> bars, bool whole)
{
    private readonly Lazy<Traits?> traits = new(() => Traits.Of(row.Passage));

    public WrittenPassage Row => row;
    /// <summary>Those of it that count: each bar of a recording once.</summary>
    public IReadOnlyList<Bar> Bars => bars;
    /// <summary>The passage as such counts: it was not written down because an idea was heard in it, or all of it was listened to
    /// anyway.</summary>
    public bool Whole => whole;
    /// <summary>The unit of what is counted: a player's title.</summary>
    public string Title { get; } = $"{row.PlayerId} {row.Title}";
    /// <summary>What hands and feet do in it; nothing where no stroke says.</summary>
    public Traits? Traits => traits.Value;
}

/// <summary>A study's evidence as it is, and without what rests on unsure or unheard strokes.</summary>
public sealed record Weighed(Account Account, Material Plain, Material Cautious);

/// <summary>Brings a study's evidence into the form in which the core weighs it.</summary>
public sealed class StudyMaterial(EvidenceOfIdeas evidence, WrittenPassages written, FeelStore feels, KeptReady kept)
{
    /// <summary>Everything that claims can be about.</summary>
    public Task<Weighed> WithCautiousAsync(Study study, CancellationToken stop) =>
        kept.OfAsync(study.Id, s => WeighAsync(study, s), weighed => weighed.Plain.Bars.Count + 10L * weighed.Plain.Ideas.Count, stop);

    private async Task<Weighed> WeighAsync(Study study, CancellationToken stop)
    {
        var known = await evidence.OfStudyAsync(study.Id, stop);
        var passages = await PassagesAsync(study.Id, stop);
        var plain = new Material(ClaimText.NamesOf(study, known.Ideas), Counted(known, without: false),
            [.. passages.SelectMany(p => p.Bars.Select(bar =>
                new PlayedBar(p.Row.PlayerId.Value, p.Row.RecordingId.Value, p.Row.Title, p.Row.RecordingName, p.Row.Bar + bar.Index, bar,
                p.Row.PassageId.Value)))],
            [.. passages.Where(p => p.Whole && p.Row.Kind == PassageKind.Fill).Where(x => x.Traits is not null)
                .Select(x => new PlayedFill(x.Row.PlayerId.Value, x.Row.Title,
                    $"{x.Row.RecordingName}{(x.Row.Bar is { } bar ? $", bar {bar}" : "")}", x.Row.PassageId.Value, x.Row.Passage,
                    x.Traits!))])
        {
            Gaps = [.. await feels.OfStudyAsync(study.Id, stop)],
        };
        return new(known.Account, plain, plain with { Ideas = Counted(known, without: true) });
    }

    private static Dictionary<long, IReadOnlyList<Performance>> Counted(KnownEvidence known, bool without) =>
        known.Ideas.ToDictionary(i => i.Id.Value, i => (IReadOnlyList<Performance>)[.. known.Of(i.Id, without).Select(f => f.Performance)]);

    /// <summary>All that is written down in a study, as far as it counts as material.</summary>
    public Task<IReadOnlyList<CountedPassage>> PassagesAsync(StudyId study, CancellationToken stop) =>
        kept.OfAsync<IReadOnlyList<CountedPassage>>(study, async s =>
            CountedOf(await evidence.AccountAsync(study, s), await written.OfStudyAsync(study, s)), all => all.Count, stop);

    /// <summary>What is worked out of the passages for one choice of them, kept like them.</summary>
    /// <param name="choice">The same choice is equal, so that it is worked out once.</param>
    public Task<T> ChosenAsync<T>(StudyId study, object choice, Func<IReadOnlyList<CountedPassage>, T> work, Func<T, long> rows,
        CancellationToken stop) =>
        kept.OfAsync(study, async s => work(await PassagesAsync(study, s)), rows, stop, choice);

    private static List<CountedPassage> CountedOf(Account account, IReadOnlyList<WrittenPassage> passages)
    {
        var counted = WrittenMaterial.Of(account.Recordings,
            [.. passages.Select(p => new WrittenDown(p.RecordingId.Value, p.Bar, p.Bars.Count, p.BecauseHeard))]);
        return [.. passages.Zip(counted, (p, m) => new CountedPassage(p, [.. m.Bars.Select(i => p.Bars[i])], m.Whole))];
    }
}
