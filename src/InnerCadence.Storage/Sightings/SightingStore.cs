using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Recordings;
using Npgsql;

namespace InnerCadence.Storage.Sightings;

/// <summary>An idea found at a place, with the recording, the clock and the bar it belongs to.</summary>
public sealed record SightingRow
{
    public SightingId Id { get; init; }
    public IdeaId IdeaId { get; init; }
    public string Idea { get; init; } = "";
    public ReadingId ReadingId { get; init; }
    public PassageId PassageId { get; init; }
    public RecordingId RecordingId { get; init; }
    public StudyId StudyId { get; init; }
    public string Title { get; init; } = "";
    public string Take { get; init; } = "";
    public PlayerId PlayerId { get; init; }
    public string Player { get; init; } = "";
    public bool BySubject { get; init; }
    public DateOnly? RecordedFrom { get; init; }
    public DateOnly? RecordedTo { get; init; }
    public double? Tempo { get; init; }
    public string Text { get; init; } = "";
    public bool Looped { get; init; }
    public int? StartsAtMs { get; init; }
    public int? Bar { get; init; }
    public string Section { get; init; } = "";
    public bool BecauseHeard { get; init; }
    public int StartTick { get; init; }
    public int EndTick { get; init; }
    public string Factor { get; init; } = "1";
    /// <summary>As it is kept.</summary>
    public string VerdictWord { get; init; } = "";
    public Verdict Verdict => VerdictWords.Read(VerdictWord);
    public int Cost { get; init; }
    public int Unsure { get; init; }
    public string[] Transforms { get; init; } = [];
    public string Edits { get; init; } = "[]";
    public string Summary { get; init; } = "";
    public bool Vanished { get; init; }
    public bool Changed { get; init; }
    /// <summary>As it is kept: confirmed, near-miss, rejected; nothing while it waits.</summary>
    public string? JudgementWord { get; init; }
    public Judged Judged => JudgedWords.Read(JudgementWord);
    public string Reason { get; init; } = "";
    /// <summary>Counts the judgements, not the scans.</summary>
    public int Version { get; init; }
    /// <summary>By which its recording's bars are clock times; nothing before a bar is marked.</summary>
    public TempoMap? Map { get; init; }

    public string RecordingName => Take.Length == 0 ? Title : $"{Title}, {Take}";
    public ClockTime? PassageStart => StartsAtMs is { } ms ? new(ms) : null;
    /// <summary>What was confirmed and is no longer found waits like what nobody judged.</summary>
    public bool IsWaiting => Judged.Waits(Vanished);
    /// <summary>As evidence.</summary>
    /// <param name="passage">Its reading.</param>
    public FoundSighting AsFound(Passage passage) => new(Id.Value, IdeaId.Value, RecordingId.Value, ReadingId.Value, passage.Meters, Bar,
        new(StartTick), new(EndTick), Judged)
    {
        Starts = PassageStart,
        Tempo = passage.Tempo,
        Section = Section,
        BecauseHeard = BecauseHeard,
        Unsure = Unsure > 0,
        PartlyUnheard = SightingJson.Read(Edits, passage).Any(e => e.Kind == "not-heard"),
        Vanished = Vanished,
    };

    /// <summary>It is found in the text as it stands, and nobody refused it.</summary>
    public bool Stands => Judged.Stands(Vanished);
}

public enum Judgement { Confirmed, NearMiss, Rejected }

public static class JudgementWords
{
    /// <summary>As it is kept: confirmed, near-miss, rejected.</summary>
    public static string Word(this Judgement judgement) => judgement == Judgement.NearMiss ? "near-miss" : judgement.ToString()
        .ToLowerInvariant();
}

public sealed class SightingStore(NpgsqlDataSource source)
{
    private static readonly string Columns = ColumnsOf("sighting");

    /// <summary>These first: the planner knows too little of small tables to find it out, and begins with the recordings.</summary>
    private static readonly string ColumnsOfThese = ColumnsOf("(select * from sighting where id = any(@ids) offset 0)");

    private static string ColumnsOf(string sightings) =>
        $"""
        select x.id, x.idea_id, i.nickname as idea, x.reading_id, a.id as passage_id, r.id as recording_id, r.study_id, r.title, r.take,
               p.id as player_id, p.name as player, p.role = 'subject' as by_subject, r.recorded_from, r.recorded_to, r.tempo, g.text,
                 g.looped,
               a.starts_at_ms, a.bar, a.section, a.because_heard,
               x.start_tick, x.end_tick, x.factor, x.verdict as verdict_word, x.cost, x.unsure, x.transforms, x.edits::text as edits, x.summary,
               x.vanished, x.changed, x.judgement as judgement_word, x.reason, x.version
        from {sightings} x
        join idea i on i.id = x.idea_id and i.deleted_at is null
        join reading g on g.id = x.reading_id and g.preferred
        join passage a on a.id = g.passage_id and a.deleted_at is null
        join recording r on r.id = a.recording_id and r.deleted_at is null
        join study s on s.id = r.study_id and s.deleted_at is null
        join player p on p.id = r.player_id
        """;

    /// <summary>By recording date, then in the order of the recording.</summary>
    public async Task<IReadOnlyList<SightingRow>> OfIdeaAsync(IdeaId idea, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await MappedAsync(connection, await connection.QueryAsync<SightingRow>(new(
            $"{Columns} where x.idea_id = @idea order by r.recorded_from nulls last, r.title, r.take, r.id, a.starts_at_ms nulls last, "
                + $"a.bar, a.id, x.start_tick",
            new { idea }, cancellationToken: stop)), stop);
    }

    public async Task<IReadOnlyList<SightingRow>> OfPassageAsync(PassageId passage, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await MappedAsync(connection, await connection.QueryAsync<SightingRow>(new(
            $"{Columns} where a.id = @passage order by x.start_tick, i.nickname", new { passage }, cancellationToken: stop)), stop);
    }

    public async Task<IReadOnlyList<SightingRow>> OfRecordingAsync(RecordingId recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await MappedAsync(connection, await connection.QueryAsync<SightingRow>(new(
            $"{Columns} where r.id = @recording order by a.starts_at_ms nulls last, a.bar, a.id, x.start_tick, i.nickname",
                new { recording }, cancellationToken: stop)), stop);
    }

    /// <summary>Everything found in a study, in the order of its numbers.</summary>
    public async Task<IReadOnlyList<SightingId>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<SightingId>(new(
            """
            select x.id from sighting x
            join idea i on i.id = x.idea_id and i.deleted_at is null
            join reading g on g.id = x.reading_id and g.preferred
            join passage a on a.id = g.passage_id and a.deleted_at is null
            join recording r on r.id = a.recording_id and r.deleted_at is null
            where r.study_id = @study and not x.vanished order by x.id
            """, new { study }, cancellationToken: stop))).AsList();
    }

    /// <summary>Those with these numbers, in their order, as far as they are there.</summary>
    public async Task<IReadOnlyList<SightingRow>> TheseAsync(IReadOnlyList<SightingId> ids, CancellationToken stop)
    {
        if (ids.Count == 0) return [];
        await using var connection = await source.OpenConnectionAsync(stop);
        var rows = (await MappedAsync(connection, await connection.QueryAsync<SightingRow>(new(
            ColumnsOfThese, new { ids = ids.Select(i => i.Value).ToArray() }, cancellationToken: stop)), stop)).ToDictionary(s => s.Id);
        return [.. ids.Where(rows.ContainsKey).Select(id => rows[id])];
    }

    public async Task<SightingRow?> FindAsync(SightingId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await MappedAsync(connection, await connection.QueryAsync<SightingRow>(new($"{Columns} where x.id = @id", new { id },
            cancellationToken: stop)), stop)).SingleOrDefault();
    }

    /// <summary>Keeps what the researcher made of a sighting; nothing takes a judgement back, so that it waits again.</summary>
    /// <returns>False when it was judged since the given version was read.</returns>
    public async Task<bool> JudgeAsync(SightingId id, int version, Judgement? judgement, string reason, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await JudgeAsync(connection, null, id, version, judgement, reason, stop);
    }

    internal static async Task<bool> JudgeAsync(NpgsqlConnection connection, NpgsqlTransaction? transaction, SightingId id, int version,
        Judgement? judgement, string reason, CancellationToken stop) =>
        await connection.ExecuteAsync(new(
            """
            update sighting set judgement = @word, reason = @reason, judged_at = case when @word::text is null then null
              else now() end, changed = false,
                   version = version + 1
            where id = @id and version = @version
            """,
            new { id, version, reason, word = judgement?.Word() }, transaction, cancellationToken: stop)) == 1;

    /// <summary>With the tempo map of their recordings, where bars are marked.</summary>
    private static async Task<IReadOnlyList<SightingRow>> MappedAsync(NpgsqlConnection connection, IEnumerable<SightingRow> found,
        CancellationToken stop)
    {
        var rows = found.AsList();
        if (rows.Count == 0) return rows;
        using var both = await connection.QueryMultipleAsync(new(
            """
            select r.id, r.meter, r.tempo, r.form from recording r
            where r.id = any(@ids) and (r.form like '%@%' or exists (select 1 from bar_mark m where m.recording_id = r.id));
            select recording_id, bar, at_ms from bar_mark where recording_id = any(@ids) order by recording_id, bar
            """, new { ids = rows.Select(r => r.RecordingId.Value).Distinct().ToArray() }, cancellationToken: stop));
        var recordings = (await both.ReadAsync<Recording>()).AsList();
        var marks = (await both.ReadAsync<(RecordingId Recording, int Bar, int At)>())
            .ToLookup(m => m.Recording, m => new BarMark(m.Bar, new(m.At)));
        var maps = recordings.ToDictionary(r => r.Id, r => Timeline.Of(r, [.. marks[r.Id]]).Map);
        return [.. rows.Select(row => maps.TryGetValue(row.RecordingId, out var map) ? row with { Map = map } : row)];
    }
}
