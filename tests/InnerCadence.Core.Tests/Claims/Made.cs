using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Claims;

/// <summary>Evidence made up for a test: player 1 is the subject, player 2 another, the idea is 7.</summary>
internal static class Made
{
    public const long Nell = 1, Oda = 2, Idea = 7;

    private static readonly Names Called = new(new Dictionary<long, string> { [Nell] = "Nell", [Oda] = "Oda" }, new Dictionary<long,
        string>
    { [Idea] = "latch" });

    /// <summary>One recording with so many appearances, every fourth bar from the first on unless said otherwise.</summary>
    public static Performance Recording(
        int id, int found, int bars = 64, string recorded = "1965", double? tempo = 100, long player = Nell, string? title = null,
            string kind = "studio", bool sure = true, string section = "verse 1", string? issued = null, string form = "")
    {
        var appearances = Enumerable.Range(0, found).Select(i =>
            new Appearance(id * 100 + i, null, $"Piece {id}, bar {i * 4 + 1}", i * 4 + 1, section, Meter.CommonTime, Tick.Zero,
            i * 4 + 1 <= bars, sure)
            { Start = i * 16, End = i * 16 + 1 }).ToList();
        return new()
        {
            Recording = new()
            {
                Id = id,
                Name = $"Piece {id}",
                Title = title ?? $"Piece {id}",
                Player = player,
                Kind = OneOf<RecordingKind>.Find(kind)!.Value,
                Recorded = PartialDate.Parse(recorded),
                Issued = issued is null ? null : PartialDate.Parse(issued),
                Tempo = tempo,
                SureWhoPlays = sure,
                TotalBars = 64,
                Form = Form.Parse(form, MeterCycle.CommonTime),
                Grid = new(MeterCycle.CommonTime, Form.Parse(form, MeterCycle.CommonTime).Sections),
            },
            Exposure = new(BarSet.Of(1, bars), BarSet.Empty, 0),
            Appearances = appearances,
        };
    }

    public static Material With(params Performance[] performances) => With(performances, []);

    public static Material With(IReadOnlyList<Performance> performances, IReadOnlyList<PlayedBar> bars,
        IReadOnlyList<PlayedFill>? fills = null) =>
        new(Called, new Dictionary<long, IReadOnlyList<Performance>> { [Idea] = performances }, [.. bars], [.. fills ?? []]);

    public static PlayedBar Bar(int number, string text, string title = "Piece 1", long player = Nell) =>
        new(player, 1, title, title, number, InnerCadence.Core.Discovery.Bar.Of(
            InnerCadence.Core.Counting.Reading.CountLines.Parse(text).Passage, 0).First(), number);

    public static Stand Of(ClaimTest test, params Performance[] performances) => Standings.Of(test, With(performances));
}
