using System.IO.Compression;
using System.Text;
using System.Text.Json.Nodes;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Practice;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Storage.Tests;

/// <summary>A whole study out and in again: nothing is lost, nothing that is here is touched, and what is no archive changes
/// nothing.</summary>
public class Archiving : StorageTests
{
    private StudyArchive Archive => new(Source);

    private async Task<StudyId> DemoAsync() =>
        await new StudyFolder(Studies, Recordings, Timelines, Attributions, Passages, Ideas, Sightings, new LineageStore(Source), Claims,
            new(Source), new(Source)).LoadAsync(WorkingCopy.Study, Stop);

    private static Dictionary<string, string> Files(byte[] zip)
    {
        using var archive = new ZipArchive(new MemoryStream(zip));
        return archive.Entries.ToDictionary(e => e.FullName, e =>
        {
            using var reader = new StreamReader(e.Open());
            return reader.ReadToEnd();
        });
    }

    /// <summary>The rows of a table without the numbers that a copy has anew.</summary>
    private static List<string> Rows(Dictionary<string, string> files, string table) =>
        [.. files[$"tables/{table}.jsonl"].Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(line =>
    {
        var row = JsonNode.Parse(line)!.AsObject();
        foreach (var column in row.Select(c => c.Key).Where(c => c == "id" || c.EndsWith("_id", StringComparison.Ordinal) || c == "key")
            .ToList()) row[column] = row[column] is null ? null : "number";
        if (table == "study") row.Remove("name");
        if (table == "article") row.Remove("text");
        return row.ToJsonString();
    }).Order(StringComparer.Ordinal)];

    [Fact]
    public async Task Everything_comes_back_as_it_was_with_numbers_of_its_own()
    {
        var study = await DemoAsync();
        await new ComparisonStore(Source, new(Source), Jobs)
            .SaveFilterAsync(study, "hers", $"?player={(await Studies.FindAsync(study, Stop))!.Subject.Id}", Stop);
        var practice = new PracticeStore(Source);
        await practice.KeepAsync((await practice.OfStudyAsync(study, Stop))[0].Id, [new(Guid.NewGuid(), 90, "clean", null, "")], Stop);
        await Claims.WeighAsync((await Studies.FindAsync(study, Stop))!, Stop);
        var before = (await Archive.WriteAsync(study, Stop))!;

        var (unpacked, problem) = await Archive.ReadAsync(new MemoryStream(before), null, Stop);
        problem.ShouldBeNull();
        unpacked!.Name.ShouldBe("Ilse Marrowby, 1963–75 (2)");
        var after = (await Archive.WriteAsync(unpacked.Study, Stop))!;
        var (one, two) = (Files(before), Files(after));
        two.Keys.Where(k => k.StartsWith("tables/", StringComparison.Ordinal))
            .ShouldBe(one.Keys.Where(k => k.StartsWith("tables/", StringComparison.Ordinal)));
        foreach (var table in one.Keys.Where(k => k.StartsWith("tables/", StringComparison.Ordinal)).Select(k => k[7..^6])
            .Where(t => t != "saved_filter")) Rows(two, table).ShouldBe(Rows(one, table), table);
        string[] filled = ["recording", "passage", "reading", "idea", "sighting", "claim", "claim_standing", "practice_log", "section",
            "bar_mark", "issue", "coverage", "cited_source"];
        foreach (var table in filled)
            one[$"tables/{table}.jsonl"].ShouldNotBeEmpty(table);
        one.Count(f => f.Key.StartsWith("passages/", StringComparison.Ordinal)).ShouldBe(80);

        // The copy stands for itself: its claims stand alike, its article and filters point to its own.
        var copy = (await Studies.FindAsync(unpacked.Study, Stop))!;
        (await Claims.StandAsync(copy, Stop)).Select(c => (c.Claim.Sentence, c.Stand.Standing, c.Stand.Figures))
            .ShouldBe((await Claims.StandAsync((await Studies.FindAsync(study, Stop))!, Stop))
            .Select(c => (c.Claim.Sentence, c.Stand.Standing, c.Stand.Figures)));
        var claims = (await Claims.OfStudyAsync(copy.Id, Stop)).Select(c => $"[[claim:{c.Id}]]").ToList();
        var text = (await new ArticleStore(Source).OfStudyAsync(copy.Id, Stop)).Text;
        text.ShouldContain(claims[0]);
        text.ShouldNotContain("[[claim:1]]");
        (await new ComparisonStore(Source, new(Source), Jobs).FiltersAsync(copy.Id, Stop))
            .Single().Query.ShouldBe($"?player={copy.Subject.Id}");
    }

    [Fact]
    public async Task What_is_no_archive_is_said_and_changes_nothing()
    {
        var study = await DemoAsync();
        var good = Files((await Archive.WriteAsync(study, Stop))!);
        var count = (await Studies.AllAsync(Stop)).Count;
        async Task<string> Told(byte[] bytes) => (await Archive.ReadAsync(new MemoryStream(bytes), null, Stop)).Problem ?? "nothing";
        (await Told(Encoding.UTF8.GetBytes("a letter"))).ShouldStartWith("This archive is broken");
        (await Told(Zip([]))).ShouldBe("This is no archive of a study.");
        (await Told(Zip(With("study.json", s => s.Replace("\"version\": 1", "\"version\": 9"))))).ShouldContain("newer version");
        (await Told(Zip(With("tables/recording.jsonl", s => s[..(s.Length / 2)])))).ShouldStartWith("This archive is broken");
        (await Told(Zip(With("tables/recording.jsonl", _ => new string(' ', 5 * 1024 * 1024)))))
            .ShouldContain("larger than a study can be");
        (await Told(Zip(With("tables/study.jsonl", s => s + s)))).ShouldContain("more than one study");
        (await Told(Zip(With("tables/study.jsonl", _ => "")))).ShouldContain("no study");
        (await Told(Zip(With("tables/recording.jsonl", s => s + s[..(s.IndexOf('\n') + 1)]))))
            .ShouldContain("two rows of recording have the number");
        (await Told(Zip(With("tables/claim.jsonl", s => s.Replace("\"test\":\"voice\"", "\"test\":\"trait\"")))))
            .ShouldContain("does not say what its test needs");
        (await Told(Zip(With("tables/idea.jsonl", s =>
            System.Text.RegularExpressions.Regex.Replace(s, "\"text\":\"[^\"]*\"", "\"text\":\"# nothing\"")))))
            .ShouldContain("has no stroke");
        (await Told(Zip(With("tables/idea_link.jsonl", _ => Circle(good["tables/idea.jsonl"])))))
            .ShouldContain("would descend from itself");
        (await Told(Zip(With("tables/recording.jsonl", s => s.Replace("\"kind\":\"studio\"", "\"kind\":\"opera\"")))))
            .ShouldContain("does not fit together");
        (await Told(Zip(With("tables/passage.jsonl", s => s.Replace("\"recording_id\":", "\"recording_id\":9999")))))
            .ShouldContain("does not fit together");
        (await Studies.AllAsync(Stop)).Count.ShouldBe(count);

        static string Circle(string ideas)
        {
            var ids = ideas.Split('\n').Take(2).Select(i => JsonNode.Parse(i)!["id"]!.GetValue<long>()).ToList();
            return $"{{\"idea_id\":{ids[0]},\"of_id\":{ids[1]},\"kind\":\"variant "
                + $"of\"}}\n{{\"idea_id\":{ids[1]},\"of_id\":{ids[0]},\"kind\":\"variant of\"}}\n";
        }

        Dictionary<string, string> With(string file, Func<string, string> change) => new(good) { [file] = change(good[file]) };
    }

    /// <summary>A few bytes changed anywhere, or anything changed in a table: it is read or refused in a sentence, and nothing
    /// throws.</summary>
    [Fact]
    public async Task Any_bytes_are_read_or_refused()
    {
        var study = await DemoAsync();
        var whole = (await Archive.WriteAsync(study, Stop))!;
        var files = Files(whole);
        var random = new Random(20);
        string[] junk = ["null", "-1", "\"x\"", "{}", "[1]", "1e300", "\"2031-13-40\"", "9223372036854775807", "true"];
        for (var round = 0; round < 20; round++)
        {
            byte[] broken = [.. whole];
            for (var i = 0; i < 4; i++) broken[random.Next(broken.Length)] = (byte)random.Next(256);
            await LookAsync(broken);
            var tables = files.Keys.Where(k => k.StartsWith("tables/", StringComparison.Ordinal) && files[k].Length > 0).ToList();
            var table = tables[random.Next(tables.Count)];
            var lines = files[table].Split('\n', StringSplitOptions.RemoveEmptyEntries);
            var row = JsonNode.Parse(lines[0])!.AsObject();
            var column = row.Select(c => c.Key).ElementAt(random.Next(row.Count));
            row[column] = JsonNode.Parse(junk[random.Next(junk.Length)]);
            await LookAsync(Zip(new(files) { [table] = string.Join('\n', lines.Skip(1).Prepend(row.ToJsonString())) }));
        }
        (await Studies.AllAsync(Stop)).Count(s => s.Name.StartsWith("Ilse", StringComparison.Ordinal)).ShouldBe(1);

        async Task LookAsync(byte[] bytes)
        {
            foreach (var into in (StudyId?[])[null, study])
            {
                var (report, problem) = await Archive.LookAsync(new MemoryStream(bytes), into, Stop);
                if (report is null) problem.ShouldNotBeNullOrEmpty();
            }
        }
    }

    [Fact]
    public async Task An_archive_of_before_a_column_was_there_gets_its_default()
    {
        var files = Files((await Archive.WriteAsync(await DemoAsync(), Stop))!);
        files["tables/recording.jsonl"] = string.Join('\n', files["tables/recording.jsonl"]
            .Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(line =>
        {
            var row = JsonNode.Parse(line)!.AsObject();
            row.Remove("sure");
            row["of_another_time"] = "x'; drop table study; --";
            return row.ToJsonString();
        }));
        var (unpacked, problem) = await Archive.ReadAsync(new MemoryStream(Zip(files)), null, Stop);
        problem.ShouldBeNull();
        (await Recordings.OfStudyAsync(unpacked!.Study, Stop)).ShouldAllBe(r => r.Sure.IsCertain);
    }

    private static byte[] Zip(Dictionary<string, string> files)
    {
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
            foreach (var (name, text) in files)
            {
                using var into = new StreamWriter(zip.CreateEntry(name).Open());
                into.Write(text);
            }
        return file.ToArray();
    }
}
