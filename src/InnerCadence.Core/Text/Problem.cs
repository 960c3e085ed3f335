using InnerCadence.Core.Music;

namespace InnerCadence.Core.Text;

public enum Severity { Error, Warning }

/// <summary>Where in a text: line and column from 1, column and length in UTF-16 units.</summary>
public readonly record struct TextSpan(int Line, int Column, int Length);

/// <summary>A piece of a text and what stands there instead; a length of 0 puts in.</summary>
public readonly record struct TextEdit(TextSpan At, string Text);

/// <summary>One way to put a problem right.</summary>
/// <param name="Says">What it comes to, in a few words.</param>
public sealed record Fix(string Says, params ValueList<TextEdit> Edits);

/// <summary>Something in a text that a person can put right: where, and what to write instead.</summary>
/// <param name="Fixes">One where it can mean one thing only, several where the writer chooses; none where too little is said.</param>
public sealed record Problem(Severity Severity, TextSpan At, string Message, params ValueList<Fix> Fixes);
