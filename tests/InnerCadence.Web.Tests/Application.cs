using System.Net;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using Microsoft.AspNetCore.Mvc.Testing;

namespace InnerCadence.Web.Tests;

/// <summary>The application on a fresh database with the demo study, spoken to over HTTP as a browser without scripts would.</summary>
public sealed class Application : IAsyncLifetime
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("inner-cadence-");
    private TestDatabase database = null!;
    private WebApplicationFactory<Program> factory = null!;

    public HttpClient Client { get; private set; } = null!;

    /// <summary>What the application itself works with, to make what forms would take long to make.</summary>
    public T Get<T>() where T : notnull => (T)factory.Services.GetService(typeof(T))!;

    public async ValueTask InitializeAsync()
    {
        database = await TestDatabase.CreateAsync();
        factory = new WebApplicationFactory<Program>().WithWebHostBuilder(host => host
            .UseSetting("INNER_CADENCE_DB", database.ConnectionString)
            .UseSetting("INNER_CADENCE_RESTORER", TestDatabase.Restorer)
            .UseSetting("INNER_CADENCE_DATA", folder.FullName)
            .UseSetting("INNER_CADENCE_DEMO", WorkingCopy.Study)
            .UseSetting("Serilog:MinimumLevel:Default", "Error"));
        Client = factory.CreateClient(new() { AllowAutoRedirect = true });
    }

    public async ValueTask DisposeAsync()
    {
        await factory.DisposeAsync();
        await database.DisposeAsync();
        folder.Delete(true);
    }

    public async Task<IHtmlDocument> PageAsync(string address, HttpStatusCode expected = HttpStatusCode.OK)
    {
        var response = await Client.GetAsync(address, TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(expected, address);
        return await ReadAsync(response);
    }

    /// <summary>Fills the first form that has all these fields and sends it the way a browser would.</summary>
    public async Task<(HttpResponseMessage Response, IHtmlDocument Page)> SendAsync(IHtmlDocument page, string address,
        params (string Name, string Value)[] fields) =>
        await SendAsync(page.Forms.First(f => f.Method == "post" && fields.All(x => f.QuerySelector($"[name='{x.Name}']") is not null)),
            address, fields);

    /// <summary>Presses the first button that says so, or is called so.</summary>
    public async Task<(HttpResponseMessage Response, IHtmlDocument Page)> PressAsync(IHtmlDocument page, string address, string button)
    {
        var pressed = page.QuerySelectorAll("button").OfType<IHtmlButtonElement>()
            .First(b => b.TextContent.Trim() == button || b.GetAttribute("aria-label")?.Trim() == button);
        return await SendAsync(pressed.Form!, pressed.GetAttribute("formaction") ?? address, [], pressed.HasAttribute("formaction"));
    }

    private async Task<(HttpResponseMessage Response, IHtmlDocument Page)> SendAsync(IHtmlFormElement form, string address,
        (string Name, string Value)[] fields, bool elsewhere = false)
    {
        var values = new Dictionary<string, string>();
        foreach (var element in form.QuerySelectorAll("[name]")
            .Concat(form.Id is { Length: > 0 } id ? form.Owner!.QuerySelectorAll($"[form='{id}'][name]") : []))
        {
            var value = element switch
            {
                IHtmlInputElement { Type: "checkbox" } box => box.IsChecked ? box.Value : null,
                IHtmlInputElement input => input.Value,
                IHtmlTextAreaElement area => area.Value,
                IHtmlSelectElement select => select.Value,
                _ => null,
            };
            if (value is not null) values.TryAdd(element.GetAttribute("name")!, value);
        }
        foreach (var (name, value) in fields) values[name] = value;
        var to = !elsewhere && form.GetAttribute("action") is { Length: > 0 } action ? action : address;
        var response = await Client.PostAsync(to, new FormUrlEncodedContent(values), TestContext.Current.CancellationToken);
        return (response, await ReadAsync(response));
    }

    private static async Task<IHtmlDocument> ReadAsync(HttpResponseMessage response) =>
        new HtmlParser().ParseDocument(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
}
