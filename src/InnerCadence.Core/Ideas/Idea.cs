using System.Collections.Immutable;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>A named pattern as the matcher needs it: an exemplar, how long it is, which voices belong to it, what counts as the
/// same.</summary>
/// <param name="Span">From its first stroke; nothing if it ends with the beat of its last stroke.</param>
/// <param name="Scope">Voices that belong to it; nothing if they follow from the exemplar and the rules.</param>
public sealed record Idea(Passage Exemplar, Tick? Span, ImmutableHashSet<Voice>? Scope, Rules Rules);
