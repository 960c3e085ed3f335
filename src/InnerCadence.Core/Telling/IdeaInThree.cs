using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Telling;

/// <summary>What an idea's page says first, in three sentences: how often, and is it the player's own; where in the music; when, and on
/// which records.</summary>
/// <remarks>evidence.md, "Sentences". A part of the bar, the phrase, the form or the kinds of recordings is named where it has most of what
/// was found and more than its share of what was searched.</remarks>
public static class IdeaInThree
{
    private const double Most = 0.6, MoreThanItsShare = 1.5;

    /// <summary>A silence of fewer bars says nothing.</summary>
    private const int SomeBars = 50;

    /// <param name="all">Of the whole study.</param>
    /// <returns>One where nothing was found, else up to three.</returns>
    public static IReadOnlyList<string> Of(IReadOnlyCollection<Performance> all, long player)
    {
        var own = all.Where(p => p.Player == player).ToList();
        return [.. new[] { IdeaSentence.Of(all, player), Where(own), When(own) }.OfType<string>()];
    }

    private static string? Where(List<Performance> own)
    {
        if (own.Sum(p => p.Events) < 3) return null;
        (Division By, string Before)[] divisions = [(Division.Beat, "on beat "), (Division.Phrase, "in bar "),
            (Division.Section, "in the ")];
        // That all of it is on one beat the first sentence says.
        var one = Mostly(Division.Beat, own) is { } beat && beat.Part.Events == beat.Of;
        var mostly = divisions.Where(d => !one || d.By != Division.Beat).Select(d => Mostly(d.By, own) is { } part
            ? $"{d.Before}{part.Part.Name} ({part.Part.Events} of {part.Of})" : null).OfType<string>().ToList();
        var tempo = TitleTempo.Range(TitleTempo.Of(own)) is { } range ? range.Low == range.High
            ? string.Create(CultureInfo.InvariantCulture, $"at {range.Low:0} BPM")
            : string.Create(CultureInfo.InvariantCulture, $"at {range.Low:0} to {range.High:0} BPM") : null;
        var places = mostly.Count > 0 ? $"mostly {string.Join(", ", mostly)}"
            : one ? null : "no beat, bar of the phrase or section has more of it than its share";
        var said = string.Join("; ", new[] { places, tempo }.OfType<string>());
        return said.Length == 0 ? null : $"{said.Capital()}.";
    }

    private static string? When(List<Performance> own)
    {
        var first = FirstOnRecord.Of(own);
        if (first.First is not { } one) return null;
        var last = own.Where(p => p.Appearances.Count > 0 && p.Recorded is not null).MaxBy(p => p.Recorded!.Value.Latest);
        var parts = new List<string>
        {
            $"first in {one.Name}, {one.Recorded}{(first.Remark.Length > 0 ? $" ({first.Remark})" : "")}",
        };
        if (last is not null && last != one) parts.Add($"last in {last.Name}, {last.Recorded}");
        if (OnlyKind(own) is { } only) parts.Add(only);
        return string.Join("; ", parts).Capital() + ".";
    }

    /// <summary>only live: 5 in 400 bars, none in 620 of other kinds</summary>
    private static string? OnlyKind(List<Performance> own)
    {
        var kinds = Division.Kind.Parts(own);
        var (with, without) = (kinds.Where(k => k.Events > 0).ToList(), kinds.Where(k => k.Events == 0).Sum(k => k.Bars));
        return with is [var only] && only.Events >= 2 && without >= SomeBars ? string.Create(CultureInfo.InvariantCulture,
            $"only {only.Name}: {only.Events} in {only.Bars:#,0} bars, none in {without:#,0} of other kinds") : null;
    }

    private static (SplitPart Part, int Of)? Mostly(Division by, List<Performance> own)
    {
        var parts = by.Parts(own).Where(p => !p.Keys.Contains(Division.Unknown)).ToList();
        var (events, bars) = (parts.Sum(p => p.Events), parts.Sum(p => p.Bars));
        if (events < 3 || parts.Count < 2) return null;
        var most = parts.MaxBy(p => p.Events)!;
        return most.Events >= Most * events && most.Events * (double)bars >= MoreThanItsShare * most.Bars * events ? (most, events) : null;
    }
}
