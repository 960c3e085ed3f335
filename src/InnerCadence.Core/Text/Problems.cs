using InnerCadence.Core.Music;

namespace InnerCadence.Core.Text;

/// <summary>Problems as they are found; a reader goes on after each. One place is told one kind of problem once, and at most
/// <see cref="Most"/> are told.</summary>
internal sealed class Problems
{
    public const int Most = 200;

    private readonly List<Problem> found = [];
    private readonly HashSet<(TextSpan At, string Message)> told = [];
    private bool full;

    public int Count => found.Count;
    /// <summary>All that were found, told or not.</summary>
    public int Errors { get; private set; }

    public void Error(TextSpan at, string message) => Tell(new(Severity.Error, at, message));

    /// <param name="instead">What stands at the place when it is put right.</param>
    public void Error(TextSpan at, string message, string instead) =>
        Error(at, message, new Fix($"Write {instead}", new TextEdit(at, instead)));

    public void Error(TextSpan at, string message, params ValueList<Fix> fixes) => Tell(new(Severity.Error, at, message, fixes));

    /// <summary>Told of a line that is no count line, while nobody knows what else it says.</summary>
    internal Problem Unread(SourceLine line)
    {
        var problem = new Problem(Severity.Error, line.Whole,
            "This line is neither a voice line nor a directive: write a voice, a colon and its "
            + "bars, such as SN: 2 4, or say it in words, such as snare on 2 and 4.");
        Tell(problem);
        return problem;
    }

    public void Warning(TextSpan at, string message, params ValueList<Fix> fixes) => Tell(new(Severity.Warning, at, message, fixes));

    public ValueList<Problem> InOrder => [.. found.OrderBy(p => p.At.Line).ThenBy(p => p.At.Column)];

    private void Tell(Problem problem)
    {
        if (problem.Severity == Severity.Error) Errors++;
        if (full || !told.Add((problem.At, problem.Message))) return;
        full = found.Count == Most;
        found.Add(full ? new(Severity.Error, problem.At, "There are more problems; they are told when these are put right.") : problem);
    }
}
