using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>The checked cases of presence and rate.</summary>
public class EstimateVectors
{
    public static TheoryData<string> Cases => Vectors.Names("evidence", c => c.GetProperty("call").GetString() is "presence" or "rate");

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
}
