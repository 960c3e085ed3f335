using System.Text.Json;
using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Exchange;

/// <param name="Import">The file that is kept.</param>
public sealed record ImportInput(long Import);

/// <summary>The long work of taking a file of recordings in: all its good rows in one transaction, or none.</summary>
public sealed class RecordingImport(StudyStore studies, ImportStore imports) : Work<ImportInput>(Name, "Importing recordings")
{
    public const string Name = "import";
    private const int Batch = 500;

    protected override async Task RunAsync(ImportInput input, JobRun run)
    {
        var stop = run.Stop;
        var file = (await imports.FindAsync(new(input.Import), stop))!;
        var study = await studies.FindAsync(file.StudyId, stop)
            ?? throw new JobFailedException("The study was deleted; nothing was imported.");
        await run.KeepAsync((connection, transaction) => TakeInAsync(connection, transaction, file, study, run));
    }

    private static async Task<string> TakeInAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, ImportFile file, Study study,
        JobRun run)
    {
        var stop = run.Stop;
        var table = CsvTable.Read(file.Content);
        var reading = file.ReadingOf(table);
        var keys = await ImportStore.KeysAsync(connection, transaction, study.Id, stop);
        var (bad, added, merged, skipped) = (new List<ImportRow>(), 0, 0, 0);
        for (var done = 0; done < table.Rows.Count; done += Batch)
        {
            await run.BeatAsync(done * 100 / table.Rows.Count, $"{done:#,0} of {table.Rows.Count:#,0} rows.",
                "Cancelled: nothing was imported.");
            var fresh = new List<(RecordingDraft Draft, CoverageDraft? Searched)>();
            var freshKeys = new HashSet<string>();
            foreach (var row in table.Rows.Skip(done).Take(Batch).Select(r => ImportRow.Read(r, reading, study)))
            {
                if (row.Draft is not { } draft) bad.Add(row);
                else if (file.Duplicates == "keep" || (!keys.ContainsKey(row.DraftKey!) && freshKeys.Add(row.DraftKey!))) fresh.Add((draft,
                    file.Places == "first" ? row.Searched?.FromTheFirst : row.Searched));
                else if (file.Duplicates == "skip") skipped++;
                else
                {
                    // A double inside the batch must be there before it can be filled up.
                    if (freshKeys.Count > 0 && !keys.ContainsKey(row.DraftKey!)) await FlushAsync();
                    await MergeAsync(connection, transaction, study.Id, keys[row.DraftKey!], draft, stop);
                    merged++;
                }
            }
            await FlushAsync();

            async Task FlushAsync()
            {
                var ids = await InsertAsync(connection, transaction, study.Id, fresh, stop);
                foreach (var ((draft, _), id) in fresh.Zip(ids)) keys.TryAdd(ImportRow.Key(draft.Title, draft.Ensemble,
                    draft.Recorded?.Earliest, draft.Recorded?.Latest, draft.Take), id);
                added += fresh.Count;
                fresh.Clear();
                freshKeys.Clear();
            }
        }
        await connection.ExecuteAsync(new(
            "update import_file set bad_rows = @bad where id = @Id",
                new { file.Id, bad = bad.Count == 0 ? null : ImportStore.WriteBad(table, bad) }, transaction, cancellationToken: stop));
        return $"{added:#,0} added, {merged:#,0} merged into those that were there, {skipped:#,0} skipped; {bad.Count:#,0} could not be "
            + $"read.";
    }

    private static async Task<IReadOnlyList<RecordingId>> InsertAsync(
        NpgsqlConnection connection, NpgsqlTransaction transaction, StudyId study,
            List<(RecordingDraft Draft, CoverageDraft? Searched)> rows, CancellationToken stop)
    {
        if (rows.Count == 0) return [];
        var drafts = rows.Select(r => r.Draft).ToList();
        await NameAsync(connection, transaction, study, drafts, stop);
        var first = (await connection.QueryAsync<long>(new(
            """
            insert into recording (study_id, player_id, title, ensemble_id, release_id, recorded_from, recorded_to, issued_from, issued_to,
              sure, kind, take, meter, tempo, tempo_read,
                                   duration_ms, total_bars, note, recorded_said, issued_said, tempo_said)
            select @study, f.player, f.title, e.id, l.id, f.recorded_from, f.recorded_to, f.issued_from, f.issued_to, f.sure, f.kind,
              f.take, f.meter, f.tempo, f.tempo_read, f.duration, f.bars, f.note,
              f.recorded_said, f.issued_said, f.tempo_said
            from unnest(@players, @titles, @ensembles, @releases, @froms, @tos, @issuedFroms, @issuedTos, @sures, @kinds, @takes, @meters,
              @tempos, @reads, @durations, @bars, @notes, @recordedSaid, @issuedSaid, @tempoSaid) with ordinality
              as f (player, title, ensemble, release, recorded_from, recorded_to, issued_from, issued_to, sure, kind, take, meter, tempo,
                tempo_read, duration, bars, note, recorded_said, issued_said, tempo_said, n)
            left join ensemble e on e.study_id = @study and e.name = f.ensemble
            left join release l on l.study_id = @study and l.title = f.release
            order by f.n
            returning id
            """,
            new
            {
                study,
                players = drafts.Select(d => d.PlayerId.Value).ToArray(),
                titles = drafts.Select(d => d.Title).ToArray(),
                ensembles = drafts.Select(d => d.Ensemble).ToArray(),
                releases = drafts.Select(d => d.Release).ToArray(),
                froms = drafts.Select(d => d.Recorded?.Earliest).ToArray(),
                tos = drafts.Select(d => d.Recorded?.Latest).ToArray(),
                issuedFroms = drafts.Select(d => d.Issued?.Earliest).ToArray(),
                issuedTos = drafts.Select(d => d.Issued?.Latest).ToArray(),
                sures = drafts.Select(d => d.Sure.Word).ToArray(),
                kinds = drafts.Select(d => d.Kind.Word).ToArray(),
                takes = drafts.Select(d => d.Take).ToArray(),
                meters = drafts.Select(d => d.Meter).ToArray(),
                tempos = drafts.Select(d => d.Tempo).ToArray(),
                reads = drafts.Select(d => d.TempoRead.Word).ToArray(),
                durations = drafts.Select(d => d.Duration?.Milliseconds).ToArray(),
                bars = drafts.Select(d => d.TotalBars).ToArray(),
                notes = drafts.Select(d => d.Note).ToArray(),
                recordedSaid = drafts.Select(d => d.RecordedSaid).ToArray(),
                issuedSaid = drafts.Select(d => d.IssuedSaid).ToArray(),
                tempoSaid = drafts.Select(d => d.TempoSaid).ToArray(),
            }, transaction, cancellationToken: stop))).Select(id => new RecordingId(id)).ToList();
        foreach (var ((_, searched), id) in rows.Zip(first))
        {
            if (searched is not null) await CoverageStore.InsertAsync(connection, transaction, id, searched, stop);
        }
        return first;
    }

    private static Task NameAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, StudyId study, List<RecordingDraft> drafts,
        CancellationToken stop) =>
        connection.ExecuteAsync(new(
            """
            insert into ensemble (study_id, name) select @study, name from unnest(@ensembles) as name where name <> ''
              on conflict do nothing;
            insert into release (study_id, title) select @study, title from unnest(@releases) as title where title <> ''
              on conflict do nothing
            """,
            new
            {
                study,
                ensembles = drafts.Select(d => d.Ensemble).Distinct().ToArray(),
                releases = drafts.Select(d => d.Release)
                .Distinct().ToArray()
            }, transaction, cancellationToken: stop));

    /// <summary>Fills what the recording leaves empty; nothing that stands is changed.</summary>
    private static async Task MergeAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, StudyId study, RecordingId id,
        RecordingDraft draft, CancellationToken stop)
    {
        await NameAsync(connection, transaction, study, [draft], stop);
        await connection.ExecuteAsync(new(
            """
            update recording r set
              release_id = coalesce(r.release_id, (select l.id from release l where l.study_id = @study and l.title = @Release)),
              issued_from = coalesce(r.issued_from, @issuedFrom), issued_to = coalesce(r.issued_to, @issuedTo),
              issued_said = case when r.issued_from is null then @IssuedSaid else r.issued_said end,
              tempo = coalesce(r.tempo, @Tempo), tempo_said = case when r.tempo is null then @TempoSaid else r.tempo_said end,
              duration_ms = coalesce(r.duration_ms, @Duration), total_bars = coalesce(r.total_bars, @TotalBars),
              note = case when r.note = '' then @Note else r.note end, version = version + 1
            where r.id = @id
            """,
            new
            {
                id,
                study,
                draft.Release,
                issuedFrom = draft.Issued?.Earliest,
                issuedTo = draft.Issued?.Latest,
                draft.Tempo,
                draft.Duration,
                draft.TotalBars,
                draft.Note,
                draft.IssuedSaid,
                draft.TempoSaid,
            },
            transaction, cancellationToken: stop));
    }
}
