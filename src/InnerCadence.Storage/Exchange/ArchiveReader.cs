using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Dapper;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Schema;
using Npgsql;

namespace InnerCadence.Storage.Exchange;

/// <summary>What an archive does to one table.</summary>
/// <param name="Added">Rows that are new.</param>
/// <param name="Here">Rows that are there already, and alike.</param>
/// <param name="Filled">Rows that are there already and get what is empty in them.</param>
/// <param name="Differing">Rows that are there already and say something else: they stay as they are here. Another text of a passage is
/// added beside it as a competing reading.</param>
/// <param name="Names">What the first of the differing rows are called.</param>
public sealed record ArchiveCount(string Table, int Added, int Here, int Filled, int Differing, IReadOnlyList<string> Names);

/// <summary>What an archive brings, or would bring.</summary>
/// <param name="Subject">The player whom it researches.</param>
public sealed record ArchiveReport(StudyId Study, string Name, string Subject, IReadOnlyList<ArchiveCount> Tables);

/// <summary>
/// Puts the rows of an archive into a study, parents first, with numbers of its own. Merging, a row is known again by its origin, by what
/// names it, by what is unique in its table, or by all that
/// it says; what is here is never overwritten, only what is empty is filled.
/// </summary>
internal sealed partial class ArchiveReader(NpgsqlConnection connection, NpgsqlTransaction transaction, ArchiveFile file,
    IReadOnlyList<ArchiveTable> tables, StudyId? into, CancellationToken stop)
{
    private const int MostInOne = 1000, MostNames = 5;

    /// <summary>Not what a row says.</summary>
    private static readonly string[] Aside = ["id", "origin", "version", "created_at", "updated_at"];

    /// <summary>Tables where what is empty here is taken from the archive.</summary>
    private static readonly string[] Fillable = ["player", "ensemble", "release", "recording", "passage", "idea", "sighting"];

    /// <summary>Columns that say something by being empty: every voice, the whole figure.</summary>
    private static readonly string[] NeverFilled = ["scope", "span_ticks", "deleted_at"];

    /// <summary>Rows that only mean something together: where their parent has such rows, or is here already, the set here stays.</summary>
    private static readonly (string Table, string Parent, bool EvenEmpty)[] Sets = [("section", "recording_id", false),
        ("bar_mark", "recording_id", false), ("coverage_idea", "coverage_id", true), ("session_idea", "session_id", true),
        ("stroke_offset", "reading_id", true), ("measured", "reading_id", true)];

    private readonly Dictionary<(string Table, long Id), long> renumbered = [];
    private readonly HashSet<(string Table, long Id)> added = [];
    private readonly Dictionary<string, long[]> ids = [];
    private Dictionary<long, string> textOfPassage = [];
    private bool articleCame;

    public async Task<ArchiveReport> ReadAsync()
    {
        var counts = new List<ArchiveCount>();
        var name = "";
        // Moments are written alike on both sides, whatever the server's own zone.
        await connection.ExecuteAsync(new("set local timezone to 'UTC'", transaction: transaction, cancellationToken: stop));
        var rewritten = BringTextsOver();
        textOfPassage = file.Rows("reading").Where(r => r["preferred"]?.GetValue<bool>() == true)
            .GroupBy(r => ArchiveFile.Number(r, "passage_id")).ToDictionary(g => g.Key, g => ArchiveFile.Word(g.First(), "text"));
        var subject = file.Rows("player").Where(r => ArchiveFile.Word(r, "role") == "subject").Select(r => ArchiveFile.Word(r, "name"))
            .FirstOrDefault() ?? "";
        if (into is { } target)
        {
            await CheckSubjectAsync(target, subject);
            ids["study"] = [target.Value];
        }
        foreach (var table in tables)
        {
            var rows = file.Rows(table.Name);
            if (table.Name == "study")
            {
                if (rows.Count != 1) throw new InvalidDataException(rows.Count == 0 ? "it holds no study" : "it holds more than one study");
                name = ArchiveFile.Word(rows[0], "name");
                if (into is { } study)
                {
                    renumbered[("study", IdOf(rows[0]))] = study.Value;
                    continue;
                }
                rows[0]["name"] = name = await FreeNameAsync(name);
            }
            counts.Add(await TableAsync(table, rows));
        }
        var made = into ?? new(renumbered.Where(r => r.Key.Table == "study").Select(r => r.Value).Single());
        await CheckLineageAsync(made);
        await CheckReadableAsync(made);
        await RewriteAsync(made);
        foreach (var change in rewritten) await RecountStore.TellAsync(connection, transaction, made, change, stop);
        return new(made, name, subject, [.. counts.Where(c => c.Added + c.Here + c.Filled + c.Differing > 0)]);
    }

    /// <summary>Texts of an archive that was written before count lines learned levels, echoes and names: what would be read otherwise is
    /// rewritten.</summary>
    private List<Recounted> BringTextsOver()
    {
        var changes = new List<Recounted>();
        if (file.Schema >= OldTextsStep.Number) return changes;
        foreach (var row in OldTextsStep.Tables.SelectMany(file.Rows))
        {
            var was = ArchiveFile.Word(row, "text");
            if (OldTexts.BroughtOver(was) is not { } now) continue;
            row["text"] = now;
            changes.Add(new($"{(Called(row) is { Length: > 0 } called ? called : "A passage")}: the text, so that its strokes stay "
                + $"(archive {file.Name}, {changes.Count + 1})", "", was, now));
        }
        return changes;
    }

    private async Task<ArchiveCount> TableAsync(ArchiveTable table, IReadOnlyList<JsonObject> rows)
    {
        var here = into is null ? null : await HereAsync(table);
        var (fresh, filled, alike, differing, names) = (new List<(long? Was, JsonObject Row)>(), new List<JsonObject>(), 0, 0,
            new List<string>());
        var seen = new HashSet<long>();
        foreach (var row in rows)
        {
            var was = table.HasId ? IdOf(row) : (long?)null;
            if (was is { } number && !seen.Add(number)) throw new InvalidDataException(
                $"two rows of {table.Name} have the number {number}");
            var passageText = table.Name == "passage" && was is { } passage ? textOfPassage.GetValueOrDefault(passage, "") : "";
            Renumber(table, row);
            if (here?.KeepsSet(row) == true)
            {
                alike++;
                continue;
            }
            if (here?.Find(row, passageText) is not { } known)
            {
                if (here is not null && table.Name == "reading"
                    && !added.Contains(("passage", ArchiveFile.Number(row, "passage_id")))) row["preferred"] = false;
                fresh.Add((was, row));
                continue;
            }
            if (was is { } old) renumbered[(table.Name, old)] = IdOf(known);
            if (Fillable.Contains(table.Name) && Fill(table, known, row) is { } fill) filled.Add(fill);
            else if (here.Says(row) == here.Says(known)) alike++;
            else
            {
                differing++;
                if (names.Count < MostNames && Called(known) is { Length: > 0 } called) names.Add(called);
            }
        }
        await InsertAsync(table, fresh);
        if (table.Name == "article") articleCame = fresh.Count > 0;
        foreach (var group in filled.GroupBy(f => string.Join(", ", f.Select(c => c.Key).Where(c => c != "id"))))
            await connection.ExecuteAsync(
                new($"update {table.Name} t set {string.Join(", ", group.Key.Split(", ").Select(c => $"{c} = n.{c}"))} from "
                + $"jsonb_populate_recordset(null::{table.Name}, @rows::jsonb) n where t.id = n.id",
                new { rows = new JsonArray([.. group]).ToJsonString() }, transaction, cancellationToken: stop));
        return new(table.Name, fresh.Count, alike, filled.Count, differing, names);
    }

    /// <summary>What is known of one player is not mixed into what is known of another.</summary>
    private async Task CheckSubjectAsync(StudyId study, string subject)
    {
        var here = await connection.ExecuteScalarAsync<string?>(new("select name from player where study_id = @study and role = 'subject'",
            new { study }, transaction, cancellationToken: stop));
        if (!string.Equals(here, subject, StringComparison.OrdinalIgnoreCase)) throw new NoArchiveException(
            $"This archive is about {(subject.Length > 0 ? subject : "nobody")}, the study here about {here}: bring it in as a study of "
            + $"its own.");
    }

    private void Renumber(ArchiveTable table, JsonObject row)
    {
        foreach (var key in table.Keys)
            if (row[key.Column] is { } old) row[key.Column] = renumbered.TryGetValue((key.Parent, old.GetValue<long>()), out var now) ? now
                : null;
        // What was left out of the archive is not pointed to.
        foreach (var column in table.Cut) row[column] = null;
        foreach (var column in table.Fresh) row[column] = Guid.NewGuid().ToString();
    }

    private async Task<RowsHere> HereAsync(ArchiveTable table)
    {
        var rows = (await connection.QueryAsync<string>(new($"select row_to_json(t)::text from {table.Name} t where {table.Belongs}",
            table.Parameters(ids), transaction, cancellationToken: stop))).Select(r => JsonNode.Parse(r)!.AsObject()).ToList();
        if (table.HasId) ids[table.Name] = [.. rows.Select(IdOf)];
        var texts = table.Name != "passage" ? [] : (await connection.QueryAsync<(long,
            string)>(new("select passage_id, text from reading where preferred and passage_id = any(@passage)",
            new { passage = ids["passage"] }, transaction, cancellationToken: stop))).ToDictionary();
        return new(table, rows, texts, added);
    }

    /// <summary>The rows of one table that the study has already.</summary>
    private sealed class RowsHere
    {
        private readonly ArchiveTable table;
        private readonly (string Parent, bool EvenEmpty)? set;
        private readonly HashSet<(string Table, long Id)> added;
        private readonly HashSet<long> withSet = [];
        private readonly Dictionary<string, JsonObject> byOrigin = [], byUnique = [];
        private readonly Dictionary<string, Queue<JsonObject>> byName = [], bySaying = [];

        public RowsHere(ArchiveTable table, IReadOnlyList<JsonObject> rows, Dictionary<long, string> texts,
            HashSet<(string Table, long Id)> added)
        {
            (this.table, this.added) = (table, added);
            set = Sets.Where(s => s.Table == table.Name).Select(s => ((string, bool)?)(s.Parent, s.EvenEmpty)).FirstOrDefault();
            foreach (var row in rows)
            {
                if (set is { } of) withSet.Add(ArchiveFile.Number(row, of.Parent));
                if (row["origin"] is { } origin) byOrigin.TryAdd(origin.GetValue<string>(), row);
                if (NameOf(row, texts.GetValueOrDefault(table.HasId ? IdOf(row) : 0, "")) is { } name) Add(byName, name, row);
                foreach (var unique in UniqueOf(row)) byUnique.TryAdd(unique, row);
                Add(bySaying, Says(row), row);
            }
        }

        private static void Add(Dictionary<string, Queue<JsonObject>> by, string key, JsonObject row)
        {
            if (!by.TryGetValue(key, out var alike)) by[key] = alike = new();
            alike.Enqueue(row);
        }

        /// <summary>Each row here stands for one that comes: of two alike the second finds the second.</summary>
        private static JsonObject? Take(Dictionary<string, Queue<JsonObject>> by, string key) =>
            by.TryGetValue(key, out var alike) && alike.TryDequeue(out var one) ? one : null;

        public bool KeepsSet(JsonObject row)
        {
            if (set is not { } of || row[of.Parent] is not { } parent) return false;
            var number = parent.GetValue<long>();
            return of.EvenEmpty ? !added.Contains((of.Parent[..^3], number)) : withSet.Contains(number);
        }

        public JsonObject? Find(JsonObject row, string passageText)
        {
            var byIts = row["origin"] is { } origin ? byOrigin.GetValueOrDefault(origin.GetValue<string>()) : null;
            // Another text of the same reading is a competing one, unless that one is here already.
            if (table.Name == "reading" && byIts is not null && ArchiveFile.Word(byIts, "text") != ArchiveFile.Word(row, "text"))
            {
                byIts = null;
                row["origin"] = Guid.NewGuid().ToString();
            }
            if (byIts is not null) return byIts;
            if (NameOf(row, passageText) is { } name && Take(byName, name) is { } named) return named;
            foreach (var unique in UniqueOf(row))
                if (byUnique.TryGetValue(unique, out var same)) return same;
            return table.Name == "passage" ? null : Take(bySaying, Says(row));
        }

        /// <summary>What a person would know it by; nothing where that is only the whole row.</summary>
        private string? NameOf(JsonObject row, string passageText) => row["deleted_at"] is not null ? null : table.Name switch
        {
            "recording" => Told(row, "title", "take", "ensemble_id", "recorded_from", "recorded_to"),
            "idea" => ArchiveFile.Word(row, "nickname").ToLowerInvariant(),
            "reading" => Told(row, "passage_id", "text"),
            "passage" when passageText.Length > 0 => Told(row, "recording_id", "starts_at_ms", "bar") + passageText,
            _ => null,
        };

        private IEnumerable<string> UniqueOf(JsonObject row) => table.Unique.Where(u => u.All(c => row[c] is not null))
            .Select(u => string.Join(' ', u) + Told(row, [.. u]));

        public string Says(JsonObject row) => Told(row,
            [.. table.Columns.Select(c => c.Name).Where(c => !Aside.Contains(c) && !table.Fresh.Contains(c))]);

        private static string Told(JsonObject row, params string[] columns) =>
            string.Join('\n', columns.Select(c => row[c]?.ToJsonString() ?? "null"));
    }

    /// <summary>What is empty here and not there; nothing where there is no such column.</summary>
    private static JsonObject? Fill(ArchiveTable table, JsonObject here, JsonObject row)
    {
        var fill = new JsonObject();
        foreach (var column in table.Columns.Select(c => c.Name).Where(c => !NeverFilled.Contains(c) && !Aside.Contains(c)))
            if (IsEmpty(here[column]) && !IsEmpty(row[column])) fill[column] = row[column]!.DeepClone();
        if (fill.Count == 0) return null;
        fill["id"] = IdOf(here);
        return fill;

        static bool IsEmpty(JsonNode? value) => value is null or JsonArray { Count: 0 } || value is JsonValue v
            && v.TryGetValue<string>(out var text) && text.Length == 0;
    }

    private static string Called(JsonObject row) =>
        new[] { "nickname", "title", "name", "sentence", "label", "key" }.Select(c => ArchiveFile.Word(row, c))
        .FirstOrDefault(w => w.Length > 0) ?? "";

    /// <summary>Names of columns come from the schema, never from the file; what an older archive does not have gets its default.</summary>
    private async Task InsertAsync(ArchiveTable table, List<(long? Was, JsonObject Row)> fresh)
    {
        if (fresh.Count == 0) return;
        if (table.HasId)
        {
            var numbers = (await connection.QueryAsync<long>(
                new($"select nextval(pg_get_serial_sequence('{table.Name}', 'id')) from generate_series(1, @Count)", new { fresh.Count },
                transaction, cancellationToken: stop))).AsList();
            for (var i = 0; i < fresh.Count; i++)
            {
                fresh[i].Row["id"] = numbers[i];
                renumbered[(table.Name, fresh[i].Was!.Value)] = numbers[i];
                added.Add((table.Name, numbers[i]));
            }
        }
        foreach (var alike in fresh.Select(f => f.Row).GroupBy(row =>
            string.Join(", ", table.Columns.Select(c => c.Name).Where(row.ContainsKey))))
            foreach (var some in alike.Chunk(MostInOne))
                await connection.ExecuteAsync(
                    new($"insert into {table.Name} ({alike.Key}) {(table.HasId ? "overriding system value " : "")}select {alike.Key} "
                    + $"from jsonb_populate_recordset(null::{table.Name}, @rows::jsonb)",
                    new { rows = new JsonArray([.. some]).ToJsonString() }, transaction, cancellationToken: stop));
    }

    /// <summary>Ideas that descend from each other in a circle have no first one.</summary>
    private async Task CheckLineageAsync(StudyId study)
    {
        var circle = await connection.ExecuteScalarAsync<string?>(new(
            """
            with recursive down as (
              select l.idea_id as start, l.of_id as at, array[l.idea_id] as path from idea_link l join idea i on i.id = l.idea_id
                where i.study_id = @study
              union all
              select d.start, l.of_id, d.path || l.idea_id from down d join idea_link l on l.idea_id = d.at where d.at <> all(d.path))
            select i.nickname from down d join idea i on i.id = d.start where d.at = d.start limit 1
            """, new { study }, transaction, cancellationToken: stop));
        if (circle is not null) throw new InvalidDataException($"the idea {circle} would descend from itself");
    }

    /// <summary>What no page could show does not come in.</summary>
    private async Task CheckReadableAsync(StudyId study)
    {
        if (await ClaimStore.UnreadableAsync(connection, transaction, study, stop) is { } sentence) throw new InvalidDataException(
            $"the claim “{Short(sentence)}” does not say what its test needs");
        var ideas = await connection.QueryAsync<(string Nickname,
            string Text)>(new("select nickname, text from idea where study_id = @study", new { study }, transaction,
            cancellationToken: stop));
        if (ideas.FirstOrDefault(i => Core.Counting.Reading.CountLines.Parse(i.Text).Passage.Strokes.IsEmpty).Nickname is
            {
            } empty) throw new InvalidDataException($"the idea {Short(empty)} has no stroke");
    }

    private static string Short(string words) => words.Length > 50 ? words[..50] + "…" : words;

    /// <summary>Numbers that stand inside texts: references of the article, players and recordings of saved filters, places of what
    /// recurs.</summary>
    private async Task RewriteAsync(StudyId study)
    {
        if (articleCame)
            foreach (var (text, numbers) in await connection.QueryAsync<(string,
                string)>(new("select text, numbers::text from article where study_id = @study", new { study }, transaction,
                cancellationToken: stop)))
                await connection.ExecuteAsync(new("update article set text = @text, numbers = @numbers::jsonb where study_id = @study",
                    new { study, text = Article(text), numbers = Article(numbers) }, transaction, cancellationToken: stop));
        foreach (var (id, query) in await connection.QueryAsync<(long,
            string)>(new("select id, query from saved_filter where study_id = @study and id = any(@added)",
            new { study, added = Added("saved_filter") }, transaction, cancellationToken: stop)))
            await connection.ExecuteAsync(new("update saved_filter set query = @now where id = @id", new
            {
                id,
                now = Numbered().Replace(query, m => m.Groups["what"].Value
                    + New(m.Groups["what"].Value.Contains("player", StringComparison.Ordinal) ? "player"
                    : m.Groups["what"].Value == "recording=" ? "recording" : "idea", m.Groups["id"].Value)),
            }, transaction, cancellationToken: stop));
        foreach (var (id, result) in await connection.QueryAsync<(long,
            string)>(new("select id, result::text from discovery where study_id = @study and result is not null and id = any(@added)",
            new { study, added = Added("discovery") }, transaction, cancellationToken: stop)))
            await connection.ExecuteAsync(new("update discovery set result = @now::jsonb where id = @id",
                new { id, now = PassageNumbers().Replace(result, m => m.Groups["what"].Value + New("passage", m.Groups["id"].Value)) },
                transaction, cancellationToken: stop));
    }

    private long[] Added(string table) => [.. added.Where(a => a.Table == table).Select(a => a.Id)];

    private string New(string table, string id) => long.TryParse(id, out var old) && renumbered.TryGetValue((table, old), out var now)
        ? $"{now}" : id;

    private string Article(string text) => References()
        .Replace(text, m => m.Groups["claim"].Success ? $"claim:{New("claim", m.Groups["claim"].Value)}"
        : m.Groups["passage"].Success ? $"example:passage {New("passage", m.Groups["passage"].Value)}"
        : $"source:{New("recording", m.Groups["recording"].Value)}{m.Groups["at"].Value}"
            + $"{(m.Groups["issue"].Success ? "/" + New("issue", m.Groups["issue"].Value) : "")}");

    [GeneratedRegex(
        @"claim\s*:\s*(?<claim>\d{1,18})|example\s*:\s*passage (?<passage>\d{1,18})|source\s*:\s*(?<recording>\d{1,18})(?<at>(?:\s*@\s*[0-9:.]+)?)(?:\s*/\s*(?<issue>\d{1,18}))?")]
    private static partial Regex References();

    [GeneratedRegex(@"(?<what>\bplayer=|\bplayer-|\brecording=|\bidea=)(?<id>\d{1,18})")]
    private static partial Regex Numbered();

    [GeneratedRegex("(?<what>\"Passage\"\\s*:\\s*)(?<id>\\d{1,18})", RegexOptions.IgnoreCase)]
    private static partial Regex PassageNumbers();

    private static long IdOf(JsonObject row) => ArchiveFile.Number(row, "id");

    private async Task<string> FreeNameAsync(string name)
    {
        var taken = (await connection.QueryAsync<string>(new("select name from study where deleted_at is null", transaction: transaction,
            cancellationToken: stop))).ToHashSet();
        if (!taken.Contains(name)) return name;
        for (var n = 2; ; n++)
            if (!taken.Contains($"{name} ({n})")) return $"{name} ({n})";
    }
}
