using System.Net;
using Dapper;
using Npgsql;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Whoever looks changes nothing: every address that can be looked at is asked for on a database that takes no change.</summary>
public class ReadingOnly(Application application) : IClassFixture<Application>
{
    private static readonly string[] Also =
    [
        "/studies/1/tables/sightings", "/studies/1/tables/recordings?format=json", "/studies/1/tables?handler=Archive",
            "/studies/1/report?handler=File&format=md", "/sightings/3", "/passages/22", "/studies/1/trash",
        "/recordings/3", "/studies/1/find?q=run", "/studies/1/next", "/openapi/v1.json", "/healthz",
    ];

    [Fact]
    public async Task No_look_writes_anything()
    {
        var source = application.Get<NpgsqlDataSource>();
        string name;
        await using (var connection = await source.OpenConnectionAsync(TestContext.Current.CancellationToken))
        {
            name = (await connection.ExecuteScalarAsync<string>("select current_database()"))!;
            // Whatever waited to be weighed is weighed, so that only looking is left.
            await Task.Delay(2500, TestContext.Current.CancellationToken);
            await connection.ExecuteAsync($"alter database {name} set default_transaction_read_only = on");
        }
        source.Clear();
        try
        {
            await using (var connection = await source.OpenConnectionAsync(TestContext.Current.CancellationToken))
                await Should.ThrowAsync<PostgresException>(() => connection.ExecuteAsync("insert into unfinished values (1)"));
            var addresses = typeof(EveryPage).GetMethod(nameof(EveryPage.Opens_under_a_strict_policy_with_no_script_or_style_of_its_own))!
                .GetCustomAttributes(typeof(InlineDataAttribute), false).Cast<InlineDataAttribute>().Select(d => (string)d.Data[0]!);
            foreach (var address in addresses.Concat(Also))
            {
                using var answer = await application.Client.GetAsync(address, TestContext.Current.CancellationToken);
                ((int)answer.StatusCode).ShouldBeLessThan(500, address);
            }
        }
        finally
        {
            await using var connection = await source.OpenConnectionAsync(TestContext.Current.CancellationToken);
            await connection.ExecuteAsync("set default_transaction_read_only = off");
            await connection.ExecuteAsync($"alter database {name} set default_transaction_read_only = off");
            source.Clear();
        }
    }
}
