using CsCheck;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>What holds for every comparison; the checked cases run through the API.</summary>
public class Comparing
{
    private static readonly Gen<Table> Tables = Gen.Select(Gen.Int[0, 40], Gen.Int[0, 40], Gen.Int[0, 40], Gen.Int[0, 40], (a, b, c, d) =>
        new Table(a, b, c, d));

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

    private static TimesAsOften? Times(int events, double bars, int others, double otherBars) =>
        TimesAsOften.Of([new(events, bars)], [new(others, otherBars)]);

    [Fact]
    public void Times_as_often_is_one_for_equal_rates_and_has_no_upper_end_where_the_others_have_none()
    {
        var equal = Times(10, 100, 20, 200)!.Interval;
        equal.Value.ShouldBe(1, 1e-12);
        (equal.Low < 1 && equal.High > 1).ShouldBeTrue();
        Times(5, 100, 0, 100)!.Interval.High.ShouldBe(double.PositiveInfinity);
        Times(0, 100, 5, 100)!.Interval.Low.ShouldBe(0);
        Times(0, 100, 0, 100).ShouldBeNull();
        TimesAsOften.Of([new(0, 0)], [new(1, 10)]).ShouldBeNull();
    }

    private static readonly Gen<TitleAmount[]> Titles = Gen.Select(Gen.Int[0, 9], Gen.Int[1, 200], (events, bars) =>
        new TitleAmount(events, bars)).Array[1, 12];

    [Fact]
    public void P_is_five_in_a_hundred_just_where_the_interval_touches_one() =>
        Gen.Select(Titles, Titles).Where(x => x.Item1.Concat(x.Item2).Any(t => t.Events > 0)).Sample((one, two) =>
    {
        var times = TimesAsOften.Of(one, two)!;
        times.P.ShouldBeInRange(0, 1);
        // Apart is told by the interval and by p alike; a hair on either side is left to the last digits.
        var apart = times.Interval.Low > 1 || times.Interval.High < 1;
        if (Math.Abs(times.P - 0.05) > 1e-6) (times.P < 0.05).ShouldBe(apart);
        var mirror = TimesAsOften.Of(two, one)!;
        mirror.P.ShouldBe(times.P, 1e-9);
        if (times.Interval.Low > 0) mirror.Interval.High.ShouldBe(1 / times.Interval.Low, mirror.Interval.High * 1e-6);
    });

    [Fact]
    public void A_table_of_millions_takes_milliseconds_and_can_be_stopped()
    {
        var watch = System.Diagnostics.Stopwatch.StartNew();
        Contrasts.Fisher(new(5_000_000, 5_000_000, 5_001_000, 4_999_000)).ShouldBeInRange(0.6, 0.7);
        watch.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(5));
        Contrasts.Fisher(new(10_000_000, 0, 0, 10_000_000)).ShouldBe(0, 1e-12);
        using var stop = new CancellationTokenSource();
        stop.Cancel();
        Should.Throw<OperationCanceledException>(() => Contrasts.Fisher(new(5_000_000, 5_000_000, 5_001_000, 4_999_000), stop.Token));
    }

    [Fact]
    public void Silence_in_200_bars_at_two_a_hundred_is_two_in_a_hundred()
    {
        var (expected, none) = Contrasts.Silence(2, 200);
        expected.ShouldBe(4);
        none.ShouldBe(0.0183, 0.0001);
    }
}
