using System.Text.Json;
using Dapper;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Evidence;

/// <summary>What is searched for recurring cells, and what makes two cells the same.</summary>
public sealed record DiscoverySettings
{
    /// <summary>Nothing for everybody.</summary>
    public PlayerId? Player { get; init; }
    /// <summary>studio, live, …; empty for all.</summary>
    public string RecordingKind { get; init; } = "";
    public string Section { get; init; } = "";
    /// <summary>groove, fill, …; empty for all.</summary>
    public string Kind { get; init; } = "";
    public string Meter { get; init; } = "";
    public string Voicing { get; init; } = "drum";
    public bool Proportional { get; init; }
    public bool Sticking { get; init; }
    public bool Accents { get; init; }
    /// <summary>With hat, ride and bell.</summary>
    public bool TimeKeeping { get; init; }
    public int Recordings { get; init; } = 2;

    public CellFacets Facets => new(
        IdeaWords.Read<VoicingRule>(Voicing) ?? VoicingRule.Drum, Proportional, Sticking, Accents,
        TimeKeeping ? Enum.GetValues<Family>().Where(f => f != Family.Ensemble).ToHashSet() : CellFacets.Usual.Families);

    public bool Takes(WrittenPassage p) => (Player is null || p.PlayerId == Player) && (RecordingKind.Length == 0 || p.RecordingKind == RecordingKind)
        && (Section.Length == 0 || p.Section.Contains(Section, StringComparison.OrdinalIgnoreCase)) && (Kind.Length == 0 || p.Kind == Kind)
        && (Meter.Length == 0 || p.Passage.Meters.ToString() == Meter);
}

/// <summary>One place of a found cell.</summary>
/// <param name="From">Bar, point, count, as a span is cut out of a passage; likewise To.</param>
public sealed record FoundPlace(long Passage, string Recording, int? Year, string Player, bool BySubject, string Where, string From, string To);

/// <summary>A recurring cell as it is kept and shown.</summary>
/// <param name="Key">The same for the same cell under the same facets, whenever it is found.</param>
/// <param name="Text">Its first place by the subject if there is one, as count lines.</param>
/// <param name="Explained">Nicknames of ideas that stand at half of its places or more.</param>
public sealed record FoundCell(
    string Key, string Text, int Moments, int Occurrences, int Recordings, int SubjectRecordings, double Surprise, double Interest, IReadOnlyList<string> Counts, IReadOnlyList<FoundPlace> Places, IReadOnlyList<string> Explained)
{
    /// <summary>Titles of a player that have it: takes of one piece count once.</summary>
    public int Titles { get; init; }
    public int SubjectTitles { get; init; }
    /// <summary>In how many titles it would come with the beats of each bar shuffled; nothing in a search that did not ask.</summary>
    public double? Expected { get; init; }
    /// <summary>Further cells that mostly stand where it does, shown with it.</summary>
    public int Folded { get; init; }

    /// <summary>Where it stands in words: only here, everyone, only with the others.</summary>
    public string Whose => SubjectRecordings == Recordings ? "only here" : SubjectRecordings == 0 ? "only with the others" : "everyone";
}

public sealed record DiscoveryRow(long Id, string Settings, JobId? JobId, DateTime? MadeAt, string Evidence, string? Result)
{
    public DiscoverySettings SettingsRead => JsonSerializer.Deserialize<DiscoverySettings>(Settings, DiscoveryStore.Json) ?? new();
    public IReadOnlyList<FoundCell> Cells => Result is null ? [] : JsonSerializer.Deserialize<List<FoundCell>>(Result, DiscoveryStore.Json) ?? [];
}

/// <summary>Searches for recurring cells, in the background, and keeps what they found.</summary>
public sealed class DiscoveryStore(NpgsqlDataSource source, WrittenPassages written, JobStore jobs)
{
    public const string Kind = "discovery";
    internal static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);
    private const int MostCells = 200, MostPlaces = 40;

    public async Task<JobId> StartAsync(StudyId study, DiscoverySettings settings, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var id = await connection.ExecuteScalarAsync<long>(new(
            "insert into discovery (study_id, settings) values (@study, @settings::jsonb) returning id", new { study, settings = JsonSerializer.Serialize(settings, Json) }, cancellationToken: stop));
        var job = await jobs.AddAsync(Kind, study, JsonSerializer.Serialize(new { discovery = id }), stop);
        await connection.ExecuteAsync(new("update discovery set job_id = @job where id = @id", new { job, id }, cancellationToken: stop));
        return job;
    }

    /// <summary>The newest search of a study that came to its end.</summary>
    public async Task<DiscoveryRow?> LatestAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QueryFirstOrDefaultAsync<DiscoveryRow>(new(
            "select id, settings::text as settings, job_id, made_at, evidence, result::text as result from discovery where study_id = @study and made_at is not null order by made_at desc, id desc limit 1",
            new { study }, cancellationToken: stop));
    }

    public async Task<IReadOnlySet<string>> DismissedAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<string>(new("select cell from dismissed_cell where study_id = @study", new { study }, cancellationToken: stop))).ToHashSet();
    }

    public async Task DismissAsync(StudyId study, string cell, string words, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("insert into dismissed_cell (study_id, cell, words) values (@study, @cell, @words) on conflict do nothing", new { study, cell, words }, cancellationToken: stop));
    }

    public async Task TakeBackAsync(StudyId study, string cell, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("delete from dismissed_cell where study_id = @study and cell = @cell", new { study, cell }, cancellationToken: stop));
    }

    /// <summary>Runs one claimed job to its end, its cancellation or the loss of its claim.</summary>
    public async Task RunAsync(Job job, Guid worker, CancellationToken stop)
    {
        var id = JsonDocument.Parse(job.Input).RootElement.GetProperty("discovery").GetInt64();
        await using var connection = await source.OpenConnectionAsync(stop);
        var settings = JsonSerializer.Deserialize<DiscoverySettings>(await connection.ExecuteScalarAsync<string>(new("select settings::text from discovery where id = @id", new { id }, cancellationToken: stop)) ?? "{}", Json)!;
        if (!await jobs.BeatAsync(job.Id, worker, 5, "Reading what is written down.", stop)) { await CancelAsync(connection, job, worker, stop); return; }
        var evidence = await written.EvidenceAsync(job.StudyId!.Value, stop);
        // In the order in which cells tell their places: title by title, since takes of one piece count once.
        var all = (await written.OfStudyAsync(job.StudyId.Value, stop)).Where(settings.Takes).ToList();
        var titleOf = all.Select(p => (p.PlayerId, p.Title)).Distinct().Select((t, i) => (t, i)).ToDictionary(x => x.t, x => (long)x.i);
        var passages = all.OrderBy(p => titleOf[(p.PlayerId, p.Title)]).ThenBy(p => p.ReadingId.Value).ToList();
        if (!await jobs.BeatAsync(job.Id, worker, 30, $"Looking for what recurs in {passages.Count} passages.", stop)) { await CancelAsync(connection, job, worker, stop); return; }
        var facets = settings.Facets;
        IReadOnlyList<Source> sources = [.. passages.Select(p => new Source(p.Passage, p.ReadingId.Value, titleOf[(p.PlayerId, p.Title)]))];
        var recurring = Cells.Find(sources, facets, settings.Recordings);
        if (!await jobs.BeatAsync(job.Id, worker, 50, $"Shuffling beats to see what chance would show of {recurring.Count} cells.", stop)) { await CancelAsync(connection, job, worker, stop); return; }
        var cells = CellRanking.Of(sources, facets, recurring, MostCells, stop);
        if (!await jobs.BeatAsync(job.Id, worker, 80, $"Telling {cells.Count} cells.", stop)) { await CancelAsync(connection, job, worker, stop); return; }
        var named = (await connection.QueryAsync<(ReadingId Reading, int Start, int End, string Nickname)>(new(
            """
            select x.reading_id, x.start_tick, x.end_tick, i.nickname from sighting x join idea i on i.id = x.idea_id and i.deleted_at is null
            where i.study_id = @StudyId and not x.vanished and x.judgement is distinct from 'rejected' and (x.verdict <> 'near-miss' or x.judgement = 'confirmed')
            """, new { job.StudyId }, cancellationToken: stop))).ToLookup(n => n.Reading);
        var found = cells.Select(cell => Told(cell, passages, facets, named)).ToList();
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new("update discovery set made_at = now(), evidence = @evidence, result = @result::jsonb where id = @id",
            new { id, evidence, result = JsonSerializer.Serialize(found, Json) }, transaction, cancellationToken: stop));
        if (await JobStore.EndAsync(connection, transaction, job.Id, worker, "done", $"{found.Count} recurring {(found.Count == 1 ? "cell" : "cells")} found in {passages.Count} passages.", stop)) await transaction.CommitAsync(stop);
    }

    private static Task CancelAsync(NpgsqlConnection connection, Job job, Guid worker, CancellationToken stop) =>
        JobStore.EndAsync(connection, null, job.Id, worker, "cancelled", "Stopped; nothing was kept.", stop);

    private static FoundCell Told(RankedCell ranked, IReadOnlyList<WrittenPassage> passages, CellFacets facets, ILookup<ReadingId, (ReadingId Reading, int Start, int End, string Nickname)> named)
    {
        var cell = ranked.Cell;
        int Distinct<T>(Func<WrittenPassage, T> of, bool subject) => cell.Occurrences.Select(o => passages[o.Source]).Where(p => !subject || p.BySubject).Select(of).Distinct().Count();
        var best = cell.Occurrences.OrderBy(o => passages[o.Source].BySubject ? 0 : 1).First();
        var explained = named.SelectMany(n => n).Select(n => n.Nickname).Distinct()
            .Where(nickname => cell.Occurrences.Count(o => named[passages[o.Source].ReadingId].Any(n => n.Nickname == nickname && n.Start <= o.Start.Value && n.End > o.End.Value)) * 2 >= cell.Occurrences.Count);
        var counts = cell.Occurrences.GroupBy(o => Spoken(passages[o.Source].Passage, o.Start)).OrderByDescending(g => g.Count()).Select(g => $"{g.Key} ({g.Count()})").Take(4);
        return new(
            Key(passages[best.Source].Passage, best, facets), Excerpted(passages[best.Source].Passage, best, facets), cell.Moments, cell.Occurrences.Count, Distinct(p => p.RecordingId, false),
            Distinct(p => p.RecordingId, true), cell.Surprise, cell.Interest, [.. counts],
            [.. cell.Occurrences.OrderBy(o => passages[o.Source].BySubject ? 0 : 1).Take(MostPlaces).Select(o => Place(passages[o.Source], o))], [.. explained.Order(StringComparer.Ordinal)])
        { Titles = cell.Recordings, SubjectTitles = Distinct(p => p.Title, true), Expected = ranked.Expected, Folded = ranked.Folded };
    }

    private static FoundPlace Place(WrittenPassage p, Occurrence o)
    {
        var passage = p.Passage;
        var (bar, inBar) = passage.Meters.Locate(o.Start);
        // The span ends with the next sixteenth after its last moment, or with the passage.
        var end = o.End + new Tick(Tick.PerQuarter / 4);
        return new(p.PassageId.Value, p.RecordingName, p.RecordedFrom?.Year, p.Player, p.BySubject,
            $"bar {(p.Bar ?? 1) + bar}, {CountNames.Spoken(inBar, passage.Meters.MeterOf(bar))}", At(passage, o.Start), end >= passage.Length ? "end" : At(passage, end));
    }

    private static string At(Passage passage, Tick at)
    {
        var (bar, inBar) = passage.Meters.Locate(at);
        var meter = passage.Meters.MeterOf(bar);
        return CountNames.Place(inBar, meter) is { } place ? $"{bar + 1}.{place}" : $"{bar + 1}.{inBar.Value / meter.Beat.Value + 1}";
    }

    private static string Spoken(Passage passage, Tick at)
    {
        var (bar, inBar) = passage.Meters.Locate(at);
        return CountNames.Spoken(inBar, passage.Meters.MeterOf(bar));
    }

    private static IEnumerable<Stroke> StrokesOf(Passage passage, Occurrence o, CellFacets facets) =>
        passage.Strokes.Concat(passage.Looped ? passage.Strokes.Select(s => s with { At = s.At + passage.Length }) : []).Where(s => s.At >= o.Start && s.At <= o.End && facets.Families.Contains(s.Voice.Family));

    private static string Excerpted(Passage passage, Occurrence o, CellFacets facets)
    {
        // A cell over the join stands in one row: its bars, then those of the next time round.
        var bars = passage.Looped ? passage.Bars * 2 : passage.Bars;
        var strokes = Passage.InOrder(StrokesOf(passage, o, facets));
        return CountWriter.Write(Excerpt.Cut(passage with { Bars = bars, Strokes = strokes, Looped = false, Unheard = [] }, o.Start, o.End + new Tick(1)));
    }

    private static string Key(Passage passage, Occurrence o, CellFacets facets)
    {
        var strokes = StrokesOf(passage, o, facets).ToList();
        var unit = facets.Proportional ? Math.Max(1, strokes.Select(s => (s.At - o.Start).Value).Where(t => t > 0).DefaultIfEmpty(1).Aggregate(Common)) : 1;
        return $"{facets.Voicing} {(facets.Proportional ? "ratio" : "ticks")}: " + string.Join(' ', strokes.Select(s => $"{(s.At - o.Start).Value / unit}{facets.Voicing switch { VoicingRule.Drum => s.Voice.Code, VoicingRule.Family => s.Voice.Family.ToString(), VoicingRule.HandOrFoot => s.Voice.IsFoot ? "f" : "h", _ => "" }}"));
    }

    private static int Common(int a, int b) => b == 0 ? a : Common(b, a % b);
}
