using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Telling;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>How often, where, when: in words, and only what stands out.</summary>
public class AnIdeaInThree
{
    private static readonly NamedIdea Idea = new(7, new(2026, 5, 1), NoticedBefore.No, []);

    /// <summary>Four recordings of 48 bars, two of them live, with places (bar and beat, from 1) in those that are told.</summary>
    private static IReadOnlyList<string> Said(params (int Recording, int Bar, int Beat)[] places)
    {
        var form = Form.Parse("verse 16, chorus 16, verse 16", MeterCycle.CommonTime);
        var account = new Account([.. Enumerable.Range(1, 4).Select(id => new RecordingFacts
        {
            Id = id,
            Name = $"Piece {id}",
            Title = $"Title {id}",
            Player = 1,
            Kind = id % 2 == 0 ? RecordingKind.Live : RecordingKind.Studio,
            Tempo = 90 + 10 * id,
            Recorded = PartialDate.Parse($"{1960 + id}"),
            TotalBars = 48,
            Form = form,
            Grid = new(MeterCycle.CommonTime, form.Sections),
            Searches = [new Search(id, Closeness.Listened, 1, 48, [], new(2026, 6, 1))],
        })], places.Select((p, i) => new FoundSighting(i, 7, p.Recording, p.Recording * 10, MeterCycle.CommonTime, 1,
            new((p.Bar - 1) * 40320 + (p.Beat - 1) * 10080), new((p.Bar - 1) * 40320 + p.Beat * 10080), Judged.Confirmed)), []);
        return IdeaInThree.Of(account.Of(Idea), 1);
    }

    [Fact]
    public void Where_it_stands_and_when_are_said_with_their_numbers()
    {
        var said = Said((2, 20, 3), (2, 24, 3), (2, 28, 3), (4, 20, 3), (4, 32, 3));
        said.Count.ShouldBe(3);
        said[1].ShouldBe("Mostly in bar 4 of 4 (5 of 5), in the chorus (5 of 5); at 110 to 130 BPM.",
            "the first says that all are on one beat");
        said[2].ShouldBe("First in Piece 2, 1962; last in Piece 4, 1964; only live: 5 in 96 bars, none in 96 of other kinds.");
    }

    [Fact]
    public void What_is_everywhere_is_at_no_place_and_little_is_not_spread_out()
    {
        var said = Said((1, 3, 1), (2, 18, 2), (3, 36, 3), (4, 21, 4), (1, 42, 2), (3, 7, 4));
        said[1].ShouldStartWith("No beat, bar of the phrase or section has more of it than its share");
        said[2].ShouldBe("First in Piece 1, 1961; last in Piece 4, 1964.");
        Said((1, 3, 1), (1, 7, 3), (2, 5, 1), (2, 6, 1), (3, 9, 1))[1].ShouldStartWith("Mostly on beat 1 (4 of 5)");
        Said((1, 3, 1)).Count.ShouldBe(2, "one place is no place to be mostly at");
        Said().Count.ShouldBe(1);
    }
}
