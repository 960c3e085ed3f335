namespace InnerCadence.Core.Text;

/// <summary>Two changes of one text put together, line by line.</summary>
/// <param name="Clashes">Places that both changed, each in its own way: mine stands, the other's follows as comments.</param>
public sealed record TextMerge(string Text, int Clashes)
{
    /// <summary>Put before each line of the other text where both changed the same place.</summary>
    public const string Aside = "# other tab: ";

    /// <summary>Takes the changes of both texts against the one they began from.</summary>
    /// <remarks>A three-way merge over the longest common runs of lines. What only one changed is taken from that one; what both changed
    /// alike is taken once.</remarks>
    public static TextMerge Of(string began, string mine, string other)
    {
        var (from, left, right) = (Lines(began), Lines(mine), Lines(other));
        var (inLeft, inRight) = (Common(from, left), Common(from, right));
        var merged = new List<string>();
        var clashes = 0;
        var (f, l, r) = (0, 0, 0);
        while (f < from.Length || l < left.Length || r < right.Length)
        {
            // The next line that neither took out; before it both stretches are each one's own.
            var next = f;
            while (next < from.Length && (inLeft[next] < 0 || inRight[next] < 0)) next++;
            var (toLeft, toRight) = next < from.Length ? (inLeft[next], inRight[next]) : (left.Length, right.Length);
            clashes += Stretch(from[f..next], left[l..toLeft], right[r..toRight], merged);
            if (next < from.Length) merged.Add(from[next]);
            (f, l, r) = (next + 1, toLeft + 1, toRight + 1);
        }
        return new(string.Join('\n', merged), clashes);
    }

    private static int Stretch(string[] before, string[] mine, string[] other, List<string> merged)
    {
        // Lines that stand against each other one by one, as voices do, are settled one by one.
        if (before.Length > 1 && mine.Length == before.Length && other.Length == before.Length)
            return Enumerable.Range(0, before.Length).Sum(i => Stretch(before[i..(i + 1)], mine[i..(i + 1)], other[i..(i + 1)], merged));
        if (mine.SequenceEqual(before))
        {
            merged.AddRange(other);
            return 0;
        }
        merged.AddRange(mine);
        if (other.SequenceEqual(before) || other.SequenceEqual(mine)) return 0;
        merged.AddRange(other.Select(line => Aside + line));
        return 1;
    }

    /// <summary>For each line of the first text the line of the second that it became, or -1: a longest common run of lines.</summary>
    private static int[] Common(string[] a, string[] b)
    {
        var longest = new int[a.Length + 1, b.Length + 1];
        for (var i = a.Length - 1; i >= 0; i--)
        {
            for (var k = b.Length - 1; k >= 0; k--) longest[i, k] = a[i] == b[k] ? longest[i + 1, k + 1] + 1
                : Math.Max(longest[i + 1, k], longest[i, k + 1]);
        }
        var found = new int[a.Length];
        Array.Fill(found, -1);
        for (var (i, k) = (0, 0); i < a.Length && k < b.Length;)
        {
            if (a[i] == b[k]) found[i++] = k++;
            else if (longest[i + 1, k] >= longest[i, k + 1]) i++;
            else k++;
        }
        return found;
    }

    // Beyond so many lines no merge is tried line by line: the rest is one stretch.
    private const int MostLines = 1000;

    private static string[] Lines(string text) => text.Replace("\r\n", "\n").Split('\n', MostLines);
}
