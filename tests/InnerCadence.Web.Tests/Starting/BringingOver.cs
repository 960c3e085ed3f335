namespace InnerCadence.Web.Tests.Starting;

/// <summary>A data folder made when the program still worked as its cluster's superuser.</summary>
public sealed class BringingOver : IAsyncLifetime
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("inner-cadence-old");

    private string Data => Path.Combine(folder.FullName, "data");

    public async ValueTask InitializeAsync() => await Shell.RunAsync("chmod 755 \"$1\"", folder.FullName);

    public async ValueTask DisposeAsync() =>
        await Shell.RunAsync("source tools/setup.sh; find_postgres; cluster=\"$1/cluster\"; stop_cluster; rm -rf \"$(dirname \"$1\")\"",
            Data);

    private const string OldCluster = """
        source tools/setup.sh; find_postgres; mkdir -p "$1"; [ "$(id -u)" != 0 ] || chown postgres "$1"
        printf secretofbefore > "$1/database-password"; [ "$(id -u)" != 0 ] || chown postgres "$1/database-password"
        as_postgres "$pg/initdb" -D "$1/cluster" -U cadence --auth=scram-sha-256 --pwfile="$1/database-password" --locale=C.UTF-8 --encoding=UTF8 > /dev/null
        db_port=$(free_port); cluster=$1/cluster; know_password "$1" "$1/database-password"
        as_postgres "$pg/pg_ctl" -D "$1/cluster" -l "$1/postgres.log" -w -o "-p $db_port -c listen_addresses=127.0.0.1 -c unix_socket_directories=''" start > /dev/null 2>&1
        ask postgres 'create database cadence'
        ask cadence 'create table study (id int generated always as identity, name text); create function one() returns int language sql as $$ select 1 $$; create view names as select name from study; create sequence loose'
        ask cadence "insert into study (name) values ('Kept')"
        """;

    /// <summary>The program of before was its cluster's superuser. Wherever its bringing over is cut off, the next start goes on.</summary>
    [Theory]
    [InlineData("")]
    [InlineData("mint $1/owner-password.next; ask postgres \"alter role cadence password '$(as_postgres cat $1/owner-password.next)'\"")]
    [InlineData("settle_owner $1; mint $1/database-password")]
    [InlineData("settle_owner $1; give() { false; }; (settle_roles $1)")]
    [InlineData("settle_owner $1; settle_roles $1; ask postgres 'alter database cadence owner to cadence'")]
    public async Task A_cluster_of_before_is_given_to_a_plain_role(string done)
    {
        await Shell.RunAsync($"{OldCluster}\n{done}", Data);
        var (_, said) = await Shell.RunAsync("""
            source tools/setup.sh; find_postgres; start_cluster "$1"; start_cluster "$1"
            part() { sed -nE "s/.*$1=([^;]*).*/\1/p" <<< "$2"; }
            as() { PGPASSWORD=$(part Password "$1") "$pg/psql" -h 127.0.0.1 -p "$db_port" -U "$(part Username "$1")" -d "$2" -qAtc "$3" 2>&1; }
            as "$INNER_CADENCE_DB" cadence "select name from names"
            as "$INNER_CADENCE_DB" cadence "select rolsuper, rolcreaterole, rolcreatedb from pg_roles where rolname = current_user"
            as "$INNER_CADENCE_DB" cadence "alter table study add column later int; drop view names; drop function one(); drop sequence loose" && echo changed
            as "$INNER_CADENCE_DB" cadence "copy study from program 'true'" | grep -o "must be superuser"
            as "$INNER_CADENCE_RESTORER" cadence "select 1" | grep -o "permission denied"
            PGPASSWORD=secretofbefore "$pg/psql" -h 127.0.0.1 -p "$db_port" -U cadence -d postgres -qAtc "select 1" 2>&1 | grep -o "authentication failed"
            stat -c '%a %n' "$1"/*-password | sed "s#$1/##"
            """, Data);
        said.Replace("The program is no longer the database’s superuser: a plain role works from now on, and every study is given to "
            + "it.\n", "")
            .ShouldBe("Kept\nf|f|t\nchanged\nmust be superuser\npermission denied\nauthentication failed\n600 database-password\n600 "
                + "owner-password\n600 restorer-password\n");
    }
}
