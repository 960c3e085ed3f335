using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;

[assembly: CaptureConsole]

namespace InnerCadence.Browser.Tests;

/// <summary>The real application in a process of its own on a fresh database with the demo study, and browsers to look at it.</summary>
public sealed class Site : IAsyncLifetime
{
    private readonly Dictionary<bool, ChromeDriver> browsers = [];
    private TestDatabase database = null!;
    private readonly DirectoryInfo keys = Directory.CreateTempSubdirectory("inner-cadence-keys");
    private Process web = null!;

    public string Address { get; private set; } = "";

    public string ConnectionString => database.ConnectionString;

    public async ValueTask InitializeAsync()
    {
        database = await TestDatabase.CreateAsync();
        Address = $"http://127.0.0.1:{FreePort()}";
        await StartAsync();
    }

    /// <summary>Starts the application, again on the same address, and waits until it answers.</summary>
    public async Task StartAsync()
    {
        var source = Path.Combine(WorkingCopy.Root, "src", "InnerCadence.Web");
        var built = AppContext.BaseDirectory.Contains($"{Path.DirectorySeparatorChar}Release{Path.DirectorySeparatorChar}") ? "Release"
            : "Debug";
        web = Process.Start(new ProcessStartInfo("dotnet",
            [Path.Combine(source, "bin", built, "net10.0", "InnerCadence.Web.dll"), "--contentRoot", source, "--urls", Address,
            "--Serilog:MinimumLevel:Default=Fatal"])
        {
            Environment =
            {
                ["INNER_CADENCE_DB"] = database.ConnectionString,
                ["INNER_CADENCE_DEMO"] = WorkingCopy.Study,
                ["INNER_CADENCE_DATA"] = keys.FullName,
                ["DOTNET_ENVIRONMENT"] = "Production",
            },
        })!;
        using var client = new HttpClient();
        for (var attempt = 0; ; attempt++)
        {
            try
            {
                if ((await client.GetAsync(Address + "/healthz")).StatusCode == HttpStatusCode.OK) break;
            }
            catch (HttpRequestException) when (attempt < 720 && !web.HasExited)
            {
                await Task.Delay(250);
            }
        }
    }

    /// <summary>Ends the application the way Ctrl-C does.</summary>
    public async Task StopAsync()
    {
        using var term = Process.Start("kill", ["-TERM", web.Id.ToString(System.Globalization.CultureInfo.InvariantCulture)]);
        await web.WaitForExitAsync();
    }

    /// <summary>Kills the application without a word.</summary>
    public async Task KillAsync()
    {
        web.Kill(entireProcessTree: true);
        await web.WaitForExitAsync();
    }

    /// <summary>One browser with scripts and one without, shared by all tests of the class.</summary>
    public ChromeDriver Browser(bool scripts = true)
    {
        if (browsers.TryGetValue(scripts, out var open)) return open;
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
                "--disable-component-update",
            "--disable-sync", "--window-size=1280,900", "--autoplay-policy=no-user-gesture-required",
            "--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream");
        if (!scripts) options.AddUserProfilePreference("profile.managed_default_content_settings.javascript", 2);
        options.SetLoggingPreference(LogType.Browser, LogLevel.Warning);
        var service = ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver");
        service.SuppressInitialDiagnosticInformation = true;
        var browser = new ChromeDriver(service, options, TimeSpan.FromSeconds(180));
        browser.ExecuteCdpCommand("Emulation.setDeviceMetricsOverride",
            new() { ["width"] = 1280, ["height"] = 800, ["deviceScaleFactor"] = 1, ["mobile"] = false });
        return browsers[scripts] = browser;
    }

    public async ValueTask DisposeAsync()
    {
        foreach (var browser in browsers.Values) browser.Quit();
        if (!web.HasExited) await KillAsync();
        keys.Delete(recursive: true);
        await database.DisposeAsync();
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}

/// <summary>All browser tests share one application and its browsers, one after the other.</summary>
[CollectionDefinition(nameof(Site))]
public sealed class SiteCollection : ICollectionFixture<Site>;
