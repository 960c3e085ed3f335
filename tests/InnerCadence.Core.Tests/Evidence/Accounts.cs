using CsCheck;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>The account over made-up studies: against a count of bars one by one, and against itself in every division.</summary>
public class Accounts
{
    private const int Bars = 48;
    private static readonly NamedIdea Idea = new(7, new(2026, 5, 1), NoticedBefore.No, []);

    /// <summary>What happened at one place, and by how many entries it is shown.</summary>
    private sealed record Place(int Bar, int Sixteenth, int Shown, bool Unsure);

    private sealed record Made(RecordingFacts Facts, IReadOnlyList<FoundSighting> Found, IReadOnlyList<HeardByHand> Heard,
        IReadOnlyList<Place> Places, IReadOnlySet<int> Searched);

    private static readonly Gen<Made> Recordings = Gen.Select(
        Gen.Select(Gen.Int[1, Bars], Gen.Int[1, 20], Gen.Int[0, 3]).Array[0, 4],
        Gen.Select(Gen.Int[1, Bars], Gen.Int[0, 3], Gen.Int[1, 7], Gen.Bool).Array[0, 6],
        Gen.Int[0, 3], Gen.Int[0, 4], Gen.Int[0, 100_000])
            .Select((searches, places, title, form, id) => Make(id, searches, places, title, form));

    private static Made Make(int id, (int From, int Bars, int How)[] spans, (int Bar, int Beat, int Shown, bool Unsure)[] places,
        int title, int form)
    {
        var searches = spans.Select((s, i) => new Search(i, s.How == 0 ? Closeness.Skimmed : s.How == 1 ? Closeness.Transcribed
            : Closeness.Listened, s.From, s.Bars, s.How == 3 ? [8] : [], new(2026, 6, 1))).ToList();
        var searched = searches.Where(s => s.Closeness == Closeness.Transcribed || (s.Closeness == Closeness.Listened && s.ForEverything))
            .SelectMany(s => Enumerable.Range(s.From!.Value, s.Bars)).Where(b => b <= Bars).ToHashSet();
        // One place a bar, so that an entry that says only its bar can be no other.
        var distinct = places.DistinctBy(p => p.Bar).Select(p => new Place(p.Bar, p.Beat * 4, p.Shown, p.Unsure)).ToList();
        var (found, heard) = (new List<FoundSighting>(), new List<HeardByHand>());
        foreach (var p in distinct)
        {
            // Shown by a first passage, by a second that overlaps it a sixteenth off, by its bar alone: any of the three.
            foreach (var passage in new[] { 1, 2 }.Where(n => (p.Shown & n) != 0))
                found.Add(new(id * 1000L + p.Bar * 10 + passage, 7, id, id * 10L + passage, MeterCycle.CommonTime, 1,
                    new((p.Bar - 1) * 40320 + p.Sixteenth * 2520 + (passage == 2 ? 2520 : 0)),
                    new((p.Bar - 1) * 40320 + p.Sixteenth * 2520 + 5040), Judged.Confirmed)
                { Unsure = p.Unsure, BecauseHeard = true });
            if ((p.Shown & 4) != 0) heard.Add(new(id * 1000L + p.Bar, 7, id, null, p.Bar));
        }
        string[] forms = ["", "verse 16, chorus 16, verse 16", "intro 4, verse 44", "bridge 3, verse 45", "verse 8 of 7/8, chorus 40"];
        var read = Form.Parse(forms[form], MeterCycle.CommonTime);
        return new(new()
        {
            Id = id,
            Name = $"Piece {id}",
            Title = $"Title {title}",
            Player = 1,
            Kind = id % 2 == 0 ? RecordingKind.Live : RecordingKind.Studio,
            Tempo = 60 + id % 100,
            Recorded = id % 5 == 0 ? null : PartialDate.Parse($"{1960 + id % 9}"),
            TotalBars = Bars,
            Form = read,
            Grid = new(MeterCycle.CommonTime, read.Sections),
            Searches = searches
        }, found, heard, distinct, searched);
    }

    private static readonly Gen<Made[]> Studies = Recordings.Array[1, 6]
        .Where(all => all.Select(m => m.Facts.Id).Distinct().Count() == all.Length);

    private static Account Of(Made[] study) => new([.. study.Select(m => m.Facts)], study.SelectMany(m => m.Found),
        study.SelectMany(m => m.Heard));

    [Fact]
    public void Every_place_counts_once_and_only_in_searched_bars() => Studies.Sample(study =>
    {
        foreach (var (made, performance) in study.Zip(Of(study).Of(Idea)))
        {
            performance.Bars.ShouldBe(made.Searched.Count);
            performance.Confirmed.ShouldBe(made.Places.Count);
            performance.Events.ShouldBe(made.Places.Count(p => made.Searched.Contains(p.Bar)));
            performance.Outside.ShouldBe(made.Places.Count(p => !made.Searched.Contains(p.Bar)));
            performance.Counted.ShouldAllBe(a => made.Searched.Contains(a.Bar!.Value));
            performance.Occasions.ShouldBeLessThanOrEqualTo(performance.Events);
            // Every entry is shown by one place or another: none is lost.
            performance.Appearances.Sum(a => 1 + a.Also.Count).ShouldBe(made.Found.Count + made.Heard.Count);
        }
    });

    [Fact]
    public void Every_division_has_the_sum_of_the_headline_and_every_part_its_own_places() => Studies.Sample(study =>
    {
        var performances = Of(study).Of(Idea);
        var answer = Answer.Of(performances);
        answer.Events.ShouldBe(performances.Sum(p => p.Events));
        answer.Titles.Sum(t => t.Events).ShouldBe(answer.Events);
        foreach (var by in Division.All)
        {
            var parts = by.Parts(performances);
            parts.Sum(p => p.Events).ShouldBe(answer.Events, by.Name);
            if (by != Division.Beat) parts.Sum(p => p.Bars).ShouldBe(answer.Bars, by.Name);
            parts.SelectMany(p => p.Keys).ShouldBeUnique();
            foreach (var part in parts)
            {
                performances.Sum(p => p.Counted.Count(a => part.Keys.Contains(by.PartOf(p, a))))
                    .ShouldBe(part.Events, $"{by.Name}, {part.Name}");
                if (part.Rate is { } rate) (rate.Events, rate.Amount >= Division.LeastBars || by != Division.Section)
                    .ShouldBe((part.Events, true));
            }
            parts.Count(p => p.Name.Contains("under")).ShouldBeLessThanOrEqualTo(1);
        }
    });

    [Fact]
    public void Without_what_is_unsure_there_is_never_more_and_the_searched_bars_are_the_same() => Studies.Sample(study =>
    {
        var account = Of(study);
        foreach (var (all, sure) in account.Of(Idea).Zip(account.Cautious().Of(Idea)))
        {
            sure.Events.ShouldBeLessThanOrEqualTo(all.Events);
            sure.Bars.ShouldBe(all.Bars);
            sure.Appearances.ShouldAllBe(a => !a.Unsure);
        }
    });

    private static FoundSighting At(long id, long reading, int? bar, int sixteenth, Judged judged = Judged.Confirmed,
        bool vanished = false) =>
        new(id, 7, 1, reading, MeterCycle.CommonTime, bar, new(sixteenth * 2520), new(sixteenth * 2520 + 5040),
            judged)
        { Vanished = vanished };

    private static Performance One(RecordingFacts facts, FoundSighting[] found, params HeardByHand[] heard) =>
        new Account([facts], found, heard).Of(Idea)[0];

    private static RecordingFacts Facts(int? total = 64, TempoMap? map = null) =>
        new()
        {
            Id = 1,
            Name = "Quay",
            Title = "Quay",
            Player = 1,
            TotalBars = total,
            Tempo = 120,
            Map = map,
            Searches = [new(1, Closeness.Listened, null, 64, [], new(2026, 6, 1))]
        };

    [Fact]
    public void Two_sightings_of_one_reading_are_never_one_place_and_each_pairs_with_the_nearest()
    {
        One(Facts(), [At(1, 1, 5, 0), At(2, 1, 5, 1)]).Confirmed.ShouldBe(2);
        // The second passage is a sixteenth late: its two pair with the two of the first, in order.
        One(Facts(), [At(1, 1, 5, 0), At(2, 1, 5, 4), At(3, 2, 5, 1), At(4, 2, 5, 5)])
            .ShouldSatisfyAllConditions(p => p.Confirmed.ShouldBe(2), p => p.Appearances.Select(a => a.Also.Single().Sighting)
            .ShouldBe([3, 4]));
        One(Facts(), [At(1, 1, 5, 0), At(2, 2, 5, 2)]).Confirmed.ShouldBe(2, "an eighth note apart is not less than an eighth");
        One(Facts(), [At(1, 1, 5, 0), At(2, 2, 5, 0), At(3, 3, 5, 0)], new HeardByHand(1, 7, 1, null, 5)).Confirmed.ShouldBe(1,
            "however many show it");
    }

    [Fact]
    public void What_was_heard_by_the_clock_is_placed_by_the_bar_marks_and_by_its_bar_pairs_with_any_of_that_bar()
    {
        var map = TempoMap.Of(new(MeterCycle.CommonTime), [new(1, new(0)), new(33, new(80_000))], null);
        // Two and a half seconds a bar, not the two of the nominal tempo.
        One(Facts(map: map), [At(1, 1, 9, 0)], new HeardByHand(1, 7, 1, new(20_100), null))
            .ShouldSatisfyAllConditions(p => p.Confirmed.ShouldBe(1), p => p.Appearances[0].Bar.ShouldBe(9));
        One(Facts(map: map), [At(1, 1, 9, 0)], new HeardByHand(1, 7, 1, new(16_100), null)).Confirmed.ShouldBe(2);
        One(Facts(), [At(1, 1, 9, 12)], new HeardByHand(1, 7, 1, null, 9)).Confirmed.ShouldBe(1);
        One(Facts(), [At(1, 1, 9, 12)], new HeardByHand(1, 7, 1, null, 10)).Confirmed.ShouldBe(2);
    }

    [Fact]
    public void What_vanished_waits_and_what_has_no_bar_counts_only_where_all_is_searched()
    {
        One(Facts(), [At(1, 1, 5, 0, vanished: true), At(2, 1, 5, 4)])
            .ShouldSatisfyAllConditions(p => p.Events.ShouldBe(1), p => p.Waiting.ShouldBe(1));
        One(Facts(), [At(1, 1, null, 0)]).Events.ShouldBe(1);
        One(Facts(total: 100), [At(1, 1, null, 0)]).ShouldSatisfyAllConditions(p => p.Events.ShouldBe(0), p => p.Outside.ShouldBe(1), p =>
            p.Exposure.NotPlaced.ShouldBe(64));
    }

    [Fact]
    public void A_run_over_two_passages_that_adjoin_is_one_occasion() =>
        One(Facts(), [At(1, 1, 5, 0), At(2, 2, 6, 0), At(3, 3, 9, 0)])
            .ShouldSatisfyAllConditions(p => p.Events.ShouldBe(3), p => p.Occasions.ShouldBe(2));
}
