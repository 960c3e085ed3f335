using System.Diagnostics;
using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Schema;
using InnerCadence.Storage.Studies;
using Npgsql;

namespace InnerCadence.Web.Tests.Starting;

/// <summary>A backup and an archive of every earlier version come in with the same judgements and texts.</summary>
public sealed class WhatPeopleHave : IAsyncLifetime
{
    private static readonly CancellationToken Stop = TestContext.Current.CancellationToken;
    private TestDatabase database = null!;
    private NpgsqlDataSource source = null!;

    private static string Fixture(string name) => Path.Combine(WorkingCopy.Root, "tests", "fixtures", "version-1", name);

    public async ValueTask InitializeAsync()
    {
        database = await TestDatabase.CreateAsync();
        source = Database.Open(database.ConnectionString);
    }

    public async ValueTask DisposeAsync()
    {
        await source.DisposeAsync();
        await database.DisposeAsync();
    }

    [Fact]
    public async Task A_backup_of_version_1_is_migrated_and_nothing_that_was_judged_or_written_is_gone()
    {
        await using (var empty = await source.OpenConnectionAsync(Stop)) await empty.ExecuteAsync(
            "drop schema public cascade; create schema public");
        await RestoreAsync(Fixture("backup.dump"));
        Database.Migrate(database.ConnectionString);
        await KeepsAsync(1);
        await CountsAnewOnceAsync(new(1));
    }

    [Fact]
    public async Task An_archive_of_version_1_comes_in_and_nothing_that_was_judged_or_written_is_gone()
    {
        await using var file = File.OpenRead(Fixture("archive.zip"));
        var (unpacked, problem) = await new StudyArchive(source).ReadAsync(file, null, Stop);
        problem.ShouldBeNull();
        await KeepsAsync(unpacked!.Study.Value);
    }

    /// <summary>The first reweighing says why its numbers moved, old beside new, and only the first.</summary>
    private async Task CountsAnewOnceAsync(StudyId study)
    {
        var (ideas, recounts, studies) = (new IdeaStore(source), new RecountStore(source), new StudyStore(source));
        var material = new StudyMaterial(new(source, new(source)), new(source), new(source, new(source), new(source)), new(source));
        var claims = new ClaimStore(source, material);
        var articles = new ArticleStore(source);
        var anew = new InnerCadence.Web.Telling.CountingAnew(recounts, studies, claims, articles,
            new(ideas, new(source), new(source), material, claims, new(source), articles,
                new(new(source), new(source), new(source, new(Path.GetTempPath()), new(Path.GetTempPath())), new(source, new(source))),
                new(source, new(source), new(source))));
        (await recounts.DueAsync(Stop)).ShouldBe([study]);
        await anew.RunAsync(Stop);
        (await recounts.DueAsync(Stop)).ShouldBeEmpty();
        var told = await recounts.OfStudyAsync(study, Stop);
        told.Count.ShouldBe(6);
        (told[0].What, told[0].Was, told[0].NowIs).ShouldBe(("cellar door is in at least 30 % of Ilse Marrowby’s recordings",
            "open: 9 of 15 searched recordings", "open: 7 of 11 searched recordings"));
        var history = await claims.HistoryAsync((await claims.OfStudyAsync(study, Stop)).First(c => c.Sentence == told[0].What).Id, Stop);
        history[0].Cause.ShouldBe("counted anew (version 2)");
        foreach (var id in await claims.StudiesAsync(Stop)) await claims.WeighAsync((await studies.FindAsync(id, Stop))!, Stop);
        (await claims.HistoryAsync((await claims.OfStudyAsync(study, Stop)).First(c => c.Sentence == told[0].What).Id,
            Stop)).Count.ShouldBe(history.Count);
        (await articles.EditionsAsync(study, Stop)).Single().Counted.ShouldBe(1);
        await recounts.DismissAsync(study, Stop);
        (await recounts.OfStudyAsync(study, Stop)).ShouldBeEmpty();
    }

    private async Task KeepsAsync(long study)
    {
        await using var connection = await source.OpenConnectionAsync(Stop);
        async Task<string> Ask(string sql) => await connection.ExecuteScalarAsync<string>(new(sql, new { study }, cancellationToken: Stop))
            ?? "";
        (await Ask("select string_agg(judgement || ' ' || n, ', ' order by judgement) from (select judgement, count(*) n from sighting "
            + "x join idea i on i.id = x.idea_id where i.study_id = @study and judgement is not null group by 1) as j"))
            .ShouldBe("confirmed 46, near-miss 9, rejected 11");
        (await Ask("select md5(string_agg(i.nickname || a.bar || x.start_tick || x.judgement || x.reason, ',' order by i.nickname, "
            + "a.origin, x.start_tick)) from sighting x join idea i on i.id = x.idea_id join reading g on g.id = x.reading_id join "
            + "passage a on a.id = g.passage_id where i.study_id = @study and x.judgement is not null"))
            .ShouldBe("e650d461dbd7ea7be946a3205b5b9921");
        (await Ask("select string_agg(concat_ws(' ', r.title, h.at_ms, h.bar, h.note), '; ' order by r.title) from heard_sighting h "
            + "join recording r on r.id = h.recording_id where r.study_id = @study"))
            .ShouldBe("Low Tide Shuffle 80 by ear; Tarred Rope 92400 under the talking");
        (await Ask("select md5(string_agg(g.text || g.note, ',' order by g.origin)) from reading g join passage a on a.id = "
            + "g.passage_id join recording r on r.id = a.recording_id where r.study_id = @study"))
            .ShouldBe("f02f26d9826218dade41cac60fca6827");
        (await Ask("select md5(string_agg(sentence || test, ',' order by id)) from claim where study_id = @study"))
            .ShouldBe("13cf0afa0923264e633f575177d51912");
        (await Ask("select md5(title || text || numbers || note) from edition where study_id = @study"))
            .ShouldBe("612d951f6435113ee93ff818f8b137d1");
    }

    private async Task RestoreAsync(string file)
    {
        var to = new NpgsqlConnectionStringBuilder(database.ConnectionString);
        var start = new ProcessStartInfo("pg_restore",
            ["--exit-on-error", "--no-owner", $"--host={to.Host}", $"--port={to.Port}", $"--username={to.Username}",
            $"--dbname={to.Database}", file])
        { RedirectStandardError = true };
        start.Environment["PGPASSWORD"] = to.Password;
        using var restore = Process.Start(start)!;
        var said = await restore.StandardError.ReadToEndAsync(Stop);
        await restore.WaitForExitAsync(Stop);
        restore.ExitCode.ShouldBe(0, said);
    }
}
