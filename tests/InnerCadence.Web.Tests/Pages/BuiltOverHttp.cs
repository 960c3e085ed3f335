using System.Net;
using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Makes a study as a person without scripts does, form by form.</summary>
internal sealed class BuiltOverHttp(Application application, string study)
{
    private readonly Dictionary<string, string> players = [];

    public string Address => study;

    public static async Task<BuiltOverHttp> NewAsync(Application application, string subject, string others)
    {
        var (response, _) = await application.SendAsync(await application.PageAsync("/studies/new"), "/studies/new",
            ("Input.Subject", subject), ("Input.Comparison", others));
        var built = new BuiltOverHttp(application, response.RequestMessage!.RequestUri!.AbsolutePath);
        foreach (var option in (await application.PageAsync($"{built.Address}/recordings/new"))
            .QuerySelectorAll("[name='Input.Player'] option").OfType<IHtmlOptionElement>()) built.players[option.Text.Trim()] =
            option.Value;
        return built;
    }

    public string Player(string name) => players[name];

    /// <summary>Its address.</summary>
    public async Task<string> RecordAsync(string title, int bars, string searched, string? player = null, string kind = "studio",
        string take = "", string recorded = "1970", int tempo = 120, string form = "")
    {
        var (response, _) = await application.SendAsync(await application.PageAsync($"{study}/recordings/new"), $"{study}/recordings/new",
            ("Input.Title", title), ("Input.Take", take), ("Input.TotalBars", $"{bars}"), ("Input.Searched", searched),
                ("Input.Tempo", $"{tempo}"), ("Input.Recorded", recorded), ("Input.Kind", kind),
                ("Input.Player", player is null ? "" : players[player]));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var address = response.RequestMessage!.RequestUri!.AbsolutePath;
        if (form.Length > 0)
            (await application.SendAsync(await application.PageAsync(address), $"{address}?handler=Form", ("FormText", form))).Response
                .StatusCode.ShouldBe(HttpStatusCode.OK);
        return address;
    }

    public async Task<string> WriteAsync(string recording, string text, int bar, string kind = "groove", bool becauseHeard = false,
        string section = "")
    {
        (string, string)[] fields = [("Input.Text", text), ("Input.Bar", $"{bar}"), ("Input.Kind", kind), ("Input.Section", section)];
        var (response, _) = await application.SendAsync(await application.PageAsync($"{recording}/passages/new"),
            $"{recording}/passages/new", becauseHeard ? [.. fields, ("Input.BecauseHeard", "true")] : fields);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        return response.RequestMessage!.RequestUri!.AbsolutePath;
    }

    public async Task<string> NameAsync(string passage, string from, string to, string nickname)
    {
        var (response, _) = await application.SendAsync(
            await application.PageAsync($"{passage}/cut?from={Uri.EscapeDataString(from)}&to={Uri.EscapeDataString(to)}"),
            $"{passage}/cut", ("Input.Nickname", nickname));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        return response.RequestMessage!.RequestUri!.AbsolutePath;
    }

    public async Task HearAsync(string idea, string recording, int bar)
    {
        var (response, _) = await application.SendAsync(await application.PageAsync(idea), $"{idea}?handler=Heard",
            ("Typed.Recording", recording.Split('/')[^1]), ("Typed.Bar", $"{bar}"));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    /// <summary>Says yes to everything that waits.</summary>
    public async Task ConfirmAllAsync(string idea)
    {
        while ((await application.PageAsync($"{idea}?show=waiting")) is var page && page.QuerySelector(".concordance form") is { } form)
            (await application.SendAsync(page, form.GetAttribute("action")!, ("judgement", "Confirmed"))).Response.StatusCode.ShouldBe(
                HttpStatusCode.OK);
    }

    public async Task<string> ClaimAsync(string test, params (string, string)[] fields)
    {
        var (response, _) = await application.SendAsync(await application.PageAsync($"{study}/claims/new?test={test}"),
            $"{study}/claims/new?test={test}", [("Input.Test", test), .. fields]);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        return response.RequestMessage!.RequestUri!.AbsolutePath;
    }
}
