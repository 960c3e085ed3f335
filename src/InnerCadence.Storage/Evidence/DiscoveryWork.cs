using System.Text.Json;
using Dapper;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Evidence;

/// <param name="Discovery">The search that is to be made.</param>
public sealed record DiscoveryInput(long Discovery);

/// <summary>The long work of looking for cells that recur and that nobody named.</summary>
public sealed class DiscoveryWork(NpgsqlDataSource source, WrittenPassages written)
    : Work<DiscoveryInput>(DiscoveryStore.Kind, "Looking for recurring cells")
{
    private const int MostCells = 200, MostPlaces = 40;

    protected override async Task RunAsync(DiscoveryInput input, JobRun run)
    {
        var (id, stop) = (input.Discovery, run.Stop);
        var settings = await SettingsAsync(id, stop);
        await run.BeatAsync(5, "Reading what is written down.");
        var evidence = await written.EvidenceAsync(run.Study, stop);
        // In the order in which cells tell their places: title by title, since takes of one piece count once.
        var all = (await written.OfStudyAsync(run.Study, stop)).Where(settings.Takes).ToList();
        var titleOf = all.Select(p => (p.PlayerId, p.Title)).Distinct().Select((t, i) => (t, i)).ToDictionary(x => x.t, x => (long)x.i);
        var passages = all.OrderBy(p => titleOf[(p.PlayerId, p.Title)]).ThenBy(p => p.ReadingId.Value).ToList();
        await run.BeatAsync(30, $"Looking for what recurs in {passages.Count} passages.");
        var facets = settings.Facets;
        IReadOnlyList<Source> sources = [.. passages.Select(p => new Source(p.Passage, p.ReadingId.Value, titleOf[(p.PlayerId, p.Title)]))];
        var recurring = Cells.Find(sources, facets, settings.Recordings);
        await run.BeatAsync(50, $"Shuffling beats to see what chance would show of {recurring.Count} cells.");
        var cells = CellRanking.Of(sources, facets, recurring, MostCells, stop);
        await run.BeatAsync(80, $"Telling {cells.Count} cells.");
        var named = await NamedAsync(run.Study, stop);
        var found = cells.Select(cell => Told(cell, passages, facets, named)).ToList();
        await run.KeepAsync(async (connection, transaction) =>
        {
            await connection.ExecuteAsync(
                new("update discovery set made_at = now(), evidence = @evidence, result = @result::jsonb where id = @id",
            new { id, evidence, result = JsonSerializer.Serialize(found, DiscoveryStore.Json) }, transaction, cancellationToken: stop));
            return $"{found.Count} recurring {(found.Count == 1 ? "cell" : "cells")} found in {passages.Count} passages.";
        });
    }

    private async Task<DiscoverySettings> SettingsAsync(long id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return JsonSerializer.Deserialize<DiscoverySettings>(
            await connection.ExecuteScalarAsync<string>(new("select settings::text from discovery where id = @id", new { id },
            cancellationToken: stop)) ?? "{}", DiscoveryStore.Json)!;
    }

    private async Task<ILookup<ReadingId, (ReadingId Reading, int Start, int End, string Nickname)>> NamedAsync(StudyId study,
        CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<(ReadingId Reading, int Start, int End, string Nickname, string Verdict, string? Judgement,
            bool Vanished)>(new(
            """
            select x.reading_id, x.start_tick, x.end_tick, i.nickname, x.verdict, x.judgement, x.vanished from sighting x
              join idea i on i.id = x.idea_id and i.deleted_at is null
            where i.study_id = @study
            """, new { study }, cancellationToken: stop)))
            .Where(x => JudgedWords.Read(x.Judgement).IsTakenFor(VerdictWords.Read(x.Verdict), x.Vanished))
                .Select(x => (x.Reading, x.Start, x.End, x.Nickname)).ToLookup(n => n.Reading);
    }

    private static FoundCell Told(RankedCell ranked, IReadOnlyList<WrittenPassage> passages, CellFacets facets, ILookup<ReadingId,
        (ReadingId Reading, int Start, int End, string Nickname)> named)
    {
        var cell = ranked.Cell;
        int Distinct<T>(Func<WrittenPassage, T> of, bool subject) => cell.Occurrences.Select(o => passages[o.Source])
            .Where(p => !subject || p.BySubject).Select(of).Distinct().Count();
        var best = cell.Occurrences.OrderBy(o => passages[o.Source].BySubject ? 0 : 1).First();
        var explained = named.SelectMany(n => n).Select(n => n.Nickname).Distinct()
            .Where(nickname => cell.Occurrences.Count(o => named[passages[o.Source].ReadingId]
                .Any(n => n.Nickname == nickname && n.Start <= o.Start.Value && n.End > o.End.Value)) * 2 >= cell.Occurrences.Count);
        var counts = cell.Occurrences.GroupBy(o => Of(o).Count).OrderByDescending(g => g.Count()).Select(g => $"{g.Key} ({g.Count()})")
            .Take(4);
        var exemplar = Of(best);
        return new(
            exemplar.Key, exemplar.Text, cell.Moments, cell.Occurrences.Count, Distinct(p => p.RecordingId, false),
            Distinct(p => p.RecordingId, true), cell.Surprise, cell.Interest, [.. counts],
            [.. cell.Occurrences.OrderBy(o => passages[o.Source].BySubject ? 0 : 1).Take(MostPlaces)
                .Select(o => Place(passages[o.Source], Of(o)))], [.. explained.Order(StringComparer.Ordinal)])
        { Titles = cell.Recordings, SubjectTitles = Distinct(p => p.Title, true), Expected = ranked.Expected, Folded = ranked.Folded };

        ToldCell Of(Occurrence o) => new(passages[o.Source].Passage, o, facets);
    }

    private static FoundPlace Place(WrittenPassage p, ToldCell cell) =>
        new(p.PassageId.Value, p.RecordingName, p.RecordedFrom?.Year, p.Player, p.BySubject,
            $"bar {(p.Bar ?? 1) + cell.Bar}, {cell.Count}", cell.Span.From, cell.Span.To);
}
