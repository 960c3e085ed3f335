using NAudio.Dsp;

namespace InnerCadence.Core.Hearing;

/// <summary>A sound at another rate, as its samples go by; strokes stay where they are.</summary>
internal sealed class Resampler
{
    private const int Piece = 8192;

    private readonly WdlResampler inner = new();
    private readonly Action<ReadOnlySpan<float>> take;
    private readonly int from, to;
    private long given, made;

    /// <param name="take">Is given the samples at the new rate, in order.</param>
    public Resampler(int from, int to, Action<ReadOnlySpan<float>> take)
    {
        (this.from, this.to, this.take) = (from, to, take);
        inner.SetMode(true, 0, true, 32, 32);
        inner.SetFilterParms();
        inner.SetFeedMode(true);
        inner.SetRates(from, to);
    }

    public void Add(ReadOnlySpan<float> mono)
    {
        given += mono.Length;
        Feed(mono, long.MaxValue);
    }

    /// <summary>Gives what the filter still holds: in all as many seconds as came in.</summary>
    public void End()
    {
        var due = (long)Math.Round((double)given * to / from);
        var silence = new float[Piece];
        while (made < due) Feed(silence, due);
    }

    private void Feed(ReadOnlySpan<float> mono, long until)
    {
        var output = new float[(int)((long)Piece * to / from) + 64];
        for (; !mono.IsEmpty; mono = mono[Math.Min(Piece, mono.Length)..])
        {
            var piece = mono[..Math.Min(Piece, mono.Length)];
            var asked = inner.ResamplePrepare(piece.Length, 1, out var input, out var offset);
            piece[..Math.Min(asked, piece.Length)].CopyTo(input.AsSpan(offset));
            var count = inner.ResampleOut(output, 0, Math.Min(asked, piece.Length), output.Length, 1);
            count = (int)Math.Min(count, until - made);
            take(output.AsSpan(0, count));
            made += count;
        }
    }
}
