using CsCheck;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>What holds for every comparison; the checked cases run through the API.</summary>
public class Comparing
{
    private static readonly Gen<Table> Tables = Gen.Select(Gen.Int[0, 40], Gen.Int[0, 40], Gen.Int[0, 40], Gen.Int[0, 40], (a, b, c, d) => new Table(a, b, c, d));

    [Fact]
    public void A_table_and_its_mirror_differ_in_sign_only() => Tables.Where(t => t.IsSearched).Sample(t =>
    {
        var (one, other) = (Contrasts.Of([t])[0]!, Contrasts.Of([new(t.C, t.D, t.A, t.B)])[0]!);
        one.LogOdds.ShouldBe(-other.LogOdds, 1e-9);
        one.P.ShouldBe(other.P, 1e-9);
        one.P.ShouldBeInRange(0, 1);
        one.Low.ShouldBeLessThan(one.High);
    });

    [Fact]
    public void A_row_with_an_unsearched_side_has_no_numbers_and_takes_no_part_in_the_correction()
    {
        var rows = Contrasts.Of([new(3, 2, 0, 0), new(8, 2, 1, 9)]);
        rows[0].ShouldBeNull();
        rows[1]!.Q.ShouldBe(rows[1]!.P);
    }

    [Fact]
    public void Corrected_values_are_never_smaller_keep_their_order_and_stay_below_one() => Gen.Double[0, 1].Array[0, 30].Sample(p =>
    {
        var q = Contrasts.Adjust(p);
        for (var i = 0; i < p.Length; i++)
        {
            q[i].ShouldBeInRange(p[i] - 1e-12, 1);
            for (var j = 0; j < p.Length; j++)
                if (p[i] < p[j]) q[i].ShouldBeLessThanOrEqualTo(q[j]);
        }
    });

    [Fact]
    public void One_tempo_has_no_split_and_equal_tempos_are_one()
    {
        Contrasts.Threshold([(96, 3, 4), (96, 1, 0)]).ShouldBeNull();
        Contrasts.Threshold([(80, 0, 5), (80, 0, 5), (120, 6, 0)])!.Below.ShouldBe(80);
        Contrasts.Threshold([]).ShouldBeNull();
    }

    /// <summary>Of two splits that are equally good the slower one is told.</summary>
    [Fact]
    public void Of_equal_splits_the_slower_is_told() => Contrasts.Threshold([(80, 1, 1), (100, 1, 1), (120, 1, 1)])!.Below.ShouldBe(80);

    [Fact]
    public void Times_as_often_is_one_for_equal_rates_and_has_no_upper_end_where_the_others_have_none()
    {
        var equal = Contrasts.TimesAsOften(10, 100, 20, 200)!.Value;
        equal.Value.ShouldBe(1, 1e-12);
        (equal.Low < 1 && equal.High > 1).ShouldBeTrue();
        Contrasts.TimesAsOften(5, 100, 0, 100)!.Value.High.ShouldBe(double.PositiveInfinity);
        Contrasts.TimesAsOften(0, 100, 5, 100)!.Value.Low.ShouldBe(0);
        Contrasts.TimesAsOften(0, 100, 0, 100).ShouldBeNull();
        Contrasts.TimesAsOften(1, 0, 1, 10).ShouldBeNull();
    }

    [Fact]
    public void Silence_in_200_bars_at_two_a_hundred_is_two_in_a_hundred()
    {
        var (expected, none) = Contrasts.Silence(2, 200);
        expected.ShouldBe(4);
        none.ShouldBe(0.0183, 0.0001);
    }
}
