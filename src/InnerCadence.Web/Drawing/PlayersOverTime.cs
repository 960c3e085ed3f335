using System.Globalization;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Drawing;

/// <summary>One recording on the time line of an idea.</summary>
/// <param name="Found">How often it was confirmed there.</param>
public sealed record DatedRecording(PartialDate Recorded, bool Searched, int Found, bool Sure, string Link, string Title);

/// <summary>One player's recordings; or somebody from whom it was borrowed.</summary>
public sealed record PlayerLine(string Name, IReadOnlyList<DatedRecording> Recordings);

/// <summary>One idea over all players: filled where it was found, hollow where it was searched in vain, hatched where nobody searched; a
/// bar is as long as its date is unsure.</summary>
public static class PlayersOverTime
{
    private const double Left = 150, Width = 1180, Lane = 13;

    public static Shape Draw(IReadOnlyList<PlayerLine> players, IReadOnlyList<(string Who, PartialDate Dated)> borrowed)
    {
        var dates = players.SelectMany(p => p.Recordings).Select(r => r.Recorded).Concat(borrowed.Select(b => b.Dated)).ToList();
        var (from, to) = dates.Count == 0 ? (1960, 1961) : (dates.Min(d => d.Earliest.Year), dates.Max(d => d.Latest.Year));
        double Year(DateOnly day) => day.Year + (day.DayOfYear - 1) / 366.0;
        double X(double year) => Left + 10 + (Width - Left - 24) * (year - from) / (to + 1.0 - from);
        var svg = new Shape("svg").With("class", "timeline players").With("role", "group")
            .With("aria-label", $"The idea over {players.Count} players, {from} to {to}");
        var y = 8.0;
        var marks = new List<Shape>();
        foreach (var player in players)
        {
            var lanes = Lanes(player.Recordings, r => (X(Year(r.Recorded.Earliest)),
                Math.Max(X(Year(r.Recorded.Latest) + 1 / 366.0), X(Year(r.Recorded.Earliest)) + 9)));
            var height = Math.Max(2, lanes.Count) * Lane + 10;
            marks.Add(Shape.Text("matrix-name", Left - 10, y + height / 2 + 4, player.Name));
            for (var lane = 0; lane < lanes.Count; lane++)
                foreach (var (recording, x1, x2) in lanes[lane])
                {
                    var top = y + 4 + lane * Lane;
                    var look = recording.Found > 0 ? recording.Sure ? "seen" : "seen unsure" : recording.Searched ? "vain" : "unsearched";
                    var link = new Shape("a").With("href", recording.Link).With("aria-label", recording.Title)
                        .Add(new Shape("title").Saying(recording.Title)).Add(Shape.Rect(look, x1, top, x2 - x1, Lane - 3));
                    if (look == "unsearched")
                        for (var h = x1 + 2; h < x2 + Lane - 3; h += 5)
                            link.Add(Shape.Line("hatch", Math.Min(h, x2), top + Math.Max(0, h - x2), Math.Max(h - (Lane - 3), x1),
                                top + Lane - 3 - Math.Max(0, x1 - (h - (Lane - 3)))));
                    marks.Add(link);
                }
            y += height;
            marks.Add(Shape.Line("strand", Left, y, Width - 8, y));
            y += 4;
        }
        foreach (var (who, dated) in borrowed)
        {
            var x1 = X(Year(dated.Earliest));
            var x2 = Math.Max(X(Year(dated.Latest) + 1 / 366.0), x1 + 9);
            marks.Add(Shape.Text("matrix-name", Left - 10, y + 15, "borrowed from"));
            marks.Add(Shape.Rect("borrowed", x1, y + 5, x2 - x1, Lane - 3));
            marks.Add(Shape.Text("found-name", x2 + 6, y + 15, who));
            y += 24;
        }
        var every = Math.Max(1, (to - from) / 14 + 1);
        for (var year = from; year <= to + 1; year += every)
        {
            svg.Add(Shape.Line("beat-line", X(year), 4, X(year), y));
            svg.Add(Shape.Text("clock middle", X(year), y + 16, year.ToString(CultureInfo.InvariantCulture)));
        }
        foreach (var mark in marks) svg.Add(mark);
        return svg.With("viewBox", FormattableString.Invariant($"0 0 {Width:0} {y + 24:0}")).With("width", Width).With("height", y + 24);
    }

    /// <summary>Recordings of one time stand under each other.</summary>
    private static List<List<(DatedRecording Recording, double From, double To)>> Lanes(IEnumerable<DatedRecording> recordings,
        Func<DatedRecording, (double From, double To)> at)
    {
        var lanes = new List<List<(DatedRecording, double, double To)>>();
        foreach (var recording in recordings.OrderBy(r => at(r).From))
        {
            var (from, to) = at(recording);
            var lane = lanes.FirstOrDefault(l => l[^1].To + 2 <= from);
            if (lane is null) lanes.Add(lane = []);
            lane.Add((recording, from, to));
        }
        return lanes;
    }
}
