using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using Dapper;
using InnerCadence.Web.Tests.Starting;
using Npgsql;

namespace InnerCadence.Web.Tests.Faults;

/// <summary>
/// The program, a backend of the database or the whole database killed at a moment of chance while something is saved, imported, scanned,
/// backed up or restored: what was acknowledged is there,
/// nothing is half-done, and the next start works. A few run with the others, seeded; <c>./test faults</c> tries as many as
/// INNER_CADENCE_KILLS says.
/// </summary>
public sealed class KillsAtRandom : IAsyncLifetime
{
    private enum Victim { Program, Backend, Database }

    private const int Rows = 60;
    private static readonly int Tries = int.TryParse(Environment.GetEnvironmentVariable("INNER_CADENCE_KILLS"),
        CultureInfo.InvariantCulture, out var n) ? n : 4;
    private static readonly TimeSpan Patient = TimeSpan.FromMinutes(10);
    private static CancellationToken Stop => TestContext.Current.CancellationToken;

    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("inner-cadence-kills");
    private readonly Dictionary<long, string> texts = [];
    private readonly List<string> imports = [];
    private Process? start;
    private string port = "";
    private HttpClient client = new();

    private string Data => Path.Combine(folder.FullName, "data");

    public async ValueTask InitializeAsync()
    {
        await Shell.RunAsync("chmod 755 \"$1\"", folder.FullName);
        port = TheStartCommand.FreePort();
    }

    public async ValueTask DisposeAsync()
    {
        await EndAsync();
        client.Dispose();
        await Shell.RunAsync("pkill -9 -f \"urls http://127.0.0.1:$2\"; source tools/setup.sh; find_postgres; cluster=\"$1/cluster\"; "
            + "stop_cluster; rm -rf \"$(dirname \"$1\")\"", Data, port);
    }

    [Fact]
    public async Task Nothing_acknowledged_is_lost_and_nothing_is_half_done()
    {
        await BeginAsync();
        await using (var connection = await OpenAsync())
            foreach (var (id, text) in await connection.QueryAsync<(long,
                string)>("select passage_id, text from reading where preferred")) texts[id] = text;
        var (baseline, studies) = (new Dictionary<long, string>(texts), 1);
        (await PostAsync("/settings", "Back up now")).ShouldBeTrue("the backup to go back to");
        var dump = Directory.EnumerateFiles(Path.Combine(Data, "backups"), "*-by-hand.dump").Single();

        for (var i = 0; i < Tries; i++)
        {
            var random = new Random(i);
            var (work, victim) = (i % 5, (Victim)(i / 5 % 3));
            var changed = work == 0 ? texts.Keys.Order().ElementAt(random.Next(texts.Count)) : 0;
            var typed = $"SN: 1 2 3 4\n# try {i}";
            var doing = work switch
            {
                0 => PostAsync($"/passages/{changed}", "Save", ("Input.Text", typed)),
                1 => ImportAsync($"Killed {i}"),
                2 => ScanAsync(),
                3 => PostAsync("/settings", "Back up now"),
                _ => PostAsync("/settings", $"restore {Path.GetFileName(dump)}", ("sure", "true"), ("name", Path.GetFileName(dump))),
            };
            await Task.Delay(random.Next(0, work is 3 or 4 ? 4000 : 700), Stop);
            await KillAsync(victim);
            var acknowledged = await doing;
            var why = $"try {i}: {work} and {victim} killed, {(acknowledged ? "acknowledged" : "not acknowledged")}";
            if (victim != Victim.Backend) await EndAsync();
            if (victim != Victim.Backend) await BeginAsync();
            await UntilHealthyAsync(why);

            await using var connection = await OpenAsync();
            var now = (await connection.QueryAsync<(long, string)>("select passage_id, text from reading where preferred")).ToDictionary();
            if (work == 0)
            {
                if (acknowledged) now[changed].ShouldBe(typed, why);
                else now[changed].ShouldBeOneOf([texts[changed], typed], why);
                texts[changed] = now[changed];
            }
            if (work == 4 && now[texts.Keys.Min()] == baseline[texts.Keys.Min()]
                && now.All(t => baseline.TryGetValue(t.Key, out var was) && was == t.Value))
            {
                foreach (var (id, text) in baseline) texts[id] = text;
                imports.Clear();
            }
            else if (work == 4) acknowledged.ShouldBeFalse(why);
            now.OrderBy(t => t.Key).ShouldBe(texts.OrderBy(t => t.Key), why);
            (await connection.ExecuteScalarAsync<int>("select count(*)::int from study")).ShouldBe(studies, why);
            Directory.EnumerateFiles(Path.Combine(Data, "backups"), "*.dump")
                .Select(f => Encoding.ASCII.GetString(File.ReadAllBytes(f).AsSpan(0, 5))).Distinct().ShouldBe(["PGDMP"], why);
        }

        await using var last = await OpenAsync();
        await last.ExecuteAsync("update job set heartbeat_at = now() - interval '1 hour' where state = 'running'");
        for (var end = DateTime.UtcNow + Patient; await last.ExecuteScalarAsync<bool>(
            "select exists (select 1 from job where state in ('waiting', 'running'))");
            await Task.Delay(200, Stop)) DateTime.UtcNow.ShouldBeLessThan(end, "jobs end");
        foreach (var title in imports)
            (await last.ExecuteScalarAsync<int>("select count(*)::int from recording where title like @like", new { like = title + " %" }))
                .ShouldBeOneOf(0, Rows);
        (await last.ExecuteScalarAsync<int>("select count(*)::int from job where state not in ('done', 'failed')")).ShouldBe(0);
    }

    private async Task<bool> ImportAsync(string title)
    {
        try
        {
            var csv = "title,player,date,bars\n" + string.Concat(Enumerable.Range(1, Rows)
                .Select(i => $"{title} {i},Ilse Marrowby,1967,64\n"));
            var page = await PageAsync("/studies/1");
            using var content = new MultipartFormDataContent { { new StringContent(Token(page)), "__RequestVerificationToken" },
                { new ByteArrayContent(Encoding.UTF8.GetBytes(csv)), "file", "killed.csv" } };
            var response = await client.PostAsync("/files?study=1", content, Stop);
            var address = response.RequestMessage!.RequestUri!.PathAndQuery;
            imports.Add(title);
            var shown = new HtmlParser().ParseDocument(await response.Content.ReadAsStringAsync(Stop));
            var form = shown.Forms.First(f => f.QuerySelector("button.act") is not null);
            return (await client.PostAsync(form.GetAttribute("action") ?? address, new FormUrlEncodedContent(Values(form)),
                Stop)).IsSuccessStatusCode;
        }
        catch (Exception e) when (IsCutOff(e))
        {
            return false;
        }
    }

    private async Task<bool> ScanAsync()
    {
        try
        {
            await using var connection = await OpenAsync();
            return await connection.ExecuteAsync("insert into job (kind, study_id) values ('scan', (select min(id) from study))") == 1;
        }
        catch (Exception e) when (IsCutOff(e))
        {
            return false;
        }
    }

    /// <summary>True where the answer said that it was done.</summary>
    private async Task<bool> PostAsync(string address, string button, params (string Name, string Value)[] fields)
    {
        try
        {
            var page = await PageAsync(address);
            var form = button.StartsWith("restore ", StringComparison.Ordinal)
                ? page.Forms.First(f => f.QuerySelector($"[name=name][value='{button[8..]}']") is not null
                    && f.QuerySelector("[name=sure]") is not null)
                : page.QuerySelectorAll("button").OfType<IHtmlButtonElement>().First(b => b.TextContent.Trim() == button).Form!;
            var values = Values(form);
            foreach (var (name, value) in fields) values[name] = value;
            var response = await client.PostAsync(form.GetAttribute("action") is { Length: > 0 } action ? action : address,
                new FormUrlEncodedContent(values), Stop);
            return response.StatusCode == HttpStatusCode.OK && (await response.Content.ReadAsStringAsync(Stop))
                .Contains("class=\"notice\"", StringComparison.Ordinal);
        }
        catch (Exception e) when (IsCutOff(e))
        {
            return false;
        }
    }

    private static bool IsCutOff(Exception e) => e is HttpRequestException or SocketException or IOException or NpgsqlException
        or TaskCanceledException or InvalidOperationException or NullReferenceException;

    private static Dictionary<string, string> Values(IHtmlFormElement form) =>
        form.QuerySelectorAll("[name]").Select(e => (Name: e.GetAttribute("name")!, Value: e switch
        {
            IHtmlInputElement { Type: "checkbox" } box => box.IsChecked ? box.Value : null,
            IHtmlInputElement input => input.Value,
            IHtmlTextAreaElement area => area.Value,
            IHtmlSelectElement select => select.Value,
            _ => null,
        })).Where(f => f.Value is not null).GroupBy(f => f.Name).ToDictionary(g => g.Key, g => g.First().Value!);

    private static string Token(IHtmlDocument page) => page.QuerySelector("[name=__RequestVerificationToken]")!.GetAttribute("value")!;

    private async Task<IHtmlDocument> PageAsync(string address) =>
        new HtmlParser().ParseDocument(await client.GetStringAsync(address, Stop));

    private async Task KillAsync(Victim victim)
    {
        var pid = victim switch
        {
            Victim.Program => (await Shell.RunAsync("pgrep -f \"urls http://127.0.0.1:$1\"", port)).Said.Trim(),
            Victim.Backend => $"{await BackendAsync()}",
            _ => (await File.ReadAllLinesAsync(Path.Combine(Data, "cluster", "postmaster.pid"), Stop))[0],
        };
        await Shell.RunAsync("kill -9 $1", pid);
    }

    private async Task<int> BackendAsync()
    {
        await using var connection = await OpenAsync();
        return await connection.ExecuteScalarAsync<int>(
            "select pid from pg_stat_activity where usename in ('cadence_program', 'cadence_restorer') order by state = 'active' desc, "
            + "pid = pg_backend_pid() limit 1");
    }

    /// <summary>A database that recovers from a kill is away for a moment.</summary>
    private async Task<NpgsqlConnection> OpenAsync()
    {
        for (var end = DateTime.UtcNow + Patient; ; await Task.Delay(200, Stop))
        {
            try
            {
                return await OpenOnceAsync();
            }
            catch (NpgsqlException) when (DateTime.UtcNow < end)
            {
                // Not yet.
            }
        }
    }

    private async Task<NpgsqlConnection> OpenOnceAsync()
    {
        var (at, password) = ((await File.ReadAllLinesAsync(Path.Combine(Data, "cluster", "postmaster.pid"), Stop))[3],
            await File.ReadAllTextAsync(Path.Combine(Data, "database-password"), Stop));
        var connection =
            new NpgsqlConnection($"Host=127.0.0.1;Port={at};Username=cadence_program;Password={password};Database=cadence;Pooling=false");
        await connection.OpenAsync(Stop);
        return connection;
    }

    private async Task BeginAsync()
    {
        var info = new ProcessStartInfo("bash", ["./start", "--port", port, "--data", Data])
        {
            WorkingDirectory = WorkingCopy.Root,
            RedirectStandardOutput = true
        };
        foreach (var name in (string[])["INNER_CADENCE_DB", "INNER_CADENCE_RESTORER"]) info.Environment.Remove(name);
        start = Process.Start(info)!;
        var said = await start.StandardOutput.ReadLineAsync(Stop).AsTask().WaitAsync(Patient, Stop);
        said.ShouldNotBeNull("the next start works").ShouldContain("Inner Cadence is at");
        client.Dispose();
        client = new() { BaseAddress = new($"http://127.0.0.1:{port}"), Timeout = Patient };
    }

    private async Task EndAsync()
    {
        if (start is not { HasExited: false } running) return;
        await Shell.RunAsync("kill -INT $1", $"{running.Id}");
        await running.WaitForExitAsync(Stop).WaitAsync(Patient, Stop);
    }

    private async Task UntilHealthyAsync(string why)
    {
        for (var end = DateTime.UtcNow + Patient; ; await Task.Delay(200, Stop))
        {
            DateTime.UtcNow.ShouldBeLessThan(end, why);
            try
            {
                if ((await client.GetAsync("/healthz", Stop)).StatusCode == HttpStatusCode.OK) return;
            }
            catch (HttpRequestException)
            {
                // Not yet.
            }
        }
    }
}
