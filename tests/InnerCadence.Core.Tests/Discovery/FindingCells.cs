using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Likeness;

namespace InnerCadence.Core.Tests.Discovery;

public class FindingCells
{
    private static Source One(string text, long recording, bool looped = false) =>
        new(CountLines.Parse(text).Passage with { Looped = looped }, recording, recording);

    private static string Words(Cell cell, IReadOnlyList<Source> sources) =>
        string.Join(' ', cell.Occurrences.Take(1).SelectMany(o =>
            sources[o.Source].Passage.Strokes.Where(s => s.At >= o.Start && s.At <= o.End)).Select(s => s.Voice.Code));

    [Fact]
    public void A_planted_cell_is_found_in_all_its_places_and_its_pieces_are_not_told_again()
    {
        Source[] sources = [One("SN: 1 e & a\nFT: 2 &\n", 1), One("SN: 3 e & a\nFT: 4 &\nBD: 1\n", 2), One("SN: 1 3\nT1: 2&\n", 3)];
        var found = Cells.Find(sources, CellFacets.Usual);
        // Three like strokes in a row come twice in each: that is another cell; the five first strokes stand nowhere without the sixth.
        found.Select(c => c.Moments).ShouldBe([6, 3], ignoreOrder: true);
        var cell = found.Single(c => c.Moments == 6);
        (cell.Moments, cell.Recordings, cell.Occurrences.Count).ShouldBe((6, 2, 2));
        Words(cell, sources).ShouldBe("SN SN SN SN FT FT");
        cell.Occurrences.Select(o => o.Start.Value).ShouldBe([0, 20160]);
    }

    [Fact]
    public void A_shorter_cell_that_also_comes_elsewhere_is_told_with_all_its_places()
    {
        Source[] sources = [One("SN: 1 e & a 2\n", 1), One("SN: 1 e & a 2\n", 2), One("SN: 3 e &\nBD: 4\n", 3)];
        Cells.Find(sources, CellFacets.Usual).Select(c => (c.Moments, c.Occurrences.Count)).Order().ShouldBe([(3, 7), (4, 4), (5, 2)]);
    }

    [Fact]
    public void The_same_rhythm_on_other_drums_or_at_another_rate_is_one_cell_where_the_facets_say_so()
    {
        Source[] sources = [One("SN: 1 e & a\n", 1), One("FT: 1 & 2 &\n", 2)];
        Cells.Find(sources, CellFacets.Usual).ShouldBeEmpty();
        Cells.Find(sources, CellFacets.Usual with { Voicing = VoicingRule.Any }).ShouldBeEmpty();
        Cells.Find(sources, CellFacets.Usual with { Voicing = VoicingRule.Any, Proportional = true }).First().Moments.ShouldBe(4);
    }

    [Fact]
    public void A_cell_over_the_join_of_a_loop_is_found()
    {
        Source[] sources = [One("BD: 4&\nSN: 1 1e\n", 1, looped: true), One("BD: 2&\nSN: 3 3e\n", 2)];
        Cells.Find(sources, CellFacets.Usual).Single().Occurrences.Select(o => (o.Source, o.Start.Value, o.End.Value))
            .ShouldBe([(0, 35280, 42840), (1, 15120, 22680)]);
    }

    [Fact]
    public void What_always_follows_surprises_less_than_what_seldom_does()
    {
        Source[] sources = [One("SN: 1 e & | 1 e & | 1 e & | 1 e &\n", 1), One("SN: 1 e &\nFT: 1a 2e\nBD: 3\n", 2),
            One("SN: 3 e &\nFT: 3a 4e\n", 3)];
        var cells = Cells.Find(sources, CellFacets.Usual);
        cells.Single(c => c.Moments == 3).Surprise.ShouldBeLessThan(cells.Single(c => c.Moments == 5).Surprise);
        cells[0].Interest.ShouldBeGreaterThanOrEqualTo(cells[^1].Interest);
    }

    /// <summary>Against brute force: every sequence of 3 to 16 moments compared by its text, kept where no longer one stands at all its
    /// places.</summary>
    [Fact]
    public void Finds_what_brute_force_finds() => Gen.Select(
        Gen.Select(Among.These("SN", "FT", "BD"), Gen.Int[0, 15].Array[1, 7], Gen.Bool).Array[2, 5],
            Among.These(VoicingRule.Drum, VoicingRule.Family, VoicingRule.Any), Gen.Int[1, 2]).Sample((made, voicing, recordings) =>
    {
        var sources = made.Select((m, i) =>
            One($"{m.Item1}: {string.Join(' ', m.Item2.Distinct().Order().Select(p => $"{p / 4 + 1}{(p % 4) switch { 0 => "", 1 => "e", 2 => "&", _ => "a" }}"))}\nSN: 1\n".Replace(m.Item1 == "SN" ? "\nSN: 1" : "\0", ""), i / 2)).ToList();
        var facets = CellFacets.Usual with { Voicing = voicing };
        Cells.Find(sources, facets, recordings).Select(c => (c.Moments, c.Occurrences.Count, c.Recordings)).Order()
            .ShouldBe(Slowly(sources, facets, recordings).Order());
    }, iter: 400);

    private static IEnumerable<(int, int, int)> Slowly(List<Source> sources, CellFacets facets, int recordings)
    {
        var rows = sources.Select(s => s.Passage.Strokes.GroupBy(x => x.At)
            .Select(g => (At: g.Key.Value, What: string.Join('+',
            g.Select(x => facets.Voicing switch
            {
                VoicingRule.Drum => x.Voice.Code,
                VoicingRule.Family => x.Voice.Family.ToString(),
                _ =>
            "x"
            }).Order(StringComparer.Ordinal)))).ToList()).ToList();
        string Text(int source, int from, int length) =>
            string.Join(' ', Enumerable.Range(from, length)
            .Select(i => $"{(i == from ? 0 : rows[source][i].At - rows[source][i - 1].At)}:{rows[source][i].What}"));
        var places = Enumerable.Range(Cells.Least, Cells.Most - Cells.Least + 2).ToDictionary(length => length, length =>
            (from s in Enumerable.Range(0, rows.Count)
             from i in Enumerable.Range(0, Math.Max(0, rows[s].Count - length + 1))
             select (s, i,
                text: Text(s, i, length))).GroupBy(p => p.text).ToDictionary(g => g.Key, g => g.ToList()));
        for (var length = Cells.Least; length <= Cells.Most; length++)
        {
            foreach (var (_, at) in places[length])
            {
                var distinct = at.Select(p => sources[p.s].Recording).Distinct().Count();
                if (distinct < recordings) continue;
                var longer = length < Cells.Most ? places[length + 1].Values.ToList() : [];
                if (longer.Any(l => l.Count == at.Count && (at.All(p => l.Any(q => q.s == p.s && q.i == p.i))
                    || at.All(p => l.Any(q => q.s == p.s && q.i == p.i - 1))))) continue;
                yield return (length, at.Count, distinct);
            }
        }
    }

    private static IReadOnlyList<RankedCell> Ranked(IReadOnlyList<Source> sources, CellFacets? facets = null) =>
        CellRanking.Of(sources, facets ?? CellFacets.Usual, Cells.Find(sources, facets ?? CellFacets.Usual), 50);

    [Fact]
    public void Cells_that_mostly_stand_at_the_same_places_are_one_row_with_the_shortest_that_carries_them()
    {
        // Six titles with one figure, each padded otherwise: the figure is told, not its paddings.
        string[] pads = ["T1: 4\n", "T1: 4&\n", "BD: 4\n", "BD: 4a\n", "CR: 4\n", "T2: 4&\n"];
        Source[] sources = [.. pads.SelectMany((pad, i) =>
            new[] { One($"SN: 1 1a 2& 2a 3e\n{pad}", 10 + i), One("SN: 2 4\nBD: 1 3\n", 10 + i) with { Reading = 100 + i } })];
        var rows = Ranked(sources);
        rows[0].Cell.Moments.ShouldBeLessThanOrEqualTo(5);
        rows[0].Cell.Recordings.ShouldBe(6);
        rows.Count(r => r.Cell.Occurrences.Any(o => o.Start.Value == 0)).ShouldBeLessThanOrEqualTo(2, "the figure, and the groove");
    }

    [Fact]
    public void Each_row_says_what_chance_would_show_and_what_chance_explains_least_comes_first()
    {
        // A figure over four beats in eight titles, and single beats that come everywhere in any order.
        Source[] sources = [.. Enumerable.Range(0, 8).Select(i => One("SN: 1 1a 2& 2a 3e 4\n", i)), .. Enumerable.Range(8, 8)
            .Select(i => One(i % 2 == 0 ? "SN: 1 e & a\n" : "SN: 3 e & a\n", i))];
        var rows = Ranked(sources);
        rows[0].Cell.Occurrences.ShouldAllBe(o => o.Source < 8);
        rows[0].Expected.ShouldBeLessThan(2);
        rows.Single(r => r.Cell.Recordings == 8 && r.Cell.Occurrences.All(o => o.Source >= 8)
            && r.Cell.Moments >= 4).Expected.ShouldBeGreaterThan(4, "inside one beat a shuffle changes nothing");
        rows.Select(r => r.Lift).ShouldBeInOrder(SortDirection.Descending);
    }

    [Fact]
    public void Takes_of_one_title_are_one() =>
        Cells.Find([One("SN: 1 1a 2& 3e\n", 1), One("SN: 1 1a 2& 3e\n", 1) with { Reading = 2 }], CellFacets.Usual)
            .ShouldBeEmpty("two takes are no two titles");
}
