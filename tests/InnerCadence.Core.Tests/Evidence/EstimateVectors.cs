using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>The checked cases of presence and rate.</summary>
public class EstimateVectors
{
    public static TheoryData<string> Cases => Vectors.Names("evidence", c => c.GetProperty("call").GetString() is "presence" or "rate"
        && c.GetProperty("in").Maybe("titles") is null);

    [Theory, MemberData(nameof(Cases))]
    public void Numbers_are_those_of_the_case(string name)
    {
        var found = Vectors.Named("evidence", name);
        var (given, expect) = (found.GetProperty("in"), found.GetProperty("expect"));
        var presence = found.GetProperty("call").GetString() == "presence";
        var interval = presence
            ? Estimates.Presence(given.GetProperty("k").GetInt32(), given.GetProperty("n").GetInt32())
            : Estimates.Rate(given.GetProperty("events").GetInt32(), given.GetProperty("bars").GetDouble());
        if (expect.Maybe("status") is not null)
        {
            interval.ShouldBeNull();
            return;
        }
        Near(interval!.Value.Value, expect.GetProperty(presence ? "share" : "per100").GetDouble());
        Near(interval.Value.Low, expect.GetProperty("low").GetDouble());
        Near(interval.Value.High, expect.GetProperty("high").GetDouble());
    }

    private static void Near(double actual, double expected) => actual.ShouldBe(expected, Math.Max(1e-9, Math.Abs(expected) * 1e-6));

    [Fact]
    public void Nothing_searched_gives_no_number()
    {
        Estimates.Presence(0, 0).ShouldBeNull();
        Estimates.Rate(0, 0).ShouldBeNull();
    }

    [Fact]
    public void More_found_than_searched_is_a_mistake_of_the_caller() =>
        Should.Throw<ArgumentOutOfRangeException>(() => Estimates.Presence(2, 1));

    public static TheoryData<string> ByTitles => Vectors.Names("evidence", c => c.GetProperty("in").Maybe("titles") is not null
        || c.GetProperty("call").GetString() == "times");

    [Theory, MemberData(nameof(ByTitles))]
    public void Numbers_by_titles_are_those_of_the_case(string name)
    {
        var found = Vectors.Named("evidence", name);
        var (given, expect) = (found.GetProperty("in"), found.GetProperty("expect"));
        List<TitleAmount> Titles(System.Text.Json.JsonElement side, string events, string amount) =>
            [.. side.GetProperty("titles").EnumerateArray()
                .Select(t => new TitleAmount(t.GetProperty(events).GetDouble(), t.GetProperty(amount).GetDouble()))];
        if (found.GetProperty("call").GetString() == "times")
        {
            var times = TimesAsOften.Of(Titles(given.GetProperty("one"), "events", "bars"),
                Titles(given.GetProperty("two"), "events", "bars"));
            if (expect.Maybe("status") is not null) times.ShouldBeNull();
            else foreach (var (end, value) in new[] { ("ratio", times!.Interval.Value), ("low", times.Interval.Low),
                ("high", times.Interval.High) })
                if (expect.GetProperty(end).ValueKind == System.Text.Json.JsonValueKind.Null) value.ShouldBe(double.PositiveInfinity);
                else Near(value, expect.GetProperty(end).GetDouble());
            return;
        }
        var presence = found.GetProperty("call").GetString() == "presence";
        var estimate = presence ? Estimate.Share(Titles(given, "with", "searched")) : Estimate.Rate(Titles(given, "events", "bars"));
        if (expect.Maybe("status") is not null)
        {
            estimate.ShouldBeNull();
            return;
        }
        Near(estimate!.Value, expect.GetProperty(presence ? "share" : "per100").GetDouble());
        Near(estimate.Interval.Low, expect.GetProperty("low").GetDouble());
        Near(estimate.Interval.High, expect.GetProperty("high").GetDouble());
        Near(estimate.DesignEffect, expect.GetProperty("designEffect").GetDouble());
        estimate.Titles.ShouldBe(expect.GetProperty("titles").GetInt32());
    }
}
