using System.Collections;
using System.Diagnostics.CodeAnalysis;
using System.Runtime.CompilerServices;

namespace InnerCadence.Core.Music;

/// <summary>A list that is its elements: two are equal where their elements are, in order, so that a record which holds one is a value
/// too. It cannot be changed.</summary>
[CollectionBuilder(typeof(ValueList), nameof(ValueList.Of))]
public sealed class ValueList<T> : IReadOnlyList<T>, IEquatable<ValueList<T>>
{
    public static readonly ValueList<T> Empty = new([]);
    private readonly T[] elements;

    internal ValueList(T[] owned) => elements = owned;

    public int Count => elements.Length;
    public T this[int index] => elements[index];
    public bool IsEmpty => elements.Length == 0;
    public ReadOnlySpan<T> Span => elements;

    public ValueList<T> Slice(int start, int length) => new(elements[start..(start + length)]);

    public bool Equals(ValueList<T>? other) =>
        ReferenceEquals(this, other) || (other is not null && elements.AsSpan().SequenceEqual(other.elements, EqualityComparer<T>.Default));

    public override bool Equals(object? obj) => Equals(obj as ValueList<T>);

    public override int GetHashCode()
    {
        var hash = new HashCode();
        foreach (var element in elements) hash.Add(element);
        return hash.ToHashCode();
    }

    IEnumerator<T> IEnumerable<T>.GetEnumerator() => ((IEnumerable<T>)elements).GetEnumerator();
    IEnumerator IEnumerable.GetEnumerator() => elements.GetEnumerator();
    public Enumerator GetEnumerator() => new(elements);

    [return: NotNullIfNotNull(nameof(elements))]
    public static implicit operator ValueList<T>?(T[]? elements) => elements is null ? null : new([.. elements]);

    [return: NotNullIfNotNull(nameof(elements))]
    public static implicit operator ValueList<T>?(List<T>? elements) => elements is null ? null : new([.. elements]);

    public struct Enumerator(T[] elements)
    {
        private int at = -1;
        public readonly T Current => elements[at];
        public bool MoveNext() => ++at < elements.Length;
    }
}

public static class ValueList
{
    public static ValueList<T> Of<T>(ReadOnlySpan<T> elements) => elements.IsEmpty ? ValueList<T>.Empty : new(elements.ToArray());

    public static ValueList<T> ToValueList<T>(this IEnumerable<T> elements) => [.. elements];
}
