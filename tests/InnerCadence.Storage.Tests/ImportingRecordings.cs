using System.Text;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Tests;

/// <summary>CSV files of recordings taken in, given out, and taken in again.</summary>
public class ImportingRecordings : StorageTests
{
    private const string Head = "title,take,ensemble,date,tempo,bars\n";

    [Theory]
    [InlineData("a,b\n1,2", ',', "UTF-8")]
    [InlineData("a;b;c\n\"1;x\";2,5;3\n", ';', "UTF-8")]
    [InlineData("a\tb\n1\t2,2", '\t', "UTF-8")]
    [InlineData("a|b\n1|2", '|', "UTF-8")]
    public void The_separator_is_found(string text, char separator, string encoding)
    {
        var table = CsvTable.Read(Encoding.UTF8.GetBytes(text));
        (table.Separator, table.Encoding, table.Rows.Count).ShouldBe((separator, encoding, 1));
    }

    [Fact]
    public void The_encoding_is_found()
    {
        CsvTable.Read([0xEF, 0xBB, 0xBF, .. Encoding.UTF8.GetBytes("title,take\nÖresund,é")]).Rows[0].Cells.ShouldBe(["Öresund", "é"]);
        var utf16 = CsvTable.Read([0xFF, 0xFE, .. Encoding.Unicode.GetBytes("title,take\nÖresund,é")]);
        (utf16.Head[0], utf16.Rows[0].Cells[0], utf16.Encoding).ShouldBe(("title", "Öresund", "UTF-16"));
        var old = CsvTable.Read([.. "title,take\n"u8, 0xD6, .. "resund,1"u8]);
        (old.Rows[0].Cells[0], old.Encoding).ShouldBe(("Öresund", "Windows-1252"));
    }

    [Theory]
    [InlineData("")]
    [InlineData("  \n ")]
    [InlineData("\0\u0001\0\u0002")]
    [InlineData("just some words")]
    public void What_is_no_table_is_told(string text) =>
        Should.Throw<InvalidDataException>(() => CsvTable.Read(Encoding.UTF8.GetBytes(text))).Message.ShouldEndWith(".");

    [Fact]
    public async Task Good_rows_come_in_bad_ones_are_offered_back_with_their_reasons()
    {
        var (said, file) = await ImportAsync(Head + "Piece,take 1,The Five,1970-05,120,64\n,take 2,The Five,1970,120,64\nOther,,The "
            + "Five,last summer,700,64\n");
        said.ShouldBe("2 added, 0 merged into those that were there, 0 skipped; 1 could not be read.");
        var all = await Recordings.OfStudyAsync(Study, Stop);
        var recording = all.Single(r => r.Title == "Piece");
        (recording.Name, recording.Ensemble, recording.Recorded!.Value.ToString(), recording.Tempo, recording.TotalBars)
            .ShouldBe(("Piece, take 1", "The Five", "1970-05", 120.0, 64));
        var bad = CsvTable.Read(Encoding.UTF8.GetBytes(file.BadRows!));
        bad.Head.ShouldBe(["title", "take", "ensemble", "date", "tempo", "bars", "line", "reason"]);
        bad.Rows.Select(r => r.Cells[6]).ShouldBe(["3"]);
        bad.Rows[0].Cells[7].ShouldContain("Write its title");

        // A cell that cannot be read stays empty, with its words in the note, and the row comes in.
        var other = all.Single(r => r.Title == "Other");
        (other.Recorded, other.Tempo, other.TotalBars, other.Note).ShouldBe((null, null, 64, "recorded: last summer; tempo: 700"));
    }

    [Fact]
    public async Task Dates_and_tempos_as_on_a_sleeve_become_spans_and_keep_their_words()
    {
        await ImportAsync(Head + "One,,The Five,spring 1972,~118,64\nTwo,,The Five,c. 1970,120-124,64\nThree,,The Five,13/4/1971,96,64\nFour,,"
            + "The Five,3/4/1971,96,64\n");
        var all = (await Recordings.OfStudyAsync(Study, Stop)).ToDictionary(r => r.Title);
        (all["One"].Recorded!.Value.ToString(), all["One"].RecordedSaid, all["One"].Tempo, all["One"].TempoSaid)
            .ShouldBe(("1972-03 to 1972-05", "spring 1972", 118.0, "~118"));
        (all["Two"].Recorded!.Value.ToString(), all["Two"].Tempo, all["Two"].TempoSaid).ShouldBe(("1969 to 1971", 122.0, "120-124"));
        all["Three"].Recorded!.Value.ToString().ShouldBe("1971-04-13");
        all["Four"].Recorded!.Value.ToString().ShouldBe("1971-04-03", "another row shows that the day comes first");
        all["Four"].RecordedSaid.ShouldBe("", "without its file it would be asked which, and the form would not be saved");

        // What fills an empty field brings its words too.
        await ImportAsync("title,ensemble,date,issued,tempo\nFive,The Five,1972,,\n");
        await ImportAsync("title,ensemble,date,issued,tempo\nFive,The Five,1972,autumn 1973,~90\n");
        var five = (await Recordings.OfStudyAsync(Study, Stop)).Single(r => r.Title == "Five");
        (five.IssuedSaid, five.Tempo, five.TempoSaid).ShouldBe(("autumn 1973", 90.0, "~90"));
    }

    [Theory]
    [InlineData("merge", 2, "take 1 notes", 64)]
    [InlineData("skip", 2, "", null)]
    [InlineData("keep", 5, "", null)]
    public async Task Recordings_that_are_there_are_merged_or_left_out_or_kept(string duplicates, int recordings, string note, int? bars)
    {
        await ImportAsync("title,take,date,tempo\nPiece,take 1,1970,120\n");
        const string again = "title,take,date,tempo,bars,notes\npiece,Take 1,1970,99,64,take 1 "
            + "notes\nNew,,1971,,,\nNew,,1971,100,,\nNEW,,1971,,12,\n";
        await ImportAsync(again, duplicates);
        var all = await Recordings.OfStudyAsync(Study, Stop);
        all.Count.ShouldBe(recordings);
        var first = all.First(r => r.Title == "Piece");
        (first.Tempo, first.Note, first.TotalBars).ShouldBe((120, note, bars));
        if (duplicates == "merge") (all.Single(r => r.Title == "New").Tempo, all.Single(r => r.Title == "New").TotalBars)
            .ShouldBe((100, 12));
    }

    [Fact]
    public async Task Import_then_export_then_import_changes_nothing()
    {
        await ImportAsync(
            "title,take,player,ensemble,release,recorded,issued,kind,meter,tempo,duration,bars,searched,closeness,searched_on,note\n"
            + "\"Piece, with \"\"quotes\"\"\",=1+1,Oda Finch,-dash,@at,1970-05 to 1971,1972,live,5/8 "
                + "7/8,120.5,3:12.4,64,32,listened,2026-05-01,\"two\nlines\"\nOther,,,,,,,,,,,,,,,\n");
        var tables = new StudyTables(Source);
        var first = (await tables.ReadAsync(Study, "recordings", Stop))!.As("csv");
        await Source.CreateCommand("delete from coverage; delete from recording; delete from release; delete from ensemble")
            .ExecuteNonQueryAsync(Stop);
        (await ImportAsync(Encoding.UTF8.GetString(first))).Said.ShouldStartWith("2 added");
        var second = (await tables.ReadAsync(Study, "recordings", Stop))!.As("csv");
        Encoding.UTF8.GetString(second).ShouldBe(Encoding.UTF8.GetString(first));
        (await Recordings.OfStudyAsync(Study, Stop)).First(r => r.TotalBars == 64).Name.ShouldBe("Piece, with \"quotes\", =1+1");
        (await ImportAsync(Encoding.UTF8.GetString(second))).Said.ShouldStartWith("0 added, 2 merged");
        Encoding.UTF8.GetString((await tables.ReadAsync(Study, "recordings", Stop))!.As("csv")).ShouldBe(Encoding.UTF8.GetString(first));
    }

    [Fact]
    public async Task A_cancelled_import_leaves_nothing_behind()
    {
        var rows = string.Concat(Enumerable.Range(1, 2000).Select(i => $"Piece {i},,,1970,,\n"));
        var (job, import, _) = await PrepareAsync(Head + rows, "merge");
        var worker = Guid.NewGuid();
        var claimed = (await Jobs.ClaimAsync(worker, JobStore.Silence, Stop))!;
        await Jobs.CancelAsync(job, Stop);
        await DoAsync(import, claimed, worker);
        (await Recordings.OfStudyAsync(Study, Stop)).ShouldBeEmpty();
        var ended = (await Jobs.FindAsync(job, Stop))!;
        (ended.State, ended.Said).ShouldBe(("cancelled", "Cancelled: nothing was imported."));
    }

    [Fact]
    public async Task How_columns_were_read_is_remembered_for_the_next_file_with_the_same_head()
    {
        var imports = new ImportStore(Source, new StudyStore(Source));
        var table = CsvTable.Read("Stück,Jahr\nPiece,1970"u8.ToArray());
        var first = (await imports.FindAsync(await imports.AddAsync(Study, "a.csv", "Stück,Jahr\nPiece,1970"u8.ToArray(), table, Stop),
            Stop))!;
        first.ColumnOf.ShouldBe(new Dictionary<string, int> { ["title"] = 0, ["recorded"] = 1 }, ignoreOrder: true,
            "from what stands there");
        await imports.MapAsync(first, table, new(new Dictionary<string, int> { ["title"] = 1, ["recorded"] = 0 })
        { Kinds = new Dictionary<string, string> { ["unplugged"] = "live" } }, Stop);
        var next = (await imports.FindAsync(await imports.AddAsync(Study, "b.csv", [], table, Stop), Stop))!;
        next.ColumnOf.ShouldBe(new Dictionary<string, int> { ["title"] = 1, ["recorded"] = 0 }, ignoreOrder: true);
        next.ReadingOf(table).Kinds["unplugged"].ShouldBe("live", "a word is asked about once");
    }

    [Fact]
    public async Task Columns_are_guessed_from_what_stands_in_them_where_their_heads_say_nothing()
    {
        var study = (await Studies.FindAsync(Study, Stop))!;
        ImportColumns.Guess(CsvTable.Read(Encoding.UTF8.GetBytes("""
            what,A,B,C,D,E,Song length
            Grey Harbour,March 1964,~118,4/4,in concert,17,3:12
            Tin Lantern,3/4/1965,c. 120 bpm,7/8,tv,18,2:58
            """)), study).ShouldBe(new Dictionary<string, int>
        {
            ["title"] = 0,
            ["recorded"] = 1,
            ["tempo"] = 2,
            ["meter"] = 3,
            ["kind"] = 4,
            ["duration"] = 6,
        }, ignoreOrder: true);
    }

    [Fact]
    public async Task A_word_for_a_kind_is_asked_once_and_a_cell_is_put_right_before_anything_is_added()
    {
        var imports = new ImportStore(Source, new StudyStore(Source));
        var content = Encoding.UTF8.GetBytes("title,date,kind\nGrey Harbour,the wet summer,unplugged\nTin Lantern,1965,Unplugged\n");
        var table = CsvTable.Read(content);
        var file = (await imports.FindAsync(await imports.AddAsync(Study, "a.csv", content, table, Stop), Stop))!;
        file.ReadingOf(table).UnknownKinds(table).ShouldBe([("unplugged", 2)]);
        var study = (await Studies.FindAsync(Study, Stop))!;
        var row = ImportRow.Read(table.Rows[0], file.ReadingOf(table), study);
        row.Unread.Select(u => (u.Field!.Word, u.Words)).ShouldBe([("recorded", "the wet summer"), ("kind", "unplugged")],
            ignoreOrder: true);
        await imports.MapAsync(file, table, new(file.ColumnOf)
        {
            Kinds = new Dictionary<string, string> { ["unplugged"] = "live" },
            Mended = new Dictionary<string, string> { [ImportReading.CellOf(table.Rows[0].Line, "recorded")] = "summer 1964" },
        }, Stop);
        await imports.BeginAsync((await imports.FindAsync(file.Id, Stop))!, Stop);
        var worker = Guid.NewGuid();
        await DoAsync(new RecordingImport(Studies, imports), (await Jobs.ClaimAsync(worker, JobStore.Silence, Stop))!, worker);
        var added = await Recordings.OfStudyAsync(Study, Stop);
        added.Select(r => (r.Title, r.Kind.Word, r.RecordedFrom?.Year)).ShouldBe(
            [("Grey Harbour", "live", 1964), ("Tin Lantern", "live", 1965)], ignoreOrder: true);
        added.ShouldAllBe(r => r.Note == "");
    }

    [Fact]
    public async Task Every_table_can_be_written_even_an_empty_one()
    {
        foreach (var name in StudyTables.Names) (await new StudyTables(Source)
            .ReadAsync(Study, name, Stop))!.As("csv").Length.ShouldBeGreaterThan(10, name);
        (await new StudyTables(Source).ReadAsync(Study, "players; drop table study", Stop)).ShouldBeNull();
    }

    private async Task<(string Said, ImportFile File)> ImportAsync(string text, string duplicates = "merge")
    {
        var (job, import, file) = await PrepareAsync(text, duplicates);
        var worker = Guid.NewGuid();
        await DoAsync(import, (await Jobs.ClaimAsync(worker, JobStore.Silence, Stop))!, worker);
        return ((await Jobs.FindAsync(job, Stop))!.Said, (await new ImportStore(Source, new StudyStore(Source)).FindAsync(file, Stop))!);
    }

    private async Task<(JobId Job, RecordingImport Import, ImportId File)> PrepareAsync(string text, string duplicates)
    {
        var imports = new ImportStore(Source, new StudyStore(Source));
        var content = Encoding.UTF8.GetBytes(text);
        var table = CsvTable.Read(content);
        var file = (await imports.FindAsync(await imports.AddAsync(Study, "file.csv", content, table, Stop), Stop))!;
        await imports.MapAsync(file, table, new(file.ColumnOf, duplicates), Stop);
        return (await imports.BeginAsync(file, Stop), new(Studies, imports), file.Id);
    }
}
