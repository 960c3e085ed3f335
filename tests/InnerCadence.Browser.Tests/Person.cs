using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;
using OpenQA.Selenium.Support.UI;

namespace InnerCadence.Browser.Tests;

/// <summary>What a person does at a browser.</summary>
public sealed class Person(ChromeDriver browser, string site)
{
    public string Here => new Uri(browser.Url).PathAndQuery;

    public Person Opens(string address)
    {
        browser.Navigate().GoToUrl(site + address);
        return this;
    }

    public IWebElement Sees(string css) => Waiting($"{css} is there").Until(b => b.FindElements(By.CssSelector(css)).FirstOrDefault())
        ?? throw new NoSuchElementException(css);

    /// <summary>As many as the page has when it is whole: a page that still comes in shows some of its rows before the others.</summary>
    public IReadOnlyList<IWebElement> SeesAll(string css)
    {
        WaitUntilWhole();
        return browser.FindElements(By.CssSelector(css));
    }

    /// <summary>Waits until an element says something.</summary>
    public void Reads(string css, string words) => Waiting($"{css} says {words}")
        .Until(b => b.FindElements(By.CssSelector(css)).Any(e => e.Text.Contains(words, StringComparison.Ordinal)));

    public void Types(string label, string text)
    {
        var field = browser.FindElement(By.Id(browser.FindElement(By.XPath($"//label[starts-with(normalize-space(.), '{label}')]"))
            .GetDomAttribute("for")!));
        field.Clear();
        field.SendKeys(text);
    }

    public void Clicks(string text)
    {
        var before = browser.FindElement(By.TagName("html"));
        // What is still being drawn moves what stands below it: a click that meets something else is tried again.
        for (var tries = 0; ; tries++)
        {
            var found = browser.FindElement(By.XPath($"//button[normalize-space(.)='{text}'] | //a[normalize-space(.)='{text}']"));
            try
            {
                browser.ExecuteScript("arguments[0].scrollIntoView({ block: 'center' })", found);
                found.Click();
                break;
            }
            catch (ElementClickInterceptedException) when (tries < 20)
            {
                Thread.Sleep(100);
            }
        }
        WaitUntilGone(before);
    }

    /// <summary>Keys that lead to another page.</summary>
    public void PressesToGo(string keys)
    {
        var before = browser.FindElement(By.TagName("html"));
        new Actions(browser).SendKeys(keys).Perform();
        WaitUntilGone(before);
    }

    /// <summary>Control held down with a key that leads to another page.</summary>
    public void PressesControlAnd(string key)
    {
        var before = browser.FindElement(By.TagName("html"));
        new Actions(browser).KeyDown(Keys.Control).SendKeys(key).KeyUp(Keys.Control).Perform();
        WaitUntilGone(before);
    }

    /// <summary>Drops files anywhere on the page, as from a file manager, and waits for the page that follows.</summary>
    public void Drops(params (string Name, byte[] Bytes)[] files)
    {
        WaitUntilWhole();
        var before = browser.FindElement(By.TagName("html"));
        browser.ExecuteScript(
            """
            const dropped = new DataTransfer();
            for (const [name, bytes] of arguments[0]) dropped.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], name));
            for (const kind of ["dragover", "drop"]) document.querySelector("main").dispatchEvent(new DragEvent(kind, { dataTransfer: dropped, bubbles: true, cancelable: true }));
            """, files.Select(f => (object)new object[] { f.Name, Convert.ToBase64String(f.Bytes) }).ToList());
        WaitUntilGone(before);
    }

    public Actions Hands => new(browser);

    public string Value(string id) => browser.FindElement(By.Id(id)).GetDomProperty("value") ?? "";

    /// <summary>Half a minute, as the machine may be busy; what a script replaced meanwhile is looked for again.</summary>
    private WebDriverWait Waiting(string until)
    {
        var wait = new WebDriverWait(browser, TimeSpan.FromSeconds(120)) { Message = until };
        wait.IgnoreExceptionTypes(typeof(StaleElementReferenceException));
        return wait;
    }

    public void WaitUntilGone(IWebElement page)
    {
        Waiting("another page").Until(_ =>
        {
            try
            {
                return page.TagName.Length == 0;
            }
            catch (WebDriverException)
            {
                return true;
            }
        });
        WaitUntilWhole();
    }

    private void WaitUntilWhole() => Waiting("the page is whole")
        .Until(b => ((IJavaScriptExecutor)b).ExecuteScript("return document.readyState") is "complete");
}
