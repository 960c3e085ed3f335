namespace InnerCadence.Core.Evidence;

/// <summary>What of an idea's numbers would change if one more of its places were confirmed.</summary>
public static class IfItCounts
{
    /// <summary>How often it would be, and since when, beside how it is; nothing where it is confirmed already.</summary>
    /// <param name="player">Whose numbers.</param>
    /// <param name="one">The place, as it is judged now.</param>
    public static IReadOnlyList<string> Of(Account account, NamedIdea idea, long player, FoundSighting one)
    {
        if (one is { Judged: Judged.Confirmed, Vanished: false }) return [];
        var (now, then) = (OfPlayer(account), OfPlayer(account.With(one with { Judged = Judged.Confirmed, Vanished = false })));
        return [.. new[] { Counted(Answer.Of(now), Answer.Of(then)),
            First(FirstOnRecord.Of(now), FirstOnRecord.Of(then)) }.OfType<string>()];

        List<Performance> OfPlayer(Account of) => [.. of.Of(idea).Where(p => p.Player == player)];
    }

    private static string Counted(Answer now, Answer then) => then.Found != now.Found
        ? $"in {then.Found} of {then.Searched} recordings instead of {now.Found}"
        : then.Events != now.Events ? $"{then.Events} times in {then.Bars:#,0} bars instead of {now.Events}"
        : then.Outside != now.Outside ? "outside what was searched, so in no rate" : "no number changes: this place is counted already";

    private static string? First(FirstOnRecord now, FirstOnRecord then) => (Year(now), Year(then)) switch
    {
        (_, null) => null,
        (null, { } year) => $"first in {year}",
        ({ } was, { } year) => was == year ? $"first in {year} as now" : $"first in {year} instead of {was}",
    };

    private static int? Year(FirstOnRecord first) => first.First?.Recorded?.Earliest.Year;
}
