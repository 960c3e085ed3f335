
namespace InnerCadence.Core.Music;

/// <summary>Meters that bars take in turn, starting over when the list ends. Bars count from 0.</summary>
public sealed class MeterCycle
{
    private readonly ValueList<Tick> starts;
    private readonly Tick length;

    /// <exception cref="ArgumentException">No meter at all.</exception>
    public MeterCycle(ValueList<Meter> meters)
    {
        if (meters.IsEmpty) throw new ArgumentException("A passage has at least one meter.");
        Meters = meters;
        var sums = new List<Tick>();
        foreach (var meter in meters)
        {
            sums.Add(length);
            length += meter.Length;
        }
        starts = sums.ToValueList();
    }

    public static MeterCycle CommonTime { get; } = new([Meter.CommonTime]);

    public ValueList<Meter> Meters { get; }

    public Meter MeterOf(int bar) => Meters[Modulo(bar, Meters.Count)];

    /// <summary>Start of a bar; also the length of all bars before it. Bars before the first have negative starts.</summary>
    public Tick StartOf(int bar) => length * FloorDivide(bar, Meters.Count) + starts[Modulo(bar, Meters.Count)];

    /// <summary>The bar in which a tick falls, and its place inside that bar.</summary>
    public (int Bar, Tick InBar) Locate(Tick at)
    {
        var rounds = FloorDivide(at.Value, length.Value);
        var rest = at - length * rounds;
        var index = Meters.Count - 1;
        while (starts[index] > rest) index--;
        return (rounds * Meters.Count + index, rest - starts[index]);
    }

    public override string ToString() => string.Join(' ', Meters);

    private static int FloorDivide(int a, int b) => (int)Math.Floor((double)a / b);
    private static int Modulo(int a, int b) => (a % b + b) % b;
}
