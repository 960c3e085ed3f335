using System.Net;
using OpenQA.Selenium;

namespace InnerCadence.Browser.Tests;

/// <summary>The page on which a passage is written down, live.</summary>
[Collection(nameof(Site))]
public class WritingDown(Site site)
{
    [Fact]
    public void Problems_are_told_while_typing_and_a_certain_one_is_put_right_by_its_button()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/recordings/1/passages/new");
        person.Types("Count lines", "SN: 1e&a 9\nHH: 8ths");
        person.Reads("#problems", "line 1, column 5");
        person.Reads("#problems", "there is no 9 in it");
        person.SeesAll("#strands circle.bead").Count.ShouldBe(8);
        person.Sees("#problems .fix").Click();
        person.Value("Input_Text").ShouldBe("SN: 1 e & a 9\nHH: 8ths");
        person.Reads("#words", "Snare on 1, the e of 1, the & of 1 and the a of 1");
        person.SeesAll("#problems li").Count.ShouldBe(1);
        person.Sees("#Input_Text").Clear();
        person.Sees("#Input_Text").SendKeys("meter 4/4\ntempo 104\n");
    }

    [Fact]
    public void What_stands_on_the_page_before_and_after_the_scripts_is_the_same_picture()
    {
        var plain = new Person(site.Browser(scripts: false), site.Address).Opens("/passages/4");
        var still = plain.SeesAll("#strands circle.bead").Count;
        var live = new Person(site.Browser(), site.Address).Opens("/passages/4");
        live.Sees("#Input_Text").SendKeys(Keys.Control + Keys.End);
        live.Sees("#Input_Text").SendKeys(" ");
        live.Reads("#size", "2 bars");
        live.SeesAll("#strands circle.bead").Count.ShouldBe(still);
        live.Sees("#Input_Text").SendKeys(Keys.Backspace);
    }

    [Fact]
    public void Control_and_enter_save()
    {
        var person = new Person(site.Browser(), site.Address).Opens("/passages/7");
        person.Sees("#Input_Section").SendKeys(" again");
        person.PressesControlAnd(Keys.Enter);
        person.Reads(".notice", "Saved");
        person.Value("Input_Section").ShouldBe("ending again");
    }

    [Fact]
    public async Task A_request_over_the_limit_is_refused_by_the_real_server()
    {
        using var client = new HttpClient();
        using var body = new StringContent("{\"text\":\"" + new string(' ', 1024 * 1024) + "\"}", System.Text.Encoding.UTF8,
            "application/json");
        var response = await client.PostAsync(site.Address + "/api/count-lines/parse", body, TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.RequestEntityTooLarge);
    }
}
