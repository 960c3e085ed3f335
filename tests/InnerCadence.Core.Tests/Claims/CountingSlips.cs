using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Claims;

/// <summary>What people write on slips of paper is counted.</summary>
public class CountingSlips
{
    [Theory]
    [InlineData("Tarred Rope\ntarred rope \nLong Pier", "Tarred Rope 2, Long Pier 1")]
    [InlineData("3x Long Pier\nTarred  Rope x2\nLONG PIER", "Long Pier 4, Tarred Rope 2")]
    [InlineData("  \n\n", "")]
    [InlineData("Nine × Nine\n2 × Nine Kinds", "Nine Kinds 2, Nine × Nine 1")]
    [InlineData("999x Low Road\n999x Low Road", "Low Road 1000")]
    public void The_same_words_are_one_wish(string slips, string counted) =>
        string.Join(", ", Slips.Count(slips).Select(s => $"{s.Words} {s.Votes}")).ShouldBe(counted);
}
