using Dapper;
using InnerCadence.Core.Claims;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using Npgsql;

namespace InnerCadence.Storage;

/// <summary>Brings a study's evidence into the form in which the core weighs it.</summary>
public sealed class StudyMaterial(NpgsqlDataSource source, Ideas ideas, EvidenceOfIdeas evidence, Sightings sightings, HeardSightings heard, WrittenPassages written)
{
    /// <summary>Everything that claims can be about.</summary>
    public async Task<Material> OfAsync(Study study, CancellationToken stop)
    {
        var named = await ideas.OfStudyAsync(study.Id, stop);
        var performances = await PerformancesAsync(study.Id, named, stop);
        var all = await written.OfStudyAsync(study.Id, stop);
        return new(
            ClaimText.NamesOf(study, named),
            performances.ToDictionary(p => p.Key.Value, p => p.Value),
            [.. all.Where(p => !p.BecauseHeard).SelectMany(p => p.Bars.Select(bar => new PlayedBar(p.PlayerId.Value, PlaceOf(p, bar.Index), bar, p.PassageId.Value)))],
            [.. all.Where(p => p.Kind == "fill").Select(p => (Row: p, Traits: Traits.Of(p.Passage))).Where(x => x.Traits is not null)
                .Select(x => new PlayedFill(x.Row.PlayerId.Value, x.Row.Title, $"{x.Row.RecordingName}{(x.Row.Bar is { } bar ? $", bar {bar}" : "")}", x.Row.PassageId.Value, x.Row.Passage, x.Traits!))]);
    }

    /// <summary>The same without what rests on unsure or unheard strokes; the very same where nothing does.</summary>
    public async Task<Material> CautiousAsync(Study study, Material plain, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var unsure = await connection.ExecuteScalarAsync<bool>(new(
            """
            select exists (select 1 from sighting x join idea i on i.id = x.idea_id
                           where i.study_id = @Id and not x.vanished and x.judgement = 'confirmed' and (x.unsure > 0 or x.summary like '%not heard%'))
            """, new { study.Id }, cancellationToken: stop));
        if (!unsure) return plain;
        return plain with { Ideas = (await PerformancesAsync(study.Id, await ideas.OfStudyAsync(study.Id, stop), stop, cautious: true)).ToDictionary(p => p.Key.Value, p => p.Value) };
    }

    /// <summary>Every recording of the study for each idea, by player and date, with what was confirmed in it.</summary>
    /// <param name="cautious">Without what rests on unsure or unheard strokes.</param>
    public async Task<IReadOnlyDictionary<IdeaId, IReadOnlyList<Performance>>> PerformancesAsync(StudyId study, IReadOnlyList<IdeaRow> named, CancellationToken stop, bool cautious = false)
    {
        var counted = await evidence.ByRecordingAsync(study, named, stop, cautious);
        var confirmed = (await sightings.ConfirmedAsync(study, stop)).Where(s => !cautious || (s.Unsure == 0 && !s.Summary.Contains("not heard", StringComparison.Ordinal))).ToLookup(s => (s.IdeaId, s.RecordingId));
        var byEar = (await heard.OfStudyAsync(study, stop)).ToLookup(h => (h.IdeaId, h.RecordingId));
        var spans = (await SpansAsync(study, stop)).ToLookup(s => s.RecordingId);
        return counted.ToDictionary(c => c.Key, c => (IReadOnlyList<Performance>)
        [
            .. c.Value.Select(r => new Performance
            {
                Id = r.Recording.Id.Value,
                Name = r.Recording.Name,
                Title = r.Recording.Title,
                Player = r.Recording.PlayerId.Value,
                Kind = r.Recording.Kind,
                Ensemble = r.Recording.Ensemble,
                Recorded = r.Recording.Recorded,
                Issued = r.Recording.Issued,
                Tempo = r.Recording.FeltTempo,
                Minutes = r.Recording.Duration?.Milliseconds / 60_000.0,
                SureWhoPlays = r.Recording.Sure == "certain",
                Evidence = r.Evidence,
                Appearances =
                [
                    .. confirmed[(c.Key, r.Recording.Id)].Select(s => AppearanceOf(s, r.Recording, spans[r.Recording.Id])),
                    .. byEar[(c.Key, r.Recording.Id)].Select(h => new Appearance(
                        null, $"{h.RecordingName}{(h.Bar is { } bar ? $", bar {bar}" : "")}{(h.At is { } at ? $", {at}" : "")}, heard", h.Bar, "", null, null, true, IsSure(r.Recording, h.Bar, spans[r.Recording.Id]))),
                ],
            }),
        ]);
    }

    public static WrittenBar PlaceOf(WrittenPassage passage, int index) => new(passage.RecordingId.Value, passage.Title, passage.Bar + index, passage.Section);

    private static Appearance AppearanceOf(SightingRow row, Recording recording, IEnumerable<DrummedSpan> spans)
    {
        var passage = WrittenPassages.Read(row.Text);
        var (index, inBar) = passage.Meters.Locate(new(row.StartTick));
        var meter = passage.Meters.MeterOf(index);
        var bar = row.Bar + index;
        return new(row.Id.Value, $"{row.RecordingName}, {(bar is { } n ? $"bar {n}" : $"bar {index + 1} of a passage")} on {CountNames.Spoken(inBar, meter)}", bar, row.Section, meter, inBar, row.BecauseHeard, IsSure(recording, bar, spans));
    }

    /// <summary>A span that somebody wrote down goes before what is said of the whole recording.</summary>
    private static bool IsSure(Recording recording, int? bar, IEnumerable<DrummedSpan> spans)
    {
        var over = spans.Where(s => bar is { } b && b >= s.FromBar && b < s.FromBar + s.Bars).ToList();
        return over.Count > 0 ? over.All(s => s.PlayerId == recording.PlayerId && s.Sure == "certain") : recording.Sure == "certain";
    }

    private sealed record DrummedSpan(RecordingId RecordingId, PlayerId PlayerId, string Sure, int FromBar, int Bars);

    private async Task<IEnumerable<DrummedSpan>> SpansAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QueryAsync<DrummedSpan>(new(
            "select d.recording_id, d.player_id, d.sure, d.from_bar, d.bars from drummed d join recording r on r.id = d.recording_id where r.study_id = @study and r.deleted_at is null",
            new { study }, cancellationToken: stop));
    }
}
