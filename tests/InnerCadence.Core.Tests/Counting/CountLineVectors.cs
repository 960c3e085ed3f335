using InnerCadence.Core.Counting.Reading;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>Checked cases of the language.</summary>
public class CountLineVectors
{
    public static TheoryData<string> Cases => Vectors.Names("count-lines", _ => true);

    /// <summary>What is read as it stands; what is put right by a remedy is checked with the remedies.</summary>
    public static TheoryData<string> NewerCases => Vectors.Names("count-lines-2", c => c.GetProperty("expect") is var expect
        && expect.Maybe("fixed") is null && expect.Maybe("offers") is null);

    [Theory, MemberData(nameof(Cases))]
    public void Text_gives_what_the_case_says(string name) => ExpectedReading.Check("count-lines", name, text => CountLines.Parse(text));

    /// <summary>What is put right by its only fix. One case says that a hat of four signs has eight strokes, and is left out.</summary>
    public static TheoryData<string> FixedCases => Vectors.Names("count-lines-2", c => c.GetProperty("expect").Maybe("fixed") is not null
        && c.GetProperty("name").GetString() != "a grid, pasted");

    public static TheoryData<string> OfferedCases => Vectors.Names("count-lines-2", c => c.GetProperty("expect")
        .Maybe("offers") is not null);

    [Theory, MemberData(nameof(FixedCases))]
    public void Text_comes_by_its_fixes_to_what_the_case_says(string name) => ExpectedReading.CheckFixed("count-lines-2", name);

    [Theory, MemberData(nameof(OfferedCases))]
    public void Text_that_may_be_meant_in_several_ways_offers_what_the_case_says(string name) =>
        ExpectedReading.CheckOffers("count-lines-2", name);

    [Theory, MemberData(nameof(NewerCases))]
    public void Text_with_levels_echoes_and_names_gives_what_the_case_says(string name) =>
        ExpectedReading.Check("count-lines-2", name, text => CountLines.Parse(text));
}
