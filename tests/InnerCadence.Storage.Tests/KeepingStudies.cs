using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Schema;
using Npgsql;

namespace InnerCadence.Storage.Tests;

public class KeepingStudies : StorageTests
{
    [Fact]
    public async Task A_study_keeps_its_player_and_those_compared_with()
    {
        var study = (await Studies.FindAsync(Study, Stop))!;
        study.Subject.Name.ShouldBe("Nell Tarrow");
        study.Subject.Handedness.ShouldBe("left");
        study.Comparison.Select(p => p.Name).ShouldBe(["Oda Finch"]);
    }

    [Fact]
    public async Task The_second_of_two_tabs_does_not_overwrite_the_first()
    {
        (await Studies.UpdateAsync(Study, new("First", "", "Nell Tarrow", Handedness.Left, []), 1, Stop)).ShouldBeTrue();
        (await Studies.UpdateAsync(Study, new("Second", "", "Nell Tarrow", Handedness.Left, []), 1, Stop)).ShouldBeFalse();
        (await Studies.FindAsync(Study, Stop))!.Name.ShouldBe("First");
    }

    [Fact]
    public async Task A_compared_player_with_a_recording_stays()
    {
        await RecordAsync("Their piece", 32, player: "Oda Finch");
        await Studies.UpdateAsync(Study, new("A study", "", "Nell Tarrow", Handedness.Left, ["Wim Sallow"]), 1, Stop);
        (await Studies.FindAsync(Study, Stop))!.Comparison.Select(p => p.Name).ShouldBe(["Oda Finch", "Wim Sallow"]);
    }

    [Fact]
    public async Task A_deleted_study_hides_all_that_is_in_it_until_it_is_brought_back()
    {
        var passage = await WriteAsync(await RecordAsync("Piece", 32), "SN: 2 4");
        await Studies.DeleteAsync(Study, Stop);
        (await Studies.FindAsync(Study, Stop)).ShouldBeNull();
        (await Passages.FindAsync(passage, Stop)).ShouldBeNull();
        await Studies.RestoreAsync(Study, Stop);
        (await Passages.FindAsync(passage, Stop))!.Text.ShouldBe("SN: 2 4");
    }

    [Fact]
    public async Task A_folder_with_a_bad_row_leaves_nothing_behind()
    {
        var folder = Directory.CreateTempSubdirectory().FullName;
        await File.WriteAllTextAsync(Path.Combine(folder, "study.csv"),
            "name,subject,handedness,comparison,question\nHalf,Nobody Known,right,,\n", Stop);
        await File.WriteAllTextAsync(
            Path.Combine(folder, "recordings.csv"),
            "title,take,player,ensemble,release,recorded,issued,kind,meter,tempo,duration,bars,searched,closeness,searched_on,note\n"
            + "Good,,Nobody Known,,,1970,,studio,4/4,100,,32,,,,\nBad,,Nobody Known,,,sometime,,studio,4/4,100,,32,,,,\n", Stop);
        var error = await Should.ThrowAsync<InvalidDataException>(() =>
            new StudyFolder(Studies, Recordings, Timelines, Attributions, Passages, Ideas, Sightings, new LineageStore(Source), Claims,
            new(Source), new(Source)).LoadAsync(folder, Stop));
        error.Message.ShouldStartWith("recordings.csv, row 2: ‘sometime’ is no date");
        (await Studies.AllAsync(Stop)).Select(s => s.Name).ShouldBe(["A study"]);
    }
    [Fact]
    public async Task A_study_whose_reading_was_cut_off_is_taken_away_at_the_next_start_and_no_other()
    {
        var half = await Studies.BeginAsync(new("Half", "", "Nobody Known", Handedness.Right, []), Stop);
        await Recordings.AddAsync(half, new()
        {
            PlayerId = (await Studies.FindAsync(half, Stop))!.Subject.Id,
            Title = "Cut off",
            Kind = RecordingKind.Studio
        }, null, Stop);
        var whole = await Studies.BeginAsync(new("Whole", "", "Somebody Known", Handedness.Right, []), Stop);
        await Studies.FinishAsync(whole, Stop);

        (await Studies.ClearUnfinishedAsync(Stop)).ShouldBe(1);
        (await Studies.AllAsync(Stop)).Select(s => s.Name).ShouldBe(["A study", "Whole"], ignoreOrder: true);
        (await Studies.ClearUnfinishedAsync(Stop)).ShouldBe(0);
    }

    /// <summary>The demo study has rows in nearly every table that hangs on a study.</summary>
    [Fact]
    public async Task A_study_goes_with_all_its_rows_and_no_row_of_another_goes()
    {
        var folder = new StudyFolder(Studies, Recordings, Timelines, Attributions, Passages, Ideas, Sightings, new LineageStore(Source),
            Claims, new(Source), new(Source));
        var demo = WorkingCopy.Study;
        await folder.LoadAsync(demo, Stop);
        var before = await RowsAsync();
        var second = await folder.LoadAsync(demo, Stop);
        await using (var cut = await Source.OpenConnectionAsync(Stop)) await cut.ExecuteAsync("insert into unfinished values (@second)",
            new { second });
        (await Studies.ClearUnfinishedAsync(Stop)).ShouldBe(1);
        (await RowsAsync()).ShouldBe(before);

        async Task<Dictionary<string, long>> RowsAsync()
        {
            await using var connection = await Source.OpenConnectionAsync(Stop);
            var rows = new Dictionary<string, long>();
            foreach (var table in (await connection.QueryAsync<string>(
                "select tablename::text from pg_tables where schemaname = 'public' and tablename <> 'evidence_change' order by 1"))
                .ToList())
                rows[table] = await connection.ExecuteScalarAsync<long>($"select count(*) from {table}");
            return rows;
        }
    }

    [Fact]
    public async Task A_database_of_a_newer_program_is_refused_untouched_and_two_starts_at_once_bring_it_up_to_date_once()
    {
        await using var database = await TestDatabase.CreateAsync();
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => Task.Run(() => Database.Migrate(database.ConnectionString), Stop)));
        await using var connection = new NpgsqlConnection(database.ConnectionString);
        await connection.ExecuteAsync(
            "insert into schemaversions (scriptname, applied) values ('InnerCadence.Storage.Migrations.9999_later.sql', now())");
        Should.Throw<InvalidOperationException>(() => Database.Migrate(database.ConnectionString)).Message.ShouldContain("newer version");
    }
}
