using Dapper;
using Npgsql;

namespace InnerCadence.Browser.Tests;

/// <summary>The application killed in the middle of a scan: nothing that was acknowledged is lost, nothing half-done stays.</summary>
[Collection(nameof(Site))]
public class KilledInTheMiddle(Site site)
{
    [Fact]
    public async Task A_scan_goes_on_after_its_application_was_killed_and_judgements_stay()
    {
        await using var connection = new NpgsqlConnection(site.ConnectionString);
        await connection.OpenAsync(TestContext.Current.CancellationToken);
        // Enough passages and ideas that the scan takes seconds.
        var study = await connection.ExecuteScalarAsync<long>(
            """
            with s as (insert into study (name) values ('Killed') returning id),
                 p as (insert into player (study_id, name, role) select id, 'Somebody', 'subject' from s returning id, study_id),
                 r as (insert into recording (study_id, player_id, title, kind) select study_id, id, 'Long', 'live' from p returning id, study_id),
                 a as (insert into passage (recording_id, kind) select r.id, 'groove' from r, generate_series(1, 1500) returning id),
                 g as (insert into reading (passage_id, text, bars) select id, E'HH: 16ths | 16ths | 16ths | 16ths\nSN: 2 (2a 3e) 4 | 2 4 | 2 (2a) 4 | 2 3a 4\nBD: 1 3& | 1 | 1 3& | 1', 4 from a returning id),
                 i as (insert into idea (study_id, nickname, text, rules) select s.id, 'idea ' || n, E'SN: (2a)\nBD: 3&', '{}' from s, generate_series(1, 25) as n returning id)
            select id from s
            """);
        var job = await connection.ExecuteScalarAsync<long>("insert into job (kind, study_id) values ('scan', @study) returning id",
            new { study });
        await UntilAsync(connection, job, "state = 'running' and progress >= 8");
        var judged = await connection.ExecuteScalarAsync<long>(
            "update sighting set judgement = 'confirmed', reason = 'before the crash' where id = (select min(x.id) from sighting x join "
                + "idea i on i.id = x.idea_id where i.study_id = @study) returning id", new { study });

        await site.KillAsync();
        (await connection.ExecuteScalarAsync<string>("select state from job where id = @job", new { job })).ShouldBe("running");
        var counts = (await connection.QueryAsync<int>(
            "select count(x.id)::int from idea i left join sighting x on x.idea_id = i.id where i.study_id = @study group by i.id order "
                + "by i.id", new { study })).ToList();
        counts.Distinct().Count().ShouldBeLessThanOrEqualTo(2, "an idea was looked for in all passages or in none");

        // The dead worker is taken for dead as soon as its heartbeat is old.
        await connection.ExecuteAsync("update job set heartbeat_at = now() - interval '1 hour' where id = @job", new { job });
        await site.StartAsync();
        await UntilAsync(connection, job, "state = 'done'", 300);
        (await connection.ExecuteScalarAsync<int>("select attempts from job where id = @job", new { job })).ShouldBe(2);
        var after = (await connection.QueryAsync<int>(
            "select count(x.id)::int from idea i left join sighting x on x.idea_id = i.id where i.study_id = @study group by i.id",
                new { study })).ToList();
        after.Distinct().ShouldHaveSingleItem().ShouldBeGreaterThan(1000);
        (await connection.ExecuteScalarAsync<string>("select reason from sighting where id = @judged", new { judged }))
            .ShouldBe("before the crash");

        var person = new Person(site.Browser(), site.Address).Opens($"/jobs/{job}");
        person.Reads("#job-said", "Looked for 25 ideas in every passage.");
    }

    private static async Task UntilAsync(NpgsqlConnection connection, long job, string condition, int seconds = 120)
    {
        var end = DateTime.UtcNow.AddSeconds(seconds);
        while (!await connection.ExecuteScalarAsync<bool>($"select {condition} from job where id = @job", new { job }))
        {
            DateTime.UtcNow.ShouldBeLessThan(end, condition);
            await Task.Delay(30, TestContext.Current.CancellationToken);
        }
    }
}
