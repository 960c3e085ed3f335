using InnerCadence.Core.Counting.Reading;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>Every checked case of the count-line language.</summary>
public class CountLineVectors
{
    public static TheoryData<string> Cases => Vectors.Names("count-lines", _ => true);

    [Theory, MemberData(nameof(Cases))]
    public void Text_gives_what_the_case_says(string name) => ExpectedReading.Check("count-lines", name, CountLines.Parse);
}
