using System.Text.RegularExpressions;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>What a drummer wants to know of an idea is read from the pages as text, of studies whose answers are known: how often and is it
/// hers, first when, where in bar and section, at which tempo, live only, hers and never theirs, what next, what is not played.</summary>
public partial class TheEightQuestions(Application application) : IClassFixture<Application>
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
        return new($"figure {seed}", $"HH: 4ths\nSN: {beat} {beat}t {beat}l {beat + 1}\nBD: 1 3", $"1.{beat}", $"1.{beat + 1}e", $"{beat}", kind,
            other, random.Next(4, 7), random.Next(3, 6), random.Next(1950, 1980), bar, section, random.Next(80, 150),
            random.Next(2) == 0 ? "RD: 4ths" : "CR: 1");
    }

    [GeneratedRegex(@"\s+")]
    private static partial Regex Blank { get; }

    private async Task<string> TextAsync(string address, string css = "main") =>
        Blank.Replace((await application.PageAsync(address)).QuerySelector(css)?.TextContent ?? "", " ").Trim();

    [Theory, MemberData(nameof(Studies))]
    public async Task Are_answered_by_the_pages_as_text(Truth truth)
    {
        const string form = "verse 8, chorus 8, verse 8, chorus 8";
        var study = await BuiltOverHttp.NewAsync(application, $"Asked of {truth.Nickname}", "Oda Finch");
        string[] titles = ["Quay", "Salt", "Low Tide", "Lantern", "Hull", "Rigging"];
        var idea = "";
        for (var i = 0; i < truth.With; i++)
        {
            var tape = await study.RecordAsync(titles[i], 32, "1-32", kind: truth.Kind, recorded: $"{truth.First + i}", tempo: truth.Tempo,
                form: form);
            var passage = await study.WriteAsync(tape, truth.Text, truth.Bar, section: truth.Section);
            if (i == 0) idea = await study.NameAsync(passage, truth.From, truth.To, truth.Nickname);
        }
        for (var i = 0; i < truth.Without; i++)
            await study.WriteAsync(await study.RecordAsync($"Plain {i}", 32, "1-32", kind: truth.OtherKind, recorded: $"{truth.First + 1}",
                form: form), "HH: 8ths\nSN: 4\nBD: 1", 1);
        // The others have none of it, and what she leaves out in every bar.
        for (var i = 0; i < 5; i++)
            await study.WriteAsync(await study.RecordAsync($"Theirs {i}", 32, "1-32", player: "Oda Finch", recorded: $"{truth.First}"),
                $"HH: 8ths | %x7\n{truth.Left} | %x7\nSN: 4 | %x7\nBD: 1 | %x7", 1);
        var unheard = await study.RecordAsync("Unheard of", 32, "0", recorded: $"{truth.First + 2}");
        await study.ConfirmAllAsync(idea);

        var three = await TextAsync(idea, "#in-three");
        var bars = 32 * (truth.With + truth.Without);
        three.ShouldContain($"{truth.With} of ");
        three.ShouldContain($"First in {titles[0]}, {truth.First}");
        three.ShouldContain(truth.Section);
        three.ShouldContain($"at {truth.Tempo} BPM");
        three.ShouldContain($"only {truth.Kind}: {truth.With} in {32 * truth.With} bars, none in {32 * truth.Without} of other kinds");
        three.ShouldContain($" {truth.On}");

        var compare = await TextAsync($"{study.Address}/compare", "#in-words");
        compare.ShouldStartWith("What the two sides say Only here");
        compare.ShouldContain($"{truth.Nickname}: {truth.With} in {bars} bars");
        compare.ShouldContain("none in 160 bars of everybody else");

        (await TextAsync($"{study.Address}/next")).ShouldContain("Unheard of");
        unheard.ShouldNotBeNull();

        (await TextAsync($"{study.Address}/fingerprint")).Split("Not played where the others play it")[1].ShouldContain(Core.Music.Voice.Find(truth.Left[..2])!.Name);
    }
}
