namespace InnerCadence.Core.Music;

/// <summary>One of a few words that a thing can be called; kept, typed and shown as it is.</summary>
public interface IWord<TSelf> where TSelf : struct, IWord<TSelf>
{
    /// <summary>In the order in which they are offered.</summary>
    static abstract IReadOnlyList<TSelf> All { get; }

    string Word { get; }
}

/// <summary>A word as it is typed or kept, and the thing that it names.</summary>
public static class OneOf<T> where T : struct, IWord<T>
{
    public static IReadOnlyList<string> Words { get; } = [.. T.All.Select(one => one.Word)];

    /// <summary>Nothing where the word is none of them.</summary>
    public static T? Find(string? word)
    {
        foreach (var one in T.All)
            if (one.Word == word) return one;
        return null;
    }
}
