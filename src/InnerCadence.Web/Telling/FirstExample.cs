using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;
using InnerCadence.Web.Drawing;

namespace InnerCadence.Web.Telling;

/// <summary>A minute of a made-up groove in which one figure comes back: what somebody sees and hears whose study is empty.</summary>
public static class FirstExample
{
    private const string Nickname = "the stumble";
    private const string Figure = "SN: 3 3e 3a\nBD: 3& 4";

    private static readonly string Hat = Bars(bar =>
        bar switch { 4 or 12 or 19 or 23 => "1 1& 2 2&", 8 or 16 or 24 => "1 1&", _ => "8ths" });
    private static readonly string Snare = Bars(bar => bar switch
    {
        4 or 12 or 19 or 23 => "2 3 3e 3a",
        8 or 16 or 24 => "2 e & a",
        _ => bar % 3 == 0 ? "2 (3e) 4" : "2 4"
    });
    private static readonly string Tom = Bars(bar => bar is 8 or 16 or 24 ? "3 e & a 4" : "-");
    private static readonly string Kick = Bars(bar => bar switch
    {
        4 or 12 or 19 or 23 => "1 3& 4",
        8 or 16 or 24 => "1",
        _ => bar % 4 == 2 ? "1 2& 3&" : "1 3&"
    });

    /// <summary>24 bars at 96: a minute.</summary>
    public static string Text { get; } = $"tempo 96\nHH: {Hat}\nFT: {Tom}\nSN: {Snare}\nBD: {Kick}";

    private static readonly Passage Passage = CountLines.Parse(Text).Passage;

    private static readonly IReadOnlyList<Sighting> Found =
        new Matcher(new Idea(CountLines.Parse(Figure).Passage, null, null, Rules.ProposedFor(false, true, false, false)))
            .FindIn(Passage).Where(s => !s.IsNear).ToList();

    public static string Sentence { get; } = $"In these {Passage.Bars} bars the figure that is bracketed, call it ‘{Nickname}’, comes "
        + $"{Found.Count} times: about once in {Passage.Bars / Found.Count} bars. This is what the program says of a whole career: what a "
        + "player’s ideas are, where each stands, and how often, with the evidence behind every number.";

    public static Shape Picture() => Strands.Draw(Passage, new()
    {
        Width = 760,
        RowSixteenths = 64,
        Small = true,
        Brackets = [.. Found.Select(s => new Bracket(s.Start, s.End, Nickname, false, null))],
    });

    private static string Bars(Func<int, string> of) => string.Join(" | ", Enumerable.Range(1, 24).Select(of));
}
