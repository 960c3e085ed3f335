using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Likeness;

public class AssignmentTests
{
    [Fact]
    public void No_permutation_is_cheaper() =>
        Gen.Int[1, 5].SelectMany(n => Gen.Long[0, 9].Array[n * n]).Sample(weights =>
        {
            var size = (int)Math.Sqrt(weights.Length);
            var given = new int[size];
            Array.Fill(given, -1);
            for (var row = 0; row < size; row++)
            {
                var free = Array.FindIndex(weights, row * size, size, w => w == 0) - row * size;
                if (free >= 0 && !given.Contains(free)) given[row] = free;
            }
            var columns = Assignment.Solve(size, weights, given);
            columns.Order().ShouldBe(Enumerable.Range(0, size));
            Total(columns).ShouldBe(Permutations(size).Min(Total));

            long Total(IReadOnlyList<int> chosen) => chosen.Select((column, row) => weights[row * size + column]).Sum();
        }, iter: 2000);

    [Fact]
    public void A_forbidden_pair_is_taken_only_where_nothing_else_is_left()
    {
        const long no = Assignment.Forbidden;
        Assignment.Solve(2, [no, 5, 1, 1], [-1, -1]).ShouldBe([1, 0]);
        Assignment.Solve(2, [no, no, 1, 1], [-1, -1]).ShouldContain(-1);
    }

    private static IEnumerable<int[]> Permutations(int size) => size == 1 ? [[0]]
        : Permutations(size - 1).SelectMany(p => Enumerable.Range(0, size).Select(i => (int[])[.. p[..i], size - 1, .. p[i..]]));
}

/// <summary>The table of ideas.md, "Cost of a difference", line by line.</summary>
public class DifferenceTests
{
    [Theory]
    [InlineData("SN: 1", "SN: 1", 0, 0)]
    [InlineData("SN: 1", "SN: 1>", 1, 0)]
    [InlineData("SN: (1)", "SN: 1>", 2, 0)]
    [InlineData("SN: 1", "SN: 1f", 1, 0)]
    [InlineData("SN: 1fr", "SN: 1d", 1, 0)]
    [InlineData("HH: 1", "HH: 1o", 1, 0)]
    [InlineData("HH: 1~", "HH: 1o", 1, 0)]
    [InlineData("SN: 1R", "SN: 1L", 1, 0)]
    [InlineData("SN: 1R", "SN: 1", 0, 0)]
    [InlineData("BD: 1R", "BD: 1L", 1, 0)]
    [InlineData("FT: 1", "T2: 1", 1, 1)]
    [InlineData("SN: 1", "XS: 1", 1, 1)]
    [InlineData("FT: 1", "TT: 1", 0, 0)]
    [InlineData("TT: 1", "T1: 1", 0, 0)]
    [InlineData("CR: 1", "CY: 1", 0, 0)]
    [InlineData("SN: 1", "FT: 1", 3, 1)]
    [InlineData("SN: 1", "TT: 1", 3, 1)]
    [InlineData("SN: 1", "BD: 1", 2, 1)]
    [InlineData("HH: 1", "HF: 1", 2, 1)]
    [InlineData("SN: 1R", "BD: 1L", 2, 1)]
    public void Costs_in_place(string pattern, string passage, int cost, int required)
    {
        var difference = Difference.Between(Only(pattern), Only(passage), 0, new(), false)!.Value;
        (difference.Cost, difference.Required).ShouldBe((cost, required));
        var back = Difference.Between(Only(passage), Only(pattern), 0, new(), false)!.Value;
        back.Cost.ShouldBe(cost, "the cost is the same from either side");
    }

    [Theory]
    [InlineData(1, 2)]
    [InlineData(2520, 2)]
    [InlineData(2521, 3)]
    [InlineData(5040, 3)]
    [InlineData(5041, null)]
    public void Costs_of_a_move(int ticks, int? cost) =>
        Difference.Between(Only("SN: 1"), Only("SN: 1"), ticks * Difference.Fine, new(), false)?.Cost.ShouldBe(cost!.Value);

    [Fact]
    public void A_pair_differs_in_place_or_in_family_but_not_in_both()
    {
        Difference.Between(Only("SN: 1"), Only("FT: 1"), 2520 * Difference.Fine, new(), false).ShouldBeNull();
        Difference.Between(Only("HH: 1"), Only("HF: 1"), 2520 * Difference.Fine, new(), false).ShouldBeNull();
        Difference.Between(Only("T1: 1"), Only("FT: 1"), 2520 * Difference.Fine, new(), false)!.Value.Cost.ShouldBe(3);
    }

    [Theory]
    [InlineData(VoicingRule.Family, "FT: 1", "T1: 1", 0)]
    [InlineData(VoicingRule.Family, "HH: 1", "HF: 1", 2)]
    [InlineData(VoicingRule.Family, "SN: 1", "FT: 1", 3)]
    [InlineData(VoicingRule.HandOrFoot, "SN: 1", "CR: 1", 0)]
    [InlineData(VoicingRule.HandOrFoot, "SN: 1", "BD: 1", 2)]
    [InlineData(VoicingRule.Any, "SN: 1", "BD: 1", 0)]
    public void What_the_setting_allows_costs_nothing(VoicingRule rule, string pattern, string passage, int cost) =>
        Difference.Between(Only(pattern), Only(passage), 0, new() { Voicing = rule }, false)!.Value.Cost.ShouldBe(cost);

    [Fact]
    public void What_is_not_looked_at_does_not_differ_and_what_must_agree_is_required()
    {
        var ignored = new Facets
        {
            Dynamics = FacetRule.Ignore,
            Openness = FacetRule.Ignore,
            Ornaments = FacetRule.Ignore,
            Sticking = FacetRule.Ignore
        };
        Difference.Between(Only("HH: 1oR"), Only("HH: 1>fL"), 0, ignored, false)!.Value.Edits.ShouldBe(0);
        var must = new Facets
        {
            Dynamics = FacetRule.Must,
            Openness = FacetRule.Must,
            Ornaments = FacetRule.Must,
            Sticking = FacetRule.Must
        };
        var difference = Difference.Between(Only("HH: 1oR"), Only("HH: 1>fL"), 0, must, false)!.Value;
        (difference.Cost, difference.Required, difference.Edits).ShouldBe((4, 4, 4));
    }

    [Fact]
    public void A_kick_may_stand_in_only_in_place()
    {
        Difference.Between(Only("SN: 1"), Only("BD: 1"), 0, new(), true)!.Value.ShouldSatisfyAllConditions(d => d.Cost.ShouldBe(0), d =>
            d.Voicing.ShouldBe(VoicingDifference.Substituted));
        Difference.Between(Only("SN: 1"), Only("BD: 1"), 2520 * Difference.Fine, new(), true).ShouldBeNull();
    }

    private static Stroke Only(string text) => CountLines.Parse(text).Passage.Strokes.Single();
}

public class PairingTests
{
    [Theory]
    [InlineData("SN: 1 2 3", "SN: 1 2 3", 0, "0 1 2")]
    [InlineData("SN: 1 2 3", "SN: 1 3", 4, "0 - 1")]
    [InlineData("SN: 1 2", "SN: 1 1& 2", 4, "0 2")]
    [InlineData("SN: 1 2", "SN: 1 2e", 2, "0 1")]
    [InlineData("SN: 1 2", "SN: 1 2&", 3, "0 1")]
    [InlineData("SN: 1 2", "SN: 1 3", 8, "0 -")]
    [InlineData("SN: 1\nBD: 1", "SN: 1\nBD: 1", 0, "0 1")]
    [InlineData("T1: 1\nFT: 1", "T2: 1\nF2: 1", 2, "0 1")]
    [InlineData("SN: 1 e", "SN: 1e 1&", 4, "0 1")]
    public void The_cheapest_pairing_is_found(string pattern, string window, int cost, string partners)
    {
        var pairing = Pair(pattern, window);
        string.Join(' ', pairing.Partners.Select(p => p < 0 ? "-" : $"{p}")).ShouldBe(partners);
        CostOf(pairing).ShouldBe(cost);
    }

    [Fact]
    public void A_stroke_does_not_move_past_one_of_its_own_voice_that_is_in_place()
    {
        // Without the rule the first snare could move over the second to the third place for 3.
        var pairing = Pair("SN: 1 1e", "SN: 1e 1&");
        pairing.Partners.ShouldNotBe([1, 0]);
    }

    [Fact]
    public void Laying_the_same_against_itself_costs_nothing() => Strokes.Sample(text =>
    {
        var pairing = Pair(text, text);
        CostOf(pairing).ShouldBe(0);
        pairing.Extras.ShouldBe(0);
    });

    [Fact]
    public void The_cost_is_the_same_from_either_side() => Gen.Select(Strokes, Strokes).Sample((one, other) =>
        CostOf(Pair(one, other)).ShouldBe(CostOf(Pair(other, one)), $"{one}\n--\n{other}"), iter: 3000);

    [Fact]
    public void A_limit_below_what_must_be_paid_gives_nothing()
    {
        var (pattern, window) = (Lay("SN: 1 2 3 4"), Lay("FT: 1 2 3 4"));
        Pairing.Cheapest(pattern, window, new bool[4], new(), false, 11, 0).ShouldBeNull();
        Pairing.Cheapest(pattern, window, new bool[4], new(), false, 12, 0).ShouldNotBeNull();
    }

    private static readonly Gen<string> Strokes = Gen.Select(
        Gen.OneOf("SN", "FT", "T1", "BD", "HH"), Gen.OneOf("1", "1e", "1&", "1a", "2", "2e", "2>", "(3)", "3&", "4R", "4aL").List[1,
            5]).List[1, 3]
        .Select(lines => string.Join('\n', lines.Select(l => $"{l.Item1}: {string.Join(' ', l.Item2.Distinct())}")));

    private static int CostOf(Pairing pairing) =>
        pairing.Differences.Sum(d => d.Cost) + pairing.Partners.Count(p => p < 0) * Difference.Missing + pairing.Extras * Difference.Extra;

    private static Pairing Pair(string pattern, string window)
    {
        var (own, other) = (Lay(pattern), Lay(window));
        return Pairing.Cheapest(own, other, new bool[own.Length], new(), false, int.MaxValue, 0)!;
    }

    private static Laid[] Lay(string text) => [.. CountLines.Parse(text).Passage.Strokes.Select(s =>
        new Laid(s, (long)s.At.Value * Difference.Fine))];
}
