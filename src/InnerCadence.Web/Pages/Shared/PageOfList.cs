namespace InnerCadence.Web.Pages.Shared;

/// <summary>One page of a list. Its neighbours are said by the row they follow or precede, so that what comes or goes meanwhile moves
/// nothing out of sight.</summary>
/// <param name="From">Index of its first row in the list.</param>
/// <param name="Total">How many rows the list has.</param>
public sealed record PageOfList<T>(IReadOnlyList<T> Rows, int From, int Total, int Size, string? Before, string? After)
{
    public bool IsWhole => Total <= Size;
    /// <summary>From 1; a page that begins between two counts as the later.</summary>
    public int Number => (From + Size - 1) / Size + 1;
    /// <summary>81 to 120</summary>
    public string Span => $"{Words.Count(From + 1)} to {Words.Count(From + Rows.Count)}";

    /// <param name="all">In order.</param>
    /// <param name="key">Of a row, as it stands in an address.</param>
    /// <param name="after">The row before the page.</param>
    /// <param name="before">The row after the page.</param>
    /// <param name="number">From 1; for who has neither, or where the row is gone.</param>
    public static PageOfList<T> Of(IReadOnlyList<T> all, Func<T, string> key, int size, string? after, string? before, int number)
    {
        var from = IndexOf(after) is { } previous ? previous + 1 : IndexOf(before) is { } next ? Math.Max(0, next - size)
            : (Math.Clamp(number, 1, Math.Max(1, (all.Count + size - 1) / size)) - 1) * size;
        if (from >= all.Count) from = Math.Max(0, (all.Count - 1) / size * size);
        IReadOnlyList<T> rows = [.. all.Skip(from).Take(size)];
        return new(rows, from, all.Count, size, from > 0 ? key(all[from]) : null, from + rows.Count < all.Count ? key(rows[^1]) : null);

        int? IndexOf(string? wanted)
        {
            for (var i = 0; wanted is not null && i < all.Count; i++)
                if (key(all[i]) == wanted) return i;
            return null;
        }
    }
}
