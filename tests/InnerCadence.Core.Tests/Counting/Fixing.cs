using InnerCadence.Core.Counting.Words;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>What a text comes to when what the program offers is put in.</summary>
internal static class Fixing
{
    /// <summary>The only fix of every error is put in, from the top, one that overlaps waits; again until nothing changes.</summary>
    /// <param name="warned">Lines and columns of warnings whose only fix is put in too.</param>
    public static string Fixed(string text, IReadOnlyCollection<(int Line, int Column)>? warned = null)
    {
        for (var i = 0; i < 5; i++)
        {
            var (taken, edits) = (new List<(int From, int To)>(), new List<TextEdit>());
            foreach (var problem in AsTyped.Parse(text).Problems.Where(p => p.Severity == Severity.Error
                || (warned ?? []).Any(w => w.Line == p.At.Line && Math.Abs(w.Column - p.At.Column) <= 2)))
            {
                if (problem.Fixes is not [var only]) continue;
                var spans = only.Edits.Select(e => (From: Offset(text, e.At), To: Offset(text, e.At) + e.At.Length)).ToList();
                if (spans.Any(s => taken.Any(t => (s.From < t.To && t.From < s.To) || s.From == t.From))) continue;
                taken.AddRange(spans);
                edits.AddRange(only.Edits);
            }
            if (edits.Count == 0) return text;
            text = Put(text, edits);
        }
        return text;
    }

    public static string Put(string text, IEnumerable<TextEdit> edits)
    {
        foreach (var edit in edits.OrderByDescending(e => Offset(text, e.At)).ToList())
            text = text[..Offset(text, edit.At)] + edit.Text + text[(Offset(text, edit.At) + edit.At.Length)..];
        return text;
    }

    private static int Offset(string text, TextSpan at) => text.Split('\n').Take(at.Line - 1).Sum(l => l.Length + 1) + at.Column - 1;
}
