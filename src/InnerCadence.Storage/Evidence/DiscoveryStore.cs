using System.Text.Json;
using Dapper;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Evidence;
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
    public RecordingKind? RecordingKind { get; init; }
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

    public bool Takes(WrittenPassage p) => (Player is null || p.PlayerId == Player)
        && (RecordingKind is not { } kind || p.RecordingKind == kind)
        && (Section.Length == 0 || p.Section.Contains(Section, StringComparison.OrdinalIgnoreCase))
            && (Kind.Length == 0 || p.Kind.Word == Kind)
        && (Meter.Length == 0 || p.Passage.Meters.ToString() == Meter);
}

/// <summary>One place of a found cell.</summary>
/// <param name="From">Bar, point, count, as a span is cut out of a passage; likewise To.</param>
public sealed record FoundPlace(long Passage, string Recording, int? Year, string Player, bool BySubject, string Where, string From,
    string To);

/// <summary>A recurring cell as it is kept and shown.</summary>
/// <param name="Key">The same for the same cell under the same facets, whenever it is found.</param>
/// <param name="Text">Its first place by the subject if there is one, as count lines.</param>
/// <param name="Explained">Nicknames of ideas that stand at half of its places or more.</param>
public sealed record FoundCell(
    string Key, string Text, int Moments, int Occurrences, int Recordings, int SubjectRecordings, double Surprise, double Interest,
        IReadOnlyList<string> Counts, IReadOnlyList<FoundPlace> Places, IReadOnlyList<string> Explained)
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
    public IReadOnlyList<FoundCell> Cells => Result is null ? [] : JsonSerializer.Deserialize<List<FoundCell>>(Result, DiscoveryStore.Json)
        ?? [];
}

/// <summary>Searches for recurring cells, in the background, and keeps what they found.</summary>
public sealed class DiscoveryStore(NpgsqlDataSource source, JobStore jobs)
{
    public const string Kind = "discovery";
    internal static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public async Task<JobId> StartAsync(StudyId study, DiscoverySettings settings, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var id = await connection.ExecuteScalarAsync<long>(new(
            "insert into discovery (study_id, settings) values (@study, @settings::jsonb) returning id",
                new { study, settings = JsonSerializer.Serialize(settings, Json) }, cancellationToken: stop));
        var job = await jobs.AddAsync(Kind, study, JsonSerializer.Serialize(new { discovery = id }), stop);
        await connection.ExecuteAsync(new("update discovery set job_id = @job where id = @id", new { job, id }, cancellationToken: stop));
        return job;
    }

    /// <summary>The newest search of a study that came to its end.</summary>
    public async Task<DiscoveryRow?> LatestAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QueryFirstOrDefaultAsync<DiscoveryRow>(new(
            "select id, settings::text as settings, job_id, made_at, evidence, result::text as result from discovery where study_id = "
                + "@study and made_at is not null order by made_at desc, id desc limit 1",
            new { study }, cancellationToken: stop));
    }

    public async Task<IReadOnlySet<string>> DismissedAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<string>(new("select cell from dismissed_cell where study_id = @study", new { study },
            cancellationToken: stop))).ToHashSet();
    }

    public async Task DismissAsync(StudyId study, string cell, string words, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(
            new("insert into dismissed_cell (study_id, cell, words) values (@study, @cell, @words) on conflict do nothing",
            new { study, cell, words }, cancellationToken: stop));
    }

    public async Task TakeBackAsync(StudyId study, string cell, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new("delete from dismissed_cell where study_id = @study and cell = @cell", new { study, cell },
            cancellationToken: stop));
    }
}
