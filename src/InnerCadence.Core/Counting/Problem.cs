namespace InnerCadence.Core.Counting;

public enum Severity { Error, Warning }

/// <summary>Where in a text: line and column from 1, column and length in UTF-16 units.</summary>
public readonly record struct TextSpan(int Line, int Column, int Length);

/// <summary>Something in a text that a person can put right: where, what to write instead, and the replacement where it is certain.</summary>
public sealed record Problem(Severity Severity, TextSpan At, string Message, string? Fix = null);

/// <summary>Problems as they are found; a reader goes on after each.</summary>
internal sealed class Problems
{
    private readonly List<Problem> found = [];

    public int Count => found.Count;

    public void Error(TextSpan at, string message, string? fix = null) => found.Add(new(Severity.Error, at, message, fix));

    public void Warning(TextSpan at, string message, string? fix = null) => found.Add(new(Severity.Warning, at, message, fix));

    public IReadOnlyList<Problem> InOrder => [.. found.OrderBy(p => p.At.Line).ThenBy(p => p.At.Column)];
}
