namespace InnerCadence.Core.Hearing;

/// <summary>A sound seen from afar: the loudest of every fiftieth of a second, gathered as its samples go by.</summary>
public sealed class Overview(int rate)
{
    public const int AColumn = 50;

    private readonly List<byte> peaks = [];
    private float peak;
    private long seen;

    /// <summary>Takes the next samples, -1 to 1.</summary>
    public void Add(ReadOnlySpan<float> mono)
    {
        foreach (var sample in mono)
        {
            var loud = Math.Abs(sample);
            if (loud > peak) peak = loud;
            if (++seen * AColumn / rate > peaks.Count) Close();
        }
    }

    /// <summary>0 to 255, one a fiftieth of a second.</summary>
    public byte[] Columns()
    {
        if (seen > 0 && peaks.Count * (long)rate < seen * AColumn) Close();
        return [.. peaks];
    }

    private void Close()
    {
        peaks.Add((byte)Math.Round(Math.Min(1, peak) * 255));
        peak = 0;
    }
}
