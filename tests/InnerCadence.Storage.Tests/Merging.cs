using System.IO.Compression;
using System.Text.Json;
using System.Text.Json.Nodes;
using CsCheck;
using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using Json.Schema;

namespace InnerCadence.Storage.Tests;

/// <summary>An archive put into a study that is here: what is known is known again, what is new comes, and nothing that is here is
/// overwritten.</summary>
public class Merging : StorageTests
{
    private const string Groove = "HH: 8ths\nSN: 2 4\nBD: 1 3", Other = "HH: 8ths\nSN: 2 (3e) 4\nBD: 1 3&";

    private StudyArchive Archive => new(Source);

    private async Task<byte[]> ArchiveAsync(StudyId study) => (await Archive.WriteAsync(study, Stop)).ShouldNotBeNull();

    private async Task<ArchiveReport> MergeAsync(byte[] zip, StudyId into)
    {
        var (report, problem) = await Archive.ReadAsync(new MemoryStream(zip), into, Stop);
        problem.ShouldBeNull();
        return report!;
    }

    private async Task<StudyId> CopyAsync() => (await Archive.ReadAsync(new MemoryStream(await ArchiveAsync(Study)), null,
        Stop)).Report!.Study;

    private async Task<T> AskAsync<T>(string sql, object? with = null)
    {
        await using var connection = await Source.OpenConnectionAsync(Stop);
        return (await connection.ExecuteScalarAsync<T>(sql, with))!;
    }

    private async Task<(RecordingId Recording, PassageId Passage, IdeaId Idea)> StudyOfOneAsync()
    {
        var recording = await RecordAsync("Slack Water", 120, listened: 120);
        var passage = await WriteAsync(recording, Groove);
        return (recording, passage, (await Ideas.AddAsync(Study,
            new() { Nickname = "backbeat", Text = "SN: 2 4", Tags = [], Rules = new() }, Stop))!.Value);
    }

    [Fact]
    public async Task Its_own_archive_changes_nothing()
    {
        await StudyOfOneAsync();
        var zip = await ArchiveAsync(Study);
        (await MergeAsync(zip, Study)).Tables.ShouldAllBe(t => t.Added == 0 && t.Filled == 0 && t.Differing == 0);
        Rows(await ArchiveAsync(Study)).ShouldBe(Rows(zip));
    }

    [Fact]
    public async Task The_work_of_another_comes_back_and_nothing_here_is_lost()
    {
        var (recording, passage, _) = await StudyOfOneAsync();
        var second = await WriteAsync(recording, Groove);
        var copy = await CopyAsync();
        var there = (await Recordings.OfStudyAsync(copy, Stop)).Single();
        // Elsewhere: a second recording, a passage, a judgement, a note, another text of the passage. Here: another title.
        var added = await Recordings.AddAsync(copy, new() { PlayerId = there.PlayerId, Title = "Lee Shore", Kind = RecordingKind.Live },
            null, Stop);
        await Passages.AddAsync(added, new() { Text = Other, Bars = 1, Kind = PassageKind.Fill }, Stop);
        await AskAsync<int>("update sighting x set judgement = 'confirmed', judged_at = now() from idea i where i.id = x.idea_id and "
            + "i.study_id = @copy", new { copy });
        await AskAsync<int>("update recording set note = 'Transferred from a tape.' where id = @id", new { id = there.Id });
        await AskAsync<int>("update reading set text = @Other where passage_id = (select min(a.id) from passage a join recording r on "
            + "r.id = a.recording_id where r.id = @id)", new { Other, id = there.Id });
        await AskAsync<int>("update recording set title = 'Slack Water, first' where id = @recording", new { recording });

        var zip = await ArchiveAsync(copy);
        var (look, _) = await Archive.LookAsync(new MemoryStream(zip), Study, Stop);
        (await Recordings.OfStudyAsync(Study, Stop)).Count.ShouldBe(1);
        var report = await MergeAsync(zip, Study);
        report.Tables.Select(t => (t.Table, t.Added, t.Here, t.Filled, t.Differing))
            .ShouldBe(look!.Tables.Select(t => (t.Table, t.Added, t.Here, t.Filled, t.Differing)));

        var here = await Recordings.OfStudyAsync(Study, Stop);
        here.Select(r => (r.Title, r.Note)).ShouldBe([("Lee Shore", ""), ("Slack Water, first", "Transferred from a tape.")],
            ignoreOrder: true);
        (await Passages.ReadingsAsync(passage, Stop)).Select(r => (r.Text, r.Preferred)).ShouldBe([(Groove, true), (Other, false)]);
        (await AskAsync<string>("select judgement from sighting x join reading g on g.id = x.reading_id where g.passage_id = @second",
            new { second })).ShouldBe("confirmed");
        // What was judged in the other text stays with it.
        (await AskAsync<string?>("select judgement from sighting x join reading g on g.id = x.reading_id where g.passage_id = @passage "
            + "and g.preferred", new { passage })).ShouldBeNull();
        report.Tables.Single(t => t.Table == "reading").ShouldSatisfyAllConditions(t => t.Added.ShouldBe(2), t => t.Differing.ShouldBe(0));

        // A second time nothing comes any more.
        (await MergeAsync(zip, Study)).Tables.ShouldAllBe(t => t.Added == 0 && t.Filled == 0);
    }

    [Fact]
    public async Task What_two_people_wrote_apart_is_known_by_its_name()
    {
        var (recording, _, idea) = await StudyOfOneAsync();
        await WriteAsync(recording, Groove);
        var copy = await CopyAsync();
        foreach (var table in (string[])["recording", "passage", "reading", "idea", "player", "coverage"]) await AskAsync<int>(
            $"update {table} set origin = gen_random_uuid()");
        var report = await MergeAsync(await ArchiveAsync(copy), Study);
        report.Tables.Where(t => t.Added > 0).ShouldBeEmpty();
        (await Recordings.OfStudyAsync(Study, Stop)).Single().Id.ShouldBe(recording);
        (await Ideas.OfStudyAsync(Study, Stop)).Single().Id.ShouldBe(idea);
    }

    [Fact]
    public async Task Sections_here_stay_and_a_search_of_certain_ideas_is_not_widened()
    {
        var (recording, _, idea) = await StudyOfOneAsync();
        await AskAsync<int>("insert into section (recording_id, ordinal, kind, name, first_bar, bars, meters) values (@recording, 1, "
            + "'verse', '', 1, 8, '4/4')", new { recording });
        var copy = await CopyAsync();
        await AskAsync<int>("insert into section (recording_id, ordinal, kind, name, first_bar, bars, meters) select id, 2, 'chorus', "
            + "'', 9, 8, '4/4' from recording where study_id = @copy", new { copy });
        await AskAsync<int>("insert into coverage_idea select c.id, i.id from coverage c join recording r on r.id = c.recording_id join "
            + "idea i on i.study_id = r.study_id where r.study_id = @copy", new { copy });
        await MergeAsync(await ArchiveAsync(copy), Study);
        (await AskAsync<int>("select count(*) from section where recording_id = @recording", new { recording })).ShouldBe(1);
        (await AskAsync<int>("select count(*) from coverage_idea where idea_id = @idea", new { idea })).ShouldBe(0);
    }

    [Fact]
    public async Task What_is_empty_is_filled_but_not_where_empty_says_something()
    {
        var (_, _, idea) = await StudyOfOneAsync();
        var copy = await CopyAsync();
        await AskAsync<int>("update idea set note = 'Closes a phrase.', scope = '{SN}', span_ticks = 20160 where study_id = @copy",
            new { copy });
        (await MergeAsync(await ArchiveAsync(copy), Study)).Tables.Single(t => t.Table == "idea").Filled.ShouldBe(1);
        (await Ideas.FindAsync(idea, Stop))!.ShouldSatisfyAllConditions(i => i.Note.ShouldBe("Closes a phrase."), i =>
            i.Scope.ShouldBeNull(), i => i.SpanTicks.ShouldBeNull());
    }

    [Fact]
    public async Task A_study_of_somebody_else_is_not_mixed_in()
    {
        await StudyOfOneAsync();
        var other = await Studies.AddAsync(new("Another", "", "Bo Harrow", InnerCadence.Core.Music.Handedness.Right, []), Stop);
        var (report, problem) = await Archive.ReadAsync(new MemoryStream(await ArchiveAsync(Study)), other, Stop);
        report.ShouldBeNull();
        problem.ShouldBe("This archive is about Nell Tarrow, the study here about Bo Harrow: bring it in as a study of its own.");
    }

    [Fact]
    public async Task Every_line_is_what_the_schema_in_it_says()
    {
        await StudyOfOneAsync();
        var files = Files(await ArchiveAsync(Study));
        var published = JsonNode.Parse(files["schema.json"])!;
        var options = new EvaluationOptions { RequireFormatValidation = true };
        foreach (var (name, text) in files.Where(f => f.Key.StartsWith("tables/", StringComparison.Ordinal) || f.Key == "study.json"))
        {
            var of = name == "study.json" ? name : name[7..^6];
            var schema = JsonSchema.FromText(new JsonObject
            {
                ["$ref"] = $"#/$defs/{of}",
                ["$defs"] = published["$defs"]!.DeepClone()
            }.ToJsonString());
            foreach (var line in name == "study.json" ? [text]
                : text.Split('\n', StringSplitOptions.RemoveEmptyEntries)) schema.Evaluate(JsonDocument.Parse(line).RootElement,
                options).IsValid.ShouldBeTrue($"{name}: {line}");
            if (of == "recording") schema.Evaluate(JsonDocument.Parse(text.Replace("\"Slack Water\"", "7")).RootElement,
                options).IsValid.ShouldBeFalse();
        }
    }

    /// <summary>Studies of every shape: what is unsure, unplaced, deleted, judged and linked.</summary>
    [Fact]
    public void A_generated_study_loses_nothing()
    {
        var texts = Gen.OneOf(Groove, Other, "meter 7/8\nRD: 8ths\nBD: 1 4 6", "SN: 1? 2 [3] 4\n", "", "no count lines at all",
            "LICK x2\n# a comment – with ü and 𝄞");
        var passage = Gen.Select(texts, Gen.Int[0, 400_000].Nullable(), Gen.Int[1, 90].Nullable(), Gen.OneOf([.. PassageKind.All]),
            Gen.Bool, Gen.Bool);
        var recording = Gen.Select(Gen.OneOf("Slack Water", "Lee Shore", "Öre \"Quay\""), Gen.OneOf([.. OneOf<RecordingKind>.Words]),
            Gen.Double[40, 300].Nullable(), Gen.Int[1, 999].Nullable(), passage.Array[0, 4], Gen.Bool);
        var ideas = Gen.OneOf("SN: 2 4", "BD: 1 3&", "SN: (3e)").Array[0, 3];
        Gen.Select(recording.Array[0, 5], ideas, Gen.Int[0, 1000])
            .Sample((recordings, named, seed) => GeneratedAsync(recordings, named, seed).GetAwaiter().GetResult(), iter: 12, threads: 1);

        async Task GeneratedAsync((string Title, string Kind, double? Tempo, int? Bars,
            (string Text, int? At, int? Bar, PassageKind Kind, bool Looped, bool Because)[] Passages, bool Deleted)[] recordings,
            string[] named, int seed)
        {
            var study = await Studies.AddAsync(new($"Study {Guid.NewGuid()}", "Why?", "Nell Tarrow",
                InnerCadence.Core.Music.Handedness.Left, ["Oda Finch"]), Stop);
            var players = (await Studies.FindAsync(study, Stop))!.Players;
            for (var i = 0; i < named.Length; i++) await Ideas.AddAsync(study,
                new() { Nickname = $"idea {i}", Text = named[i], Tags = ["a, b", "c"], Rules = new() }, Stop);
            foreach (var (r, n) in recordings.Select((r, n) => (r, n)))
            {
                var id = await Recordings.AddAsync(study, new()
                {
                    PlayerId = players[(n + seed) % players.Count].Id,
                    Title = r.Title,
                    Take = n % 2 == 0 ? "" : $"take {n}",
                    Kind = OneOf<RecordingKind>.Find(r.Kind)!.Value,
                    Tempo = r.Tempo,
                    TotalBars = r.Bars,
                    Recorded = PartialDate.Parse(n % 3 == 0 ? "1970" : "1971-05")
                },
                    seed % 2 == 0 ? new(Closeness.Listened, null, 8, [], DateOnly.FromDateTime(DateTime.Now)) : null, Stop);
                foreach (var p in r.Passages)
                    await Passages.AddAsync(id, new()
                    {
                        Text = p.Text,
                        Bars = 1,
                        StartsAt = p.At is { } at ? new ClockTime(at) : null,
                        Bar = p.Bar,
                        Kind = p.Kind,
                        Looped = p.Looped,
                        BecauseHeard = p.Because
                    }, Stop);
                if (r.Deleted) await AskAsync<int>("update recording set deleted_at = now() where id = @id", new { id });
            }
            await AskAsync<int>("update sighting set judgement = (array['confirmed', 'near-miss', 'rejected'])[1 + id % 3], judged_at = "
                + "now() where id % 2 = @odd", new { odd = seed % 2 });
            var zip = await ArchiveAsync(study);
            var copy = (await Archive.ReadAsync(new MemoryStream(zip), null, Stop)).Report!;
            Rows(await ArchiveAsync(copy.Study)).ShouldBe(Rows(zip));
            // Into itself nothing comes, and into an empty study about the same player everything but what it has.
            (await MergeAsync(zip, study)).Tables.ShouldAllBe(t => t.Added == 0 && t.Filled == 0 && t.Differing == 0);
            var empty = await Studies.AddAsync(new($"Study {Guid.NewGuid()}", "", "Nell Tarrow", InnerCadence.Core.Music.Handedness.Left,
                []), Stop);
            await MergeAsync(zip, empty);
            Rows(await ArchiveAsync(empty)).Where(r => !r.StartsWith("player", StringComparison.Ordinal))
                .ShouldBe(Rows(zip).Where(r => !r.StartsWith("player", StringComparison.Ordinal)));
        }
    }

    private static Dictionary<string, string> Files(byte[] zip)
    {
        using var archive = new ZipArchive(new MemoryStream(zip));
        return archive.Entries.ToDictionary(e => e.FullName, e =>
        {
            using var reader = new StreamReader(e.Open());
            return reader.ReadToEnd();
        });
    }

    /// <summary>Every row with its table and without its numbers.</summary>
    private static List<string> Rows(byte[] zip) =>
        [.. Files(zip).Where(f => f.Key.StartsWith("tables/", StringComparison.Ordinal) && f.Key != "tables/study.jsonl")
        .SelectMany(f => f.Value.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(line =>
    {
        var row = JsonNode.Parse(line)!.AsObject();
        foreach (var column in row.Select(c => c.Key).Where(c => c == "id" || c.EndsWith("_id", StringComparison.Ordinal))
            .ToList()) row[column] = row[column] is null ? null : "number";
        return $"{f.Key[7..^6]} {row.ToJsonString()}";
    })).Order(StringComparer.Ordinal)];
}
