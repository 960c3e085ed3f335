using System.Text.RegularExpressions;

namespace InnerCadence.Browser.Tests;

/// <summary>What a drummer wants to know of an idea is read from the screens as text, of studies whose answers are known: how often and is
/// it hers, first when, where in bar and section, at which tempo, live only, hers and never theirs, what next, what is not
/// played.</summary>
[Collection(nameof(Site))]
public partial class TheEightQuestions(Site site)
{
    /// <param name="Kind">Of the recordings that have it.</param>
    /// <param name="Bar">Of each recording, in which it stands; form: verse 1 to 8 and 17 to 24, chorus the rest.</param>
    public sealed record Truth(string Nickname, string Text, string From, string To, string On, string Kind, string OtherKind, int With,
        int Without, int First, int Bar, string Section, int Tempo, string Left);

    public static TheoryData<Truth> Studies =>
    [
        new Truth("patter", "HH: 8ths\nSN: 2 e & a 3\nBD: 1", "1.2", "1.3e", "2", "live", "studio", 5, 4, 1964, 12, "chorus", 104,
            "HF: 2 4"),
        Random(7),
    ];

    /// <summary>Another study with other answers, by a number.</summary>
    private static Truth Random(int seed)
    {
        var random = new Random(seed);
        var beat = random.Next(1, 4);
        var (bar, section) = random.Next(2) == 0 ? (random.Next(2, 8), "verse") : (random.Next(10, 16), "chorus");
        var (kind, other) = random.Next(2) == 0 ? ("broadcast", "live") : ("rehearsal", "studio");
        return new($"figure {seed}", $"HH: 4ths\nSN: {beat} {beat}t {beat}l {beat + 1}\nBD: 1 3", $"1.{beat}", $"1.{beat + 1}e", $"{beat}",
            kind,
            other, random.Next(4, 7), random.Next(3, 6), random.Next(1950, 1980), bar, section, random.Next(80, 150),
            random.Next(2) == 0 ? "RD: 4ths" : "CR: 1");
    }

    [GeneratedRegex(@"\s+")]
    private static partial Regex Blank { get; }

    [Theory, MemberData(nameof(Studies))]
    public void Are_answered_by_the_screens(Truth truth)
    {
        const string form = "verse 8, chorus 8, verse 8, chorus 8";
        var browser = site.Browser();
        var person = new Person(browser, site.Address);
        var study = new Built(browser, site.Address, $"Asked of {truth.Nickname}", "Oda Finch");
        string[] titles = ["Quay", "Salt", "Low Tide", "Lantern", "Hull", "Rigging"];
        var idea = "";
        for (var i = 0; i < truth.With; i++)
        {
            var passage = study.Write(study.Record(titles[i], kind: truth.Kind, recorded: $"{truth.First + i}", tempo: truth.Tempo,
                form: form), truth.Text, truth.Bar, truth.Section);
            if (i == 0) idea = study.Name(passage, truth.From, truth.To, truth.Nickname);
        }
        for (var i = 0; i < truth.Without; i++)
            study.Write(study.Record($"Plain {i}", kind: truth.OtherKind, recorded: $"{truth.First + 1}", form: form),
                "HH: 8ths\nSN: 4\nBD: 1", 1);
        // The others have none of it, and what she leaves out in every bar.
        for (var i = 0; i < 5; i++)
            study.Write(study.Record($"Theirs {i}", "Oda Finch", recorded: $"{truth.First}"),
                $"HH: 8ths | %x7\n{truth.Left} | %x7\nSN: 4 | %x7\nBD: 1 | %x7", 1);
        study.Record("Unheard of", recorded: $"{truth.First + 2}", searched: "0");
        while (person.Opens($"{idea}?show=waiting").SeesAll(".concordance button[value=Confirmed]") is [var yes, ..])
        {
            browser.ExecuteScript("arguments[0].scrollIntoView({ block: 'center' })", yes);
            var before = browser.FindElement(OpenQA.Selenium.By.TagName("html"));
            yes.Click();
            person.WaitUntilGone(before);
        }

        string Text(string address, string css = "main") => Blank.Replace(person.Opens(address).Sees(css).Text, " ").Trim();
        var three = Text(idea, "#in-three");
        var bars = 32 * (truth.With + truth.Without);
        three.ShouldContain($"{truth.With} of ");
        three.ShouldContain($"First in {titles[0]}, {truth.First}");
        three.ShouldContain(truth.Section);
        three.ShouldContain($"at {truth.Tempo} BPM");
        three.ShouldContain($"only {truth.Kind}: {truth.With} in {32 * truth.With} bars, none in {32 * truth.Without} of other kinds");
        three.ShouldContain($" {truth.On}");

        var compare = Text($"{study.Address}/compare", "#in-words");
        compare.ShouldStartWith("What the two sides say Only here");
        compare.ShouldContain($"{truth.Nickname}: {truth.With} in {bars} bars");
        compare.ShouldContain("none in 160 bars of everybody else");

        Text($"{study.Address}/next").ShouldContain("Unheard of");
        Text($"{study.Address}/fingerprint").Split("Not played where the others play it")[1]
            .ShouldContain(Core.Music.Voice.Find(truth.Left[..2])!.Name);
    }
}
