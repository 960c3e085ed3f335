using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>What is told while a place waits for judgement: taken from the account, as if it were confirmed.</summary>
public class IfOneMoreCounted
{
    private static readonly NamedIdea Idea = new(1, new(2020, 1, 1), NoticedBefore.Asked, []);

    private static RecordingFacts Recording(long id, int year, int searched = 64, long player = 1) => new()
    {
        Id = id,
        Name = $"Piece {id}",
        Title = $"Piece {id}",
        Player = player,
        Recorded = PartialDate.Parse($"{year}"),
        TotalBars = 64,
        Searches = [new(id, Closeness.Listened, 1, searched, [], new(2021, 1, 1))],
    };

    private static FoundSighting Place(long id, long recording, int bar, Judged judged) =>
        new(id, Idea.Id, recording, id, MeterCycle.CommonTime, bar, Tick.Zero, new(Tick.PerQuarter), judged);

    [Theory]
    [InlineData(2, 10, "in 2 of 3 recordings instead of 1|first in 1964 instead of 1968")]
    [InlineData(1, 30, "2 times in 160 bars instead of 1|first in 1968 as now")]
    [InlineData(1, 9, "no number changes: this place is counted already|first in 1968 as now")]
    [InlineData(3, 60, "outside what was searched, so in no rate|first in 1968 as now")]
    public void The_account_says_what_would_change(long recording, int bar, string said)
    {
        RecordingFacts[] recordings = [Recording(1, 1968), Recording(2, 1964), Recording(3, 1970, searched: 32),
            Recording(4, 1950, player: 2)];
        var waiting = Place(2, recording, bar, Judged.Waiting);
        var account = new Account(recordings, [Place(1, 1, 9, Judged.Confirmed), waiting, Place(3, 4, 5, Judged.Confirmed)], []);
        string.Join('|', IfItCounts.Of(account, Idea, 1, waiting)).ShouldBe(said);
        // What was refused is not among what the account is made of.
        string.Join('|', IfItCounts.Of(new(recordings, [Place(1, 1, 9, Judged.Confirmed)], []), Idea, 1,
            waiting with { Judged = Judged.Rejected })).ShouldBe(said);
        IfItCounts.Of(account, Idea, 1, Place(1, 1, 9, Judged.Confirmed)).ShouldBeEmpty();
    }
}
