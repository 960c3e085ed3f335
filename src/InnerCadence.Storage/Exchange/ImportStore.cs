using System.Text.Json;
using CsvHelper;
using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using Npgsql;

namespace InnerCadence.Storage.Exchange;

/// <summary>A file of recordings on its way into a study.</summary>
public sealed record ImportFile
{
    public ImportId Id { get; init; }
    public StudyId StudyId { get; init; }
    public string Name { get; init; } = "";
    public byte[] Content { get; init; } = [];
    public string Columns { get; init; } = "{}";
    /// <summary>What becomes of a recording that the study has already: merge, skip or keep.</summary>
    public string Duplicates { get; init; } = "merge";
    /// <summary>Amounts of searched bars without a place: asked for later, or the first so many bars.</summary>
    public string Places { get; init; } = "asked";
    /// <summary>In dates such as 3/4/1972: day or month first, where somebody was asked.</summary>
    public string DayMonth { get; init; } = "";
    public string Kinds { get; init; } = "{}";
    public string Mended { get; init; } = "{}";
    public JobId? JobId { get; init; }
    public string? BadRows { get; init; }

    public Dictionary<string, int> ColumnOf => JsonSerializer.Deserialize<Dictionary<string, int>>(Columns)!;

    public ImportReading ReadingOf(CsvTable table) => new(ColumnOf, OrderIn(table), Said(Kinds), Said(Mended));

    /// <summary>What the dates of the file show, else what somebody said.</summary>
    private DayMonth OrderIn(CsvTable table) =>
        ImportColumns.OrderOf(table, ColumnOf) is var shown and not Core.Music.DayMonth.Unsaid ? shown
        : DayMonth switch
        {
            "day" => Core.Music.DayMonth.DayFirst,
            "month" => Core.Music.DayMonth.MonthFirst,
            _ => Core.Music.DayMonth.Unsaid,
        };

    private static Dictionary<string, string> Said(string json) => JsonSerializer.Deserialize<Dictionary<string, string>>(json)!;

    public static readonly IReadOnlyList<string> DuplicateWords = ["merge", "skip", "keep"];
}

/// <summary>What somebody chose for a file, in the words of its columns in <see cref="ImportFile"/>.</summary>
/// <param name="Columns">Field to column, from 0.</param>
public sealed record ImportChoices(IReadOnlyDictionary<string, int> Columns, string Duplicates = "merge", string Places = "asked",
    string DayMonth = "")
{
    public IReadOnlyDictionary<string, string> Kinds { get; init; } = new Dictionary<string, string>();
    public IReadOnlyDictionary<string, string> Mended { get; init; } = new Dictionary<string, string>();
}

/// <param name="Field">Nothing for what is no column of a file.</param>
/// <param name="Words">What stands there.</param>
public sealed record UnreadCell(ImportField? Field, string Words, string Why);

/// <summary>One row of a file read as a recording, or why it cannot be.</summary>
/// <param name="Unread">Its cells that cannot be read: why it cannot be, or what stays empty, with its words in the note.</param>
public sealed record ImportRow(CsvTableRow Source, RecordingDraft? Draft, CoverageDraft? Searched, IReadOnlyList<UnreadCell> Unread)
{
    public IReadOnlyList<string> Problems => [.. Unread.Select(c => c.Why)];

    /// <summary>It comes in, but not all of its cells.</summary>
    public bool IsDoubtful => Draft is not null && Unread.Count > 0;

    /// <summary>Two rows with one key are the same recording: title, ensemble, date and take.</summary>
    public static string Key(string title, string ensemble, DateOnly? recordedFrom, DateOnly? recordedTo, string take) =>
        string.Create(System.Globalization.CultureInfo.InvariantCulture,
            $"{title.ToLowerInvariant()}\n{ensemble.ToLowerInvariant()}\n{recordedFrom:yyyyMMdd}\n{recordedTo:yyyyMMdd}\n{take.ToLowerInvariant()}");

    public string? DraftKey => Draft is null ? null : Key(Draft.Title, Draft.Ensemble, Draft.Recorded?.Earliest, Draft.Recorded?.Latest,
        Draft.Take);

    /// <summary>A cell that cannot be read stays empty and its words go into the note: only a row without a piece or a player of the study
    /// is no recording.</summary>
    public static ImportRow Read(CsvTableRow row, ImportReading reading, Study study)
    {
        var text = reading.TextOf(row);
        var today = DateOnly.FromDateTime(DateTime.Now);
        var told = Told(text, study, today);
        var unread = told.Select(Unread).ToList();
        var left = told.Select(t => text.Leave(t.Field)).ToList();
        if (left.Count > 0 && left.TrueForAll(l => l is not null))
        {
            var words = left.Select(l => l!.Value).Distinct().Where(l => l.Words.Length > 0).Select(l => $"{l.Name}: {l.Words}");
            text.Note = string.Join("; ", new[] { text.Note ?? "" }.Concat(words).Where(part => part.Length > 0));
            // What is left may still be wrong, such as a note that is too long by now.
            told = Told(text, study, today);
            unread.AddRange(told.Select(Unread));
        }
        return told.Count > 0 ? new(row, null, null, unread)
            : new(row, text.Read(study, (_, _) => { }), text.ReadSearched(today, (_, _) => { }), unread);

        UnreadCell Unread((string Field, string Message) one)
        {
            var field = ImportColumns.Fields.FirstOrDefault(f => f.Property == one.Field);
            var stands = field is null ? "" : reading.Mended.GetValueOrDefault(ImportReading.CellOf(row.Line, field.Word))
                ?? reading.CellIn(row, field.Word);
            return new(field, stands, one.Message);
        }
    }

    private static List<(string Field, string Message)> Told(RecordingText text, Study study, DateOnly today)
    {
        var told = new List<(string, string)>();
        text.Read(study, (field, message) => told.Add((field, message)));
        text.ReadSearched(today, (field, message) => told.Add((field, message)));
        return told;
    }
}

/// <summary>Files of recordings: kept until they are imported, with how their columns were read.</summary>
public sealed class ImportStore(NpgsqlDataSource source, StudyStore studies)
{
    /// <summary>Keeps a file; its columns are read as the last time a file had the same head, or guessed; words for kinds as they were last
    /// said to be.</summary>
    public async Task<ImportId> AddAsync(StudyId study, string name, byte[] content, CsvTable table, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        var known = await connection.ExecuteScalarAsync<string?>(new(
            "select columns::text from import_columns where study_id = @study and head = @head", new { study, head = Head(table) },
                cancellationToken: stop));
        var guessed = await studies.FindAsync(study, stop) is { } found ? ImportColumns.Guess(table, found)
            : ImportColumns.Guess(table.Head);
        return new(await connection.ExecuteScalarAsync<long>(new(
            """
            insert into import_file (study_id, name, content, columns, kinds) values (@study, @name, @content, @columns::jsonb,
              coalesce((select kinds from import_file where study_id = @study order by id desc limit 1), '{}')) returning id
            """, new { study, name, content, columns = known ?? JsonSerializer.Serialize(guessed) },
                cancellationToken: stop)));
    }

    public async Task<ImportFile?> FindAsync(ImportId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<ImportFile>(new(
            "select id, study_id, name, content, columns::text as columns, duplicates, places, day_month, kinds::text as kinds, "
                + "mended::text as mended, job_id, bad_rows from import_file where id = @id", new { id }, cancellationToken: stop));
    }

    /// <summary>Keeps how the columns are read, for this file and for the next with the same head.</summary>
    public async Task MapAsync(ImportFile file, CsvTable table, ImportChoices chosen, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            update import_file set columns = @columns::jsonb, duplicates = @Duplicates, places = @Places, day_month = @DayMonth,
              kinds = @kinds::jsonb, mended = @mended::jsonb where id = @Id;
            insert into import_columns (study_id, head, columns) values (@StudyId, @head, @columns::jsonb)
            on conflict (study_id, head) do update set columns = excluded.columns
            """, new
            {
                file.Id,
                file.StudyId,
                chosen.Duplicates,
                chosen.Places,
                chosen.DayMonth,
                head = Head(table),
                columns = JsonSerializer.Serialize(chosen.Columns),
                kinds = JsonSerializer.Serialize(chosen.Kinds),
                mended = JsonSerializer.Serialize(chosen.Mended),
            }, transaction, cancellationToken: stop));
        await transaction.CommitAsync(stop);
    }

    /// <summary>Hands a file to the job table, once.</summary>
    public async Task<JobId> BeginAsync(ImportFile file, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return new(await connection.ExecuteScalarAsync<long>(new(
            """
            with j as (insert into job (kind, study_id, input) select 'import', @StudyId, jsonb_build_object('import', id) from import_file
              where id = @Id and job_id is null returning id),
                 u as (update import_file set job_id = (select id from j) where id = @Id and job_id is null)
            select coalesce((select id from j), (select job_id from import_file where id = @Id))
            """, new { file.Id, file.StudyId }, cancellationToken: stop)));
    }

    /// <summary>Keys of the recordings that a study has.</summary>
    public static async Task<Dictionary<string, RecordingId>> KeysAsync(NpgsqlConnection connection, NpgsqlTransaction? transaction,
        StudyId study, CancellationToken stop)
    {
        var keys = new Dictionary<string, RecordingId>();
        foreach (var r in await connection.QueryAsync<Recording>(new(
            """
            select r.id, r.title, coalesce(e.name, '') as ensemble, r.recorded_from, r.recorded_to, r.take
            from recording r left join ensemble e on e.id = r.ensemble_id where r.study_id = @study and r.deleted_at is null order by r.id
            """, new { study }, transaction, cancellationToken: stop)))
            keys.TryAdd(ImportRow.Key(r.Title, r.Ensemble, r.RecordedFrom, r.RecordedTo, r.Take), r.Id);
        return keys;
    }

    public async Task<Dictionary<string, RecordingId>> KeysAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await KeysAsync(connection, null, study, stop);
    }

    private static string Head(CsvTable table) => string.Join('\n', table.Head);

    /// <summary>The rows that cannot be read, as a file of the same columns with the reason in the last.</summary>
    internal static string WriteBad(CsvTable table, IEnumerable<ImportRow> bad)
    {
        using var text = new StringWriter();
        using (var csv = CsvWriter.Create(text, CsvWriterOptions.Default, leaveOpen: true))
        {
            foreach (var head in table.Head.Append("line").Append("reason")) csv.WriteField(head);
            csv.EndRecord();
            foreach (var row in bad)
            {
                for (var i = 0; i < table.Head.Count; i++) csv.WriteField(i < row.Source.Cells.Count ? row.Source.Cells[i] : "");
                csv.WriteField(row.Source.Line.ToString(System.Globalization.CultureInfo.InvariantCulture));
                csv.WriteField(string.Join(' ', row.Problems));
                csv.EndRecord();
            }
        }
        return text.ToString();
    }
}
