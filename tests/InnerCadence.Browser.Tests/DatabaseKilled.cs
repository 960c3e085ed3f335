using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using Dapper;
using Npgsql;

namespace InnerCadence.Browser.Tests;

/// <summary>The database killed in the middle of a save: it recovers, the page gives back what was typed, and nothing half-done
/// stays.</summary>
[Collection(nameof(Site))]
public partial class DatabaseKilled(Site site)
{
    [Fact]
    public async Task A_save_whose_database_is_killed_changes_nothing_and_gives_back_the_text()
    {
        var stop = TestContext.Current.CancellationToken;
        using var client = new HttpClient { BaseAddress = new(site.Address) };
        var page = await client.GetStringAsync("/passages/22", stop);
        var before = await TextAsync();

        await using var holder = new NpgsqlConnection(site.ConnectionString + ";Pooling=false");
        await holder.OpenAsync(stop);
        var transaction = await holder.BeginTransactionAsync(stop);
        await holder.ExecuteAsync("lock table sighting in access exclusive mode", transaction: transaction);
        var save = client.PostAsync("/passages/22", new FormUrlEncodedContent(new Dictionary<string, string>
        {
            ["__RequestVerificationToken"] = Token().Match(page).Groups[1].Value,
            ["Input.Version"] = Version().Match(page).Groups[1].Value,
            ["Input.Text"] = "SN: 1 2 3 4 typed just now",
            ["Input.Kind"] = "fill",
        }), stop);
        int? backend = null;
        while (backend is null)
        {
            await Task.Delay(50, stop);
            backend = await holder.ExecuteScalarAsync<int?>(
                "select pid from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock' and pid <> "
                    + "pg_backend_pid()", transaction: transaction);
        }
        using (var kill = Process.Start("kill", ["-9", backend.Value.ToString(CultureInfo.InvariantCulture)])) await kill.WaitForExitAsync(
            stop);

        var answer = await save;
        answer.StatusCode.ShouldBe(HttpStatusCode.InternalServerError);
        var told = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync(stop));
        told.ShouldContain("Nothing was changed");
        told.ShouldContain("SN: 1 2 3 4 typed just now");
        told.ShouldNotContain("Npgsql");

        // The server takes a moment to recover from the crash.
        for (var attempt = 0; attempt < 600 && (await client.GetAsync("/healthz", stop)).StatusCode != HttpStatusCode.OK;
            attempt++) await Task.Delay(200, stop);
        (await TextAsync()).ShouldBe(before);
        new Person(site.Browser(), site.Address).Opens("/passages/22").Reads("h1", "Herring Run");
    }

    private async Task<string?> TextAsync()
    {
        await using var connection = new NpgsqlConnection(site.ConnectionString + ";Pooling=false");
        return await connection.ExecuteScalarAsync<string>("select text from reading where passage_id = 22 and preferred");
    }

    [GeneratedRegex("""id="passage".*?name="__RequestVerificationToken"[^>]*value="([^"]+)""", RegexOptions.Singleline)]
    private static partial Regex Token();

    [GeneratedRegex("""name="Input.Version"[^>]*value="(\d+)""")]
    private static partial Regex Version();
}
