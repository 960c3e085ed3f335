using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>One word of a bar, understood by itself but not yet placed in a meter.</summary>
internal abstract record Token(TextSpan At);

internal sealed record PlaceToken(TextSpan At, Place Place, bool Doubled, Marks Marks) : Token(At)
{
    /// <summary>Its count without what stands after it.</summary>
    public TextSpan Counted { get; init; } = At;
}

/// <param name="Every">1 for each note of the unit, 3 for every third.</param>
internal sealed record RunToken(TextSpan At, int Every, Tick Unit, PlaceRange? Range, Marks Marks) : Token(At)
{
    /// <summary>Where its range ends in the text, before its marks.</summary>
    public TextSpan Ends { get; init; }
}

/// <param name="Beat">From 1.</param>
/// <param name="Chosen">Which of its strokes sound, from 1.</param>
internal sealed record TupletToken(TextSpan At, int Beat, int Size, int Beats, ValueList<int> Chosen, Marks Marks) : Token(At);

internal sealed record RemovalToken(TextSpan At, PlaceRange Range, bool WholeSpan) : Token(At);

internal enum BarKind { Written, Silent, Unheard, Repeat, RepeatToEnd }

/// <summary>One bar of a voice line as written.</summary>
/// <param name="Times">How many bars a repeat stands for.</param>
internal sealed record BarText(BarKind Kind, TextSpan At, ValueList<Token> Tokens, int Times = 1);
