using CsCheck;
using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using static InnerCadence.Core.Tests.Claims.Made;

namespace InnerCadence.Core.Tests.Claims;

public class WhatToHearNext
{
    private static Listenable Side(long id, int year, string kind, bool searched, int bars = 64, long player = Nell,
        double? tempo = 100) => new(id, $"Side {id}", player, OneOf<RecordingKind>.Find(kind)!.Value, "", year, tempo, bars, searched
            ? bars : 0);

    private static readonly Listenable[] Shelf =
    [
        Side(1, 1963, "studio", true), Side(2, 1964, "studio", true), Side(3, 1965, "studio", false), Side(4, 1966, "live", false, 128),
            Side(5, 1967, "live", false, 40), Side(6, 1971, "studio", false), Side(7, 1972, "studio", true),
    ];

    [Fact]
    public void Strata_are_eras_of_five_years_and_kinds_and_by_choice_tempo_bands()
    {
        Stratum.Of(Shelf).Select(s => $"{s.Name}: {s.Searched} of {s.Known.Count}")
            .ShouldBe(["1963–67, live: 0 of 2", "1963–67, studio: 2 of 3", "1968–72, studio: 1 of 2"]);
        Stratum.Of(Shelf, byTempo: true)[0].Name.ShouldBe("1963–67, live, 100 to 119");
        Stratum.Of([Side(1, 1963, "live", false) with { Year = null }]).Single().Name.ShouldBe("no date, live");
    }

    [Fact]
    public void Without_an_open_claim_the_shortest_of_the_least_searched_stratum_comes_next()
    {
        var next = NextToHear.Of(Stratum.Of(Shelf), [])!;
        next.Recording.Id.ShouldBe(5);
        next.Reason.ShouldBe("Of 1963–67, live none of 2 are searched.");
    }

    [Fact]
    public void An_open_claim_decides_where_it_can_be_narrowed()
    {
        OpenClaim Claim(ClaimTest test, params Core.Evidence.Performance[] evidence) =>
            new(1, test.Sentence(With().Names), test, Of(test, evidence));
        var studio = Claim(new PresentIn(Nell, Idea, 0.5, RecordingKind.Studio), Recording(1, 1), Recording(2, 0), Recording(7, 1));
        NextToHear.Of(Stratum.Of(Shelf), [studio])!.ShouldSatisfyAllConditions(n =>
            n.Recording.Id.ShouldBe(6, "half of its stratum is searched, two thirds of the other"), n => n.For.ShouldBe(studio));
        var early = Claim(new NeverBefore(Nell, Idea, PartialDate.Parse("1966")!.Value), Recording(7, 2, recorded: "1972"));
        NextToHear.Of(Stratum.Of(Shelf), [studio, early])!.Recording.Id.ShouldBe(3,
            "a silence that nobody heard is wider than any interval");
    }

    /// <summary>Grown together the two would stay open: only the other's recordings can settle it, and only earlier ones a
    /// never-before.</summary>
    [Fact]
    public void Only_what_could_settle_a_claim_is_heard_for_it()
    {
        OpenClaim Claim(ClaimTest test, params Core.Evidence.Performance[] evidence) =>
            new(1, test.Sentence(With().Names), test, Of(test, evidence));
        var more = Claim(new MoreThan(Nell, Idea, Oda),
            [.. Enumerable.Range(1, 16).Select(i => Recording(i, 2)), .. Enumerable.Range(21, 4)
            .Select(i => Recording(i, i % 4 == 0 ? 1 : 0, bars: 20, player: Oda))]);
        var shelf = new[] { Side(1, 1965, "live", false, 300), Side(2, 1965, "live", false, 40, Oda) };
        NextToHear.Of([.. shelf.GroupBy(r => r.Player).SelectMany(g => Stratum.Of([.. g]))], [more])!.Recording.Id.ShouldBe(2);
        var early = Claim(new NeverBefore(Nell, Idea, PartialDate.Parse("1966-06")!.Value), Recording(7, 2, recorded: "1972"));
        Listenable[] dated = [Side(3, 1966, "live", false) with { Latest = new(1966, 3, 1) },
            Side(4, 1966, "studio", false) with { Latest = new(1966, 9, 1) },
            Side(5, 2015, "live", false) with { Latest = new(2015, 1, 1) }];
        NextToHear.Of(Stratum.Of(dated), [early])!.ShouldSatisfyAllConditions(n => n.For.ShouldBe(early), n => n.Recording.Id.ShouldBe(3));
        NextToHear.Of(Stratum.Of(dated[1..]), [early])!.For.ShouldBeNull();
    }

    [Fact]
    public void Where_all_is_searched_there_is_nothing_to_suggest() => NextToHear.Of(Stratum.Of([Side(1, 1963, "live", true)]), [])
        .ShouldBeNull();

    [Fact]
    public void A_pick_is_the_same_for_the_same_seed_and_always_unsearched() => Gen.Int[0, 10_000].Sample(seed =>
    {
        foreach (var stratum in Stratum.Of(Shelf))
        {
            var pick = stratum.Pick(seed)!;
            pick.IsSearched.ShouldBeFalse();
            stratum.Pick(seed).ShouldBe(pick);
        }
    });
}
