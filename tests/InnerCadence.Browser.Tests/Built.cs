using OpenQA.Selenium.Chrome;

namespace InnerCadence.Browser.Tests;

/// <summary>Makes a study form by form inside a browser, faster than hands do: each form is fetched, filled and sent as it
/// stands.</summary>
internal sealed class Built
{
    private readonly ChromeDriver browser;
    private readonly Dictionary<string, string> players;

    public Built(ChromeDriver browser, string site, string subject, string others)
    {
        this.browser = browser;
        browser.Navigate().GoToUrl(site + "/studies/new");
        Address = Send("/studies/new", "/studies/new", ("Input.Subject", subject), ("Input.Comparison", others));
        players = ((IReadOnlyCollection<object>)browser.ExecuteAsyncScript("""
            const done = arguments[arguments.length - 1];
            fetch(arguments[0]).then((answer) => answer.text()).then((text) => done([...new DOMParser().parseFromString(text, 'text/html')
              .querySelectorAll("[name='Input.Player'] option")].map((one) => `${one.textContent.trim()}|${one.value}`)));
            """, $"{Address}/recordings/new")!).Cast<string>().Select(o => o.Split('|')).ToDictionary(o => o[0], o => o[1]);
    }

    public string Address { get; }

    /// <summary>The first form of a page that has all these fields.</summary>
    /// <returns>The address to which it led.</returns>
    private string Send(string page, string to, params (string Name, string Value)[] fields)
    {
        var led = (string?)browser.ExecuteAsyncScript("""
            const [page, to, fields, done] = arguments;
            (async () => {
              const read = new DOMParser().parseFromString(await (await fetch(page)).text(), 'text/html');
              const form = [...read.forms].find((one) => one.method === 'post' && fields.every(([name]) => one.elements[name]));
              const values = new URLSearchParams();
              for (const [name, value] of new FormData(form)) if (!values.has(name) && typeof value === 'string') values.append(name, value);
              for (const [name, value] of fields) values.set(name, value);
              const answer = await fetch(form.getAttribute('action') || to, { method: 'POST', body: values });
              done(answer.ok ? new URL(answer.url).pathname : `${answer.status} of ${to}`);
            })().catch((fault) => done(String(fault)));
            """, page, to, fields.Select(f => new[] { f.Name, f.Value }).ToArray());
        led.ShouldStartWith("/");
        return led;
    }

    public string Record(string title, string player = "", string kind = "studio", string recorded = "1970", int tempo = 120,
        string form = "", string searched = "1-32")
    {
        var address = Send($"{Address}/recordings/new", $"{Address}/recordings/new", ("Input.Title", title), ("Input.TotalBars", "32"),
            ("Input.Searched", searched), ("Input.Tempo", $"{tempo}"), ("Input.Recorded", recorded), ("Input.Kind", kind),
            ("Input.Player", player.Length == 0 ? "" : players[player]));
        if (form.Length > 0) Send(address, $"{address}?handler=Form", ("FormText", form));
        return address;
    }

    public string Write(string recording, string text, int bar, string section = "") => Send($"{recording}/passages/new",
        $"{recording}/passages/new", ("Input.Text", text), ("Input.Bar", $"{bar}"), ("Input.Kind", "groove"), ("Input.Section", section));

    public string Name(string passage, string from, string to, string nickname) => Send(
        $"{passage}/cut?from={Uri.EscapeDataString(from)}&to={Uri.EscapeDataString(to)}", $"{passage}/cut", ("Input.Nickname", nickname));
}
