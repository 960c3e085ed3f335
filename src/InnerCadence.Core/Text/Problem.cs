namespace InnerCadence.Core.Text;

public enum Severity { Error, Warning }

/// <summary>Where in a text: line and column from 1, column and length in UTF-16 units.</summary>
public readonly record struct TextSpan(int Line, int Column, int Length);

/// <summary>Something in a text that a person can put right: where, what to write instead, and the replacement where it is certain.</summary>
public sealed record Problem(Severity Severity, TextSpan At, string Message, string? Fix = null);

/// <summary>Problems as they are found; a reader goes on after each. One place is told one kind of problem once, and at most <see cref="Most"/> are told.</summary>
internal sealed class Problems
{
    public const int Most = 200;

    private readonly List<Problem> found = [];
    private readonly HashSet<(TextSpan At, string Message)> told = [];
    private bool full;

    public int Count => found.Count;
    /// <summary>All that were found, told or not.</summary>
    public int Errors { get; private set; }

    public void Error(TextSpan at, string message, string? fix = null) => Tell(new(Severity.Error, at, message, fix));

    public void Warning(TextSpan at, string message, string? fix = null) => Tell(new(Severity.Warning, at, message, fix));

    public IReadOnlyList<Problem> InOrder => [.. found.OrderBy(p => p.At.Line).ThenBy(p => p.At.Column)];

    private void Tell(Problem problem)
    {
        if (problem.Severity == Severity.Error) Errors++;
        if (full || !told.Add((problem.At, problem.Message))) return;
        full = found.Count == Most;
        found.Add(full ? new(Severity.Error, problem.At, "There are more problems; they are told when these are put right.") : problem);
    }
}
