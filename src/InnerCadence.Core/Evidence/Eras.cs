namespace InnerCadence.Core.Evidence;

/// <summary>A player's years cut in two, so that about as much lies on either side.</summary>
public static class Eras
{
    /// <summary>The first year of the later half; nothing where everything is of one year.</summary>
    /// <param name="years">One for each thing that is dated.</param>
    public static int? Since(IEnumerable<int> years)
    {
        var sorted = years.Order().ToList();
        if (sorted.Count == 0 || sorted[0] == sorted[^1]) return null;
        var middle = sorted[sorted.Count / 2];
        return middle == sorted[0] ? sorted.First(y => y > middle) : middle;
    }
}
