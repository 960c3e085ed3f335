using Dapper;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Schema;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using Npgsql;

namespace InnerCadence.Storage.Tests;

/// <summary>Backups from inside the application: made when due, rotated, read back before they count, and restored only beside a second
/// copy.</summary>
public sealed class BackingUpByItself : IAsyncLifetime
{
    private static readonly DateTime Noon = new(2031, 5, 4, 12, 0, 0);
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("inner-cadence-backups-");
    private TestDatabase database = null!;
    private NpgsqlDataSource source = null!;
    private BackupFolder store = null!;
    private Backups backups = null!;

    private static CancellationToken Stop => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        database = await TestDatabase.CreateAsync();
        source = Database.Open(database.ConnectionString);
        store = new(folder.FullName);
        backups = new(source, database.ConnectionString, TestDatabase.Restorer, store);
    }

    public async ValueTask DisposeAsync()
    {
        await source.DisposeAsync();
        await database.DisposeAsync();
        folder.Delete(recursive: true);
    }

    private Task<StudyId> StudyAsync(string name) =>
        new StudyStore(source).AddAsync(new(name, "", "Nell Tarrow", InnerCadence.Core.Music.Handedness.Left, []), Stop);

    private async Task<List<string>> NamesAsync() =>
        [.. (await new StudyStore(source).AllAsync(Stop)).Select(s => s.Name).Order(StringComparer.Ordinal)];

    [Fact]
    public async Task A_restore_brings_back_what_was_and_keeps_what_is()
    {
        await StudyAsync("First");
        var (made, problem) = await backups.MakeAsync(BackupReason.ByHand, Noon, Stop);
        problem.ShouldBeNull();
        await StudyAsync("Second");

        var (before, failed) = await backups.RestoreAsync(made!, Noon.AddHours(1), Stop);
        failed.ShouldBeNull();
        (await NamesAsync()).ShouldBe(["First"]);
        store.All().Select(b => b.Reason).ShouldBe([BackupReason.BeforeRestore, BackupReason.ByHand]);
        // The second copy is whole: what was there comes back from it.
        (await backups.RestoreAsync(before!, Noon.AddHours(2), Stop)).Problem.ShouldBeNull();
        (await NamesAsync()).ShouldBe(["First", "Second"]);
        await using var connection = await source.OpenConnectionAsync(Stop);
        (await connection.ExecuteScalarAsync<int>(
            "select count(*)::int from pg_database where datname ~ '^cadence_(check|brought|restored|old)_'")).ShouldBe(0);
    }

    [Fact]
    public async Task What_is_no_whole_backup_changes_nothing()
    {
        await StudyAsync("First");
        var (made, _) = await backups.MakeAsync(BackupReason.ByHand, Noon, Stop);
        await StudyAsync("Second");
        var bytes = await File.ReadAllBytesAsync(store.PathOf(made!), Stop);

        async Task<string> ToldAsync(byte[] content, int hour)
        {
            var part = store.Part();
            await File.WriteAllBytesAsync(part, content, Stop);
            return (await backups.RestoreAsync(store.Keep(part, BackupReason.Brought, Noon.AddHours(hour)),
                Noon.AddHours(hour).AddMinutes(1), Stop)).Problem ?? "restored";
        }

        (await ToldAsync(bytes[..(bytes.Length / 2)], 1)).ShouldContain("Nothing was restored");
        (await ToldAsync([.. "PGDMP and then a letter"u8], 2)).ShouldContain("Nothing was restored");
        await using (var connection = await source.OpenConnectionAsync(Stop)) await connection.ExecuteAsync(
            "insert into schemaversions (scriptname, applied) values ('9999_later.sql', now())");
        var (newer, _) = await backups.MakeAsync(BackupReason.ByHand, Noon.AddHours(3), Stop);
        await using (var connection = await source.OpenConnectionAsync(Stop)) await connection.ExecuteAsync(
            "delete from schemaversions where scriptname = '9999_later.sql'");
        (await backups.RestoreAsync(newer!, Noon.AddHours(4), Stop)).Problem.ShouldBe(
            "This backup was made by a newer version; bring this one up to date first. Nothing was restored.");
        (await NamesAsync()).ShouldBe(["First", "Second"]);
    }

    /// <summary>The lines by which a backup fills its tables stand in the file as they are sent: whoever made the file chose
    /// them.</summary>
    [Fact]
    public async Task A_file_that_brings_commands_runs_none_and_changes_nothing()
    {
        await StudyAsync("First");
        var (made, _) = await backups.MakeAsync(BackupReason.ByHand, Noon, Stop);
        var bytes = await File.ReadAllBytesAsync(store.PathOf(made!), Stop);
        var at = bytes.AsSpan().IndexOf("COPY public.study ("u8);
        var length = bytes.AsSpan(at).IndexOf("FROM stdin;"u8) + "FROM stdin;".Length;
        string[] commands = ["COPY public.study FROM PROGRAM 'touch {0}';", "ALTER ROLE CURRENT_USER SUPERUSER;",
            "GRANT cadence_program TO CURRENT_USER;"];
        foreach (var (i, command) in commands.Index())
        {
            var trace = Path.Combine(Path.GetTempPath(), $"t{Guid.NewGuid().ToString("n")[..6]}");
            string.Format(command, trace).PadRight(length).Select(c => (byte)c).ToArray().CopyTo(bytes, at);
            var part = store.Part();
            await File.WriteAllBytesAsync(part, bytes, Stop);
            var (_, problem) = await backups.RestoreAsync(store.Keep(part, BackupReason.Brought, Noon.AddHours(i + 1)),
                Noon.AddHours(i + 1).AddMinutes(1), Stop);
            problem.ShouldNotBeNull(command).ShouldContain("Nothing was restored");
            File.Exists(trace).ShouldBeFalse(command);
        }
        (await NamesAsync()).ShouldBe(["First"]);
        await using var connection = await source.OpenConnectionAsync(Stop);
        (await connection.QueryAsync<string>(
            "select rolname from pg_roles where rolname in ('cadence_program', 'cadence_restorer') and (rolsuper or rolcreaterole)"))
            .ShouldBeEmpty();
    }

    [Fact]
    public async Task Of_a_brought_file_only_the_rows_are_taken()
    {
        var study = await StudyAsync("First");
        await using (var connection = await source.OpenConnectionAsync(Stop))
            await connection.ExecuteAsync("""
                create function spoil() returns trigger language plpgsql as $$ begin delete from recording; return new; end $$;
                create trigger spoil after insert or update on study for each row execute function spoil();
                create rule never as on delete to study do instead nothing;
                create table extra (id int); insert into extra values (1);
                alter table study alter column question set default current_user;
                """);
        var (made, _) = await backups.MakeAsync(BackupReason.ByHand, Noon, Stop);
        (await backups.RestoreAsync(made!, Noon.AddHours(1), Stop)).Problem.ShouldBeNull();
        (await NamesAsync()).ShouldBe(["First"]);
        await using var restored = await source.OpenConnectionAsync(Stop);
        (await restored.ExecuteScalarAsync<int>(
            "select (select count(*) from pg_proc where proname = 'spoil') + (select count(*) from pg_rules where rulename = 'never') + "
            + "(select count(*) from pg_class where relname = 'extra')")).ShouldBe(0);
        // The counters go on where they were.
        (await StudyAsync("Second")).Value.ShouldBe(study.Value + 1);
    }

    [Fact]
    public async Task A_table_that_is_a_view_by_now_is_not_read()
    {
        await StudyAsync("First");
        await using (var connection = await source.OpenConnectionAsync(Stop))
            await connection.ExecuteAsync("alter table sighting rename to real; create view sighting as select * from real");
        var (made, _) = await backups.MakeAsync(BackupReason.ByHand, Noon, Stop);
        (await backups.RestoreAsync(made!, Noon.AddHours(1), Stop)).Problem.ShouldBe(
            "This is no backup of Inner Cadence. Nothing was restored.");
    }

    [Fact]
    public async Task Rows_that_do_not_hold_together_change_nothing()
    {
        await StudyAsync("First");
        await using (var connection = await source.OpenConnectionAsync(Stop))
            await connection.ExecuteAsync(
                "alter table player drop constraint player_study_id_fkey; insert into player (study_id, name, role) values (999, "
                + "'Nobody', 'subject')");
        var (made, _) = await backups.MakeAsync(BackupReason.ByHand, Noon, Stop);
        (await backups.RestoreAsync(made!, Noon.AddHours(1), Stop)).Problem!.ShouldContain("could not be restored");
    }

    [Fact]
    public async Task An_older_backup_is_brought_up_to_date_as_it_is_restored()
    {
        await StudyAsync("First");
        await using (var connection = await source.OpenConnectionAsync(Stop))
            await connection.ExecuteAsync("drop schema public cascade; create schema public");
        Database.Migrate(database.ConnectionString, step => string.CompareOrdinal(step, "InnerCadence.Storage.Migrations.0012") < 0);
        await using (var connection = await source.OpenConnectionAsync(Stop)) await connection.ExecuteAsync(
            "insert into study (name) values ('Old')");
        var (made, _) = await backups.MakeAsync(BackupReason.ByHand, Noon, Stop);
        Database.IsBehind(database.ConnectionString).ShouldBeTrue();
        (await backups.RestoreAsync(made!, Noon.AddHours(1), Stop)).Problem.ShouldBeNull();
        Database.IsBehind(database.ConnectionString).ShouldBeFalse();
        await using var restored = await source.OpenConnectionAsync(Stop);
        (await restored.QueryAsync<string>("select name from study")).ShouldBe(["Old"]);
    }

    [Fact]
    public async Task Where_no_role_reads_files_nothing_is_restored()
    {
        var (made, _) = await backups.MakeAsync(BackupReason.ByHand, Noon, Stop);
        (await new Backups(source, database.ConnectionString, null, store)
            .RestoreAsync(made!, Noon.AddHours(1), Stop)).Problem!.ShouldContain("./start makes one");
    }

    [Fact]
    public async Task The_scheduled_ones_are_made_when_they_are_due_and_the_oldest_goes()
    {
        await backups.PlanAsync(new("day", 2), Stop);
        (await backups.MakeAsync(BackupReason.ByHand, Noon.AddDays(-9), Stop)).Problem.ShouldBeNull();
        (await backups.KeepUpAsync(Noon, Stop)).Made.ShouldNotBeNull();
        (await backups.KeepUpAsync(Noon.AddHours(23), Stop)).ShouldBe((null, null));
        foreach (var day in (int[])[1, 2]) (await backups.KeepUpAsync(Noon.AddDays(day), Stop)).Made.ShouldNotBeNull();
        // One made by hand is never let go.
        store.All().Select(b => (b.Reason, b.MadeAt)).ShouldBe([(BackupReason.Scheduled, Noon.AddDays(2)),
            (BackupReason.Scheduled, Noon.AddDays(1)), (BackupReason.ByHand, Noon.AddDays(-9))]);
        await backups.PlanAsync(new("never", 2), Stop);
        (await backups.KeepUpAsync(Noon.AddDays(99), Stop)).ShouldBe((null, null));
    }

    [Fact]
    public async Task A_database_that_cannot_be_reached_is_said_and_leaves_no_file()
    {
        var elsewhere = new Backups(source, new NpgsqlConnectionStringBuilder(database.ConnectionString)
        {
            Database =
            "nowhere_at_all"
        }.ConnectionString, TestDatabase.Restorer, store);
        var (made, problem) = await elsewhere.MakeAsync(BackupReason.ByHand, Noon, Stop);
        made.ShouldBeNull();
        problem!.ShouldStartWith("The backup failed:");
        folder.EnumerateFiles().ShouldBeEmpty();
    }
}
