using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>A line that is no count line: in words, or a grid of a voice.</summary>
/// <param name="GridOf">The voice of a grid; nothing for words.</param>
/// <param name="Told">What is told of it while nobody knows better.</param>
internal sealed record UnreadLine(SourceLine Line, Voice? GridOf, Problem Told)
{
    /// <summary>Where the grid begins in the line.</summary>
    public int Start { get; init; }
}
