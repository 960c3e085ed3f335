using System.Collections.Concurrent;
using Dapper;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using InnerCadence.Storage.Evidence;
using Npgsql;

namespace InnerCadence.Storage.Passages;

/// <summary>A preferred reading with everything by which passages are told apart.</summary>
public sealed record WrittenPassage
{
    public ReadingId ReadingId { get; init; }
    public PassageId PassageId { get; init; }
    public RecordingId RecordingId { get; init; }
    public string Title { get; init; } = "";
    public string Take { get; init; } = "";
    public PlayerId PlayerId { get; init; }
    public string Player { get; init; } = "";
    public bool BySubject { get; init; }
    public string Ensemble { get; init; } = "";
    public RecordingKind RecordingKind { get; init; }
    public DateOnly? RecordedFrom { get; init; }
    public double? RecordingTempo { get; init; }
    public int? Bar { get; init; }
    public string Section { get; init; } = "";
    public PassageKind Kind { get; init; }
    /// <summary>Written down because an idea was heard in it: it adds nothing to what was searched by itself.</summary>
    public bool BecauseHeard { get; init; }
    public string Text { get; init; } = "";
    public bool Looped { get; init; }

    public string RecordingName => Take.Length == 0 ? Title : $"{Title}, {Take}";

    /// <summary>Its bars, each with its strokes counted from its start; taken apart once for each text.</summary>
    public IReadOnlyList<Bar> Bars => WrittenPassages.BarsOf(Text);

    /// <summary>As it is read; each text is read once.</summary>
    public Passage Passage => WrittenPassages.Read(Text) with { Looped = Looped };
}

/// <summary>All that is written down in a study, for questions about many passages at once.</summary>
public sealed class WrittenPassages(NpgsqlDataSource source, KeptReady kept)
{
    public WrittenPassages(NpgsqlDataSource source) : this(source, new(source)) { }

    /// <summary>More texts than any study has; then reading begins anew.</summary>
    private const int MostKept = 50_000;
    private static readonly ConcurrentDictionary<string, Passage> Kept = new();
    private static readonly ConcurrentDictionary<string, IReadOnlyList<Bar>> KeptBars = new();
    private static readonly ConcurrentDictionary<string, Traits?> KeptTraits = new();

    /// <summary>By recording date, recording and place.</summary>
    public Task<IReadOnlyList<WrittenPassage>> OfStudyAsync(StudyId study, CancellationToken stop) =>
        kept.OfAsync(study, s => ReadAsync(study, s), all => all.Count, stop);

    private async Task<IReadOnlyList<WrittenPassage>> ReadAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<WrittenPassage>(new(
            """
            select g.id as reading_id, a.id as passage_id, r.id as recording_id, r.title, r.take, p.id as player_id, p.name as player,
              p.role = 'subject' as by_subject,
                   coalesce(e.name, '') as ensemble, r.kind as recording_kind, r.recorded_from, r.tempo as recording_tempo, a.bar,
                     a.section, a.kind, a.because_heard, g.text, g.looped
            from reading g
            join passage a on a.id = g.passage_id and a.deleted_at is null
            join recording r on r.id = a.recording_id and r.deleted_at is null
            join player p on p.id = r.player_id
            left join ensemble e on e.id = r.ensemble_id
            where r.study_id = @study and g.preferred
            order by r.recorded_from nulls last, r.title, r.take, r.id, a.starts_at_ms nulls last, a.bar, a.id
            """, new { study }, cancellationToken: stop))).AsList();
    }

    /// <summary>Changes whenever a text that counts does: what was worked out from other evidence is stale.</summary>
    public async Task<string> EvidenceAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<string>(new(
            """
            select coalesce(md5(string_agg(g.id || ':' || md5(g.text) || g.looped, ',' order by g.id)), '')
            from reading g join passage a on a.id = g.passage_id and a.deleted_at is null join recording r on r.id = a.recording_id
              and r.deleted_at is null
            where r.study_id = @study and g.preferred
            """, new { study }, cancellationToken: stop)) ?? "";
    }

    /// <summary>A text as it is read; each is read once.</summary>
    public static Passage Read(string text)
    {
        if (Kept.Count > MostKept) Kept.Clear();
        return Kept.GetOrAdd(text, t => CountLines.Parse(t).Passage);
    }

    /// <summary>Of the text, as it stands; nothing of one without strokes.</summary>
    internal static Traits? TraitsOf(string text)
    {
        if (KeptTraits.Count > MostKept) KeptTraits.Clear();
        return KeptTraits.GetOrAdd(text, t => Traits.Of(Read(t)));
    }

    internal static IReadOnlyList<Bar> BarsOf(string text)
    {
        if (KeptBars.Count > MostKept) KeptBars.Clear();
        return KeptBars.GetOrAdd(text, t => [.. Bar.Of(Read(t), 0)]);
    }
}
