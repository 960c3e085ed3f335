namespace InnerCadence.Core.Text;

/// <summary>What a piece of a text is, for the eye.</summary>
public enum Look { Comment, Directive, Voice, Bar, Ghost, Mark, Run }

/// <summary>Gathers how the parts of a text look while it is read.</summary>
internal sealed class Looks
{
    private readonly List<(TextSpan At, Look Look)> all = [];

    public void Add(Look look, TextSpan at)
    {
        if (at.Length > 0) all.Add((at, look));
    }

    /// <summary>In the order of the text, without overlaps: where two meet the one that begins first stands.</summary>
    public IReadOnlyList<(TextSpan At, Look Look)> InOrder()
    {
        var kept = new List<(TextSpan At, Look Look)>(all.Count);
        foreach (var next in all.OrderBy(l => l.At.Line).ThenBy(l => l.At.Column).ThenByDescending(l => l.At.Length))
            if (kept is not [.., var last] || next.At.Line > last.At.Line || next.At.Column >= last.At.Column
                + last.At.Length) kept.Add(next);
        return kept;
    }
}
