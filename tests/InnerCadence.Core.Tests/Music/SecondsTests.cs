using System.Globalization;
using System.Text.Json;
using CsCheck;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Music;

public class SecondsTests
{
    private static readonly Gen<Seconds> Any = Gen.Double[-1000, 1000].Select(v => new Seconds(v));

    [Fact]
    public void Times_add_and_differences_lead_back() => Gen.Select(Any, Any).Sample((a, b) => (a + (b - a)).Value.ShouldBe(b.Value, 1e-9));

    [Fact]
    public void They_are_in_the_order_of_their_numbers() =>
        Gen.Select(Any, Any).Sample((a, b) => ((a < b) == (a.Value < b.Value) && (a >= b) == (a.Value >= b.Value)).ShouldBeTrue());

    [Fact]
    public void Two_lengths_divided_are_a_number_and_a_length_halved_is_a_length()
    {
        (new Seconds(3) / new Seconds(1.5)).ShouldBe(2);
        (new Seconds(3) / 2).ShouldBe(new Seconds(1.5));
        Seconds.OfMilliseconds(1250).ShouldBe(new Seconds(1.25));
    }

    [Fact]
    public void They_are_told_with_the_decimals_asked_for() => string.Create(CultureInfo.InvariantCulture,
        $"{new Seconds(1.2345):0.00} s").ShouldBe("1.23 s");

    [Fact]
    public void They_are_kept_and_answered_as_a_bare_number_wherever_they_stand()
    {
        JsonSerializer.Serialize(new object[] { new Seconds(1.5), true }).ShouldBe("[1.5,true]");
        JsonSerializer.Deserialize<Seconds>("0.25").ShouldBe(new Seconds(0.25));
    }
}
