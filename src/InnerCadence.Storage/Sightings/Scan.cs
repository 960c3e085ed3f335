using Dapper;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using Npgsql;

namespace InnerCadence.Storage.Sightings;

/// <summary>Looks for ideas in readings and keeps what it finds, inside the transaction of the change that made it necessary.</summary>
/// <remarks>
/// Judgements are never overridden: a judged sighting that is no longer found stays and is marked vanished, one that is found otherwise
/// than
/// when it was judged is marked changed. Unjudged sightings are what the last scan found, no more.
/// </remarks>
internal static class Scan
{
    /// <param name="before">What was read for the idea before, where several are looked for.</param>
    public static async Task IdeaAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, IdeaId idea, CancellationToken stop,
        ReadStretches? before = null)
    {
        var row = await connection.QuerySingleOrDefaultAsync<IdeaRow>(new(
            "select id, study_id, text, span_ticks, scope, rules::text as rules from idea where id = @idea", new { idea }, transaction,
                cancellationToken: stop));
        if (row is null) return;
        var readings = await ReadingsAsync(connection, transaction, row.StudyId, false, stop);
        var matcher = new Matcher(row.AsIdea());
        var found = Find(matcher, (before ?? new()).Of(readings), stop).Select(f => Found.Of(row.Id, f.Reading, f.Sighting)).ToList();
        await KeepAsync(connection, transaction, found, [row.Id], [.. readings.Select(r => r.Id)], stop);
    }

    /// <summary>What an idea would find in a study; nothing is kept.</summary>
    public static async Task<IReadOnlyList<(ReadingId Reading, Sighting Sighting)>> TryAsync(NpgsqlConnection connection, StudyId study,
        Idea idea, CancellationToken stop)
    {
        var readings = await ReadingsAsync(connection, null, study, true, stop);
        return Find(new(idea), new ReadStretches().Of(readings), stop);
    }

    /// <summary>Passages that adjoin in a recording are read as one; a sighting belongs to the reading in which it starts.</summary>
    private static IReadOnlyList<(ReadingId Reading, Sighting Sighting)> Find(Matcher matcher, IReadOnlyList<ReadStretch> stretches,
        CancellationToken stop) =>
        [.. stretches.AsParallel().AsOrdered().WithCancellation(stop)
            .SelectMany(s => s.Stretch.Find(matcher).Select(f => (s.Readings[f.Index].Id, f.Sighting)))];

    /// <param name="live">Without recordings that lie in the trash; a scan sees them too, so that they come back with their
    /// sightings.</param>
    private static async Task<IReadOnlyList<ReadingText>> ReadingsAsync(NpgsqlConnection connection, NpgsqlTransaction? transaction,
        StudyId study, bool live, CancellationToken stop) =>
        (await connection.QueryAsync<ReadingText>(new(
            """
            select g.id, a.recording_id, a.bar, g.text, g.looped
            from reading g
            join passage a on a.id = g.passage_id and a.deleted_at is null
            join recording r on r.id = a.recording_id
            where r.study_id = @study and g.preferred and (not @live or r.deleted_at is null)
            order by g.id
            """, new { study, live }, transaction, cancellationToken: stop))).AsList();

    /// <summary>Looks for every idea in a reading and in those of its recording, since what adjoins is read as one.</summary>
    public static async Task ReadingAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, ReadingId reading,
        CancellationToken stop)
    {
        var recording = await connection.ExecuteScalarAsync<long>(new(
            "select a.recording_id from reading g join passage a on a.id = g.passage_id where g.id = @reading", new { reading },
                transaction, cancellationToken: stop));
        await RecordingAsync(connection, transaction, new(recording), stop);
    }

    /// <summary>Looks for every idea in all that is written down of a recording.</summary>
    public static async Task RecordingAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, RecordingId recording,
        CancellationToken stop)
    {
        var readings = (await connection.QueryAsync<ReadingText>(new(
            """
            select g.id, a.recording_id, a.bar, g.text, g.looped
            from reading g join passage a on a.id = g.passage_id and a.deleted_at is null
            where a.recording_id = @recording and g.preferred order by g.id
            """, new { recording }, transaction, cancellationToken: stop))).AsList();
        var ideas = (await connection.QueryAsync<IdeaRow>(new(
            """
            select i.id, i.study_id, i.text, i.span_ticks, i.scope, i.rules::text as rules
            from idea i join recording r on r.study_id = i.study_id where r.id = @recording and i.deleted_at is null order by i.id
            """, new { recording }, transaction, cancellationToken: stop))).AsList();
        var stretches = new ReadStretches().Of(readings);
        var found = ideas.AsParallel().AsOrdered().WithCancellation(stop).SelectMany(idea =>
        {
            var matcher = new Matcher(idea.AsIdea());
            return stretches.SelectMany(s => s.Stretch.Find(matcher).Select(f => Found.Of(idea.Id, s.Readings[f.Index].Id, f.Sighting)));
        }).ToList();
        await KeepAsync(connection, transaction, found, [.. ideas.Select(i => i.Id)], [.. readings.Select(r => r.Id)], stop);
    }

    private static async Task KeepAsync(
        NpgsqlConnection connection, NpgsqlTransaction transaction, List<Found> found, IReadOnlyList<IdeaId> ideas,
            IReadOnlyList<ReadingId> readings, CancellationToken stop)
    {
        var all = new
        {
            ideas = ideas.Select(i => i.Value).ToArray(),
            readings = readings.Select(r => r.Value).ToArray(),
            idea = found.Select(f => f.Idea.Value).ToArray(),
            reading = found.Select(f => f.Reading.Value).ToArray(),
            start = found.Select(f => f.Sighting.Start.Value).ToArray(),
            end = found.Select(f => f.Sighting.End.Value).ToArray(),
            factor = found.Select(f => f.Sighting.Factor.ToString()).ToArray(),
            verdict = found.Select(f => f.Sighting.Verdict.Word()).ToArray(),
            cost = found.Select(f => f.Sighting.Cost).ToArray(),
            unsure = found.Select(f => f.Sighting.Unsure).ToArray(),
            transforms = found.Select(f => string.Join(' ', f.Sighting.Transforms)).ToArray(),
            edits = found.Select(f => SightingJson.Edits(f.Sighting.Edits)).ToArray(),
            summary = found.Select(f => f.Sighting.Summary).ToArray(),
        };
        await connection.ExecuteAsync(new(
            """
            create temp table scanned on commit drop as
            select * from unnest(@idea, @reading, @start, @end, @factor, @verdict, @cost, @unsure, @transforms, @edits, @summary)
              as f (idea_id, reading_id, start_tick, end_tick, factor, verdict, cost, unsure, transforms, edits, summary);

            delete from sighting s
            where s.idea_id = any(@ideas) and s.reading_id = any(@readings) and s.judgement is null
              and not exists (select 1 from scanned f where (f.idea_id, f.reading_id, f.start_tick) = (s.idea_id, s.reading_id,
                s.start_tick));

            update sighting s set vanished = true
            where s.idea_id = any(@ideas) and s.reading_id = any(@readings) and s.judgement is not null
              and not exists (select 1 from scanned f where (f.idea_id, f.reading_id, f.start_tick) = (s.idea_id, s.reading_id,
                s.start_tick));

            insert into sighting as s (idea_id, reading_id, start_tick, end_tick, factor, verdict, cost, unsure, transforms, edits, summary)
            select idea_id, reading_id, start_tick, end_tick, factor, verdict, cost, unsure, string_to_array(transforms, ' '), edits::jsonb,
              summary from scanned
            on conflict (idea_id, reading_id, start_tick) do update
            set end_tick = excluded.end_tick, factor = excluded.factor, verdict = excluded.verdict, cost = excluded.cost,
              unsure = excluded.unsure,
                transforms = excluded.transforms, edits = excluded.edits, summary = excluded.summary, vanished = false,
                changed = s.changed or (s.judgement is not null and (s.verdict, s.edits) is distinct
                  from (excluded.verdict, excluded.edits));

            drop table scanned
            """, all, transaction, cancellationToken: stop));
    }

    private readonly record struct Found(IdeaId Idea, ReadingId Reading, Sighting Sighting)
    {
        public static Found Of(IdeaId idea, ReadingId reading, Sighting sighting) => new(idea, reading, sighting);
    }
}
