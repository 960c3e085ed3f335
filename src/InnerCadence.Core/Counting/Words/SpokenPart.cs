using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting.Words;

/// <summary>Places of a bar as they are said, found in whatever meter the bar has.</summary>
internal delegate IEnumerable<Tick> SpokenPlaces(Meter meter);

/// <summary>One thing that a line in words says of some bars.</summary>
/// <param name="Bars">From 0; nothing for every bar the text has.</param>
internal abstract record SpokenPart(IReadOnlyList<int>? Bars);

/// <summary>Strokes at places, or marks on those that are there.</summary>
/// <param name="Marked">What the mark makes of a stroke; nothing where strokes are only put.</param>
internal sealed record Struck(IReadOnlyList<int>? Bars, Voice Voice, SpokenPlaces At, Func<Stroke, Stroke>? Marked) : SpokenPart(Bars);

/// <param name="Voice">Nothing for every voice.</param>
/// <param name="At">Nothing for every place.</param>
internal sealed record TakenOut(IReadOnlyList<int>? Bars, Voice? Voice, SpokenPlaces? At) : SpokenPart(Bars);

internal sealed record Exchanged(IReadOnlyList<int>? Bars, Voice Before, Voice Now) : SpokenPart(Bars);

/// <summary>Bars in which nothing is played, so that they are there at all.</summary>
internal sealed record Silent(IReadOnlyList<int>? Bars) : SpokenPart(Bars);

internal sealed record NotHeard(IReadOnlyList<int>? Bars, Voice Voice) : SpokenPart(Bars);

/// <summary>Bars that are as another, before what else is said of them.</summary>
internal sealed record SameAs(IReadOnlyList<int> Targets, int From) : SpokenPart(Targets);

/// <summary>Hands in a row from a place on, a stroke a note; K is the kick.</summary>
internal sealed record Sticked(IReadOnlyList<int>? Bars, Voice Voice, string Letters, Tick Note, SpokenPlaces From) : SpokenPart(Bars);
