using InnerCadence.Core.Music;

namespace InnerCadence.Core.Playing;

/// <summary>Makes the sounds of the kit: drums as struck membranes, cymbals as plates, nothing sampled.</summary>
/// <remarks>A softer stroke is not only quieter but darker and shorter; an accent is brighter. Levels are between -1 and 1.</remarks>
public static class Synth
{
    public const int Rate = Modes.Rate;

    /// <summary>Mono samples of one stroke at <see cref="Rate"/> a second; the same key always gives the same.</summary>
    public static float[] Render(SoundKey key)
    {
        var random = new Random(HashOf(key));
        var force = key.Dynamic switch { Dynamic.Ghost => 0.22, Dynamic.Accent => 1.0, _ => 0.62 } * (0.97 + 0.06 * random.NextDouble());
        var bright = key.Dynamic switch { Dynamic.Ghost => 0.45, Dynamic.Accent => 1.25, _ => 1.0 };
        var tune = 1 + (random.NextDouble() - 0.5) * 0.008;
        var signal = new float[(int)(LengthOf(key) * Rate)];
        var modes = new Modes(signal, random);
        Strike(key, modes, bright, tune);
        Shape(signal, force);
        return signal;
    }

    private static void Strike(SoundKey key, Modes m, double bright, double tune)
    {
        switch (key.Voice.Code)
        {
            case "BD": Kick(m, bright, tune); break;
            case "SN": Snare(m, bright, tune, key.Touch == Touch.Rimshot); break;
            case "XS": CrossStick(m, bright, tune); break;
            case "T1": Tom(m, 196, 0.75, bright, tune); break;
            case "T2": Tom(m, 163, 0.85, bright, tune); break;
            case "T3": Tom(m, 138, 0.95, bright, tune); break;
            case "T4": Tom(m, 120, 1.05, bright, tune); break;
            case "TT": Tom(m, 150, 0.85, bright, tune); break;
            case "FT": Tom(m, 92, 1.3, bright, tune); break;
            case "F2": Tom(m, 76, 1.45, bright, tune); break;
            case "HH" or "HF": Hat(m, key.Touch, bright); break;
            case "RD": Ride(m, bright); break;
            case "RB": RideBell(m, bright, tune); break;
            case "CR": Cymbal(m, 0, 3, bright, 0.03); break;
            case "C2": Cymbal(m, 1, 2.6, bright, 0.025); break;
            case "CY": Cymbal(m, 2, 2.4, bright, 0.03); break;
            case "CH": China(m, bright); break;
            case "SP": Cymbal(m, 3, 0.8, bright, 0.008); break;
            case "CB": Cowbell(m, bright, tune); break;
            case "EN": Band(m); break;
            default: Own(key.Voice.Family, m, bright, tune); break;
        }
    }

    private static double LengthOf(SoundKey key) => key.Voice.Family switch
    {
        Family.Kick => 0.5,
        Family.Snare => 0.45,
        Family.Tom => 1.6,
        Family.Hat => key.Touch switch { Touch.Open => 1.1, Touch.Splash => 0.8, Touch.Loose => 0.5, _ => 0.4 },
        Family.Ride => 2.4,
        Family.Bell => 2.2,
        Family.Crash => key.Voice.Code == "SP" ? 0.9 : 2.4,
        _ => 0.7,
    };

    private static void Kick(Modes m, double bright, double tune)
    {
        m.Mode(128 * tune, 52 * tune, 0.022, 0.34, 0.95);
        m.Mode(240 * tune, 96 * tune, 0.012, 0.11, 0.28);
        m.Mode(58 * tune, 57 * tune, 1, 0.28, 0.25, 0.006);
        m.Noise(700, 2600 * bright, 0.016, 0.55);
        m.Noise(2500, 6000, 0.006, 0.25 * bright);
    }

    private static void Snare(Modes m, double bright, double tune, bool rim)
    {
        m.Mode(214 * tune, 186 * tune, 0.012, 0.15, 0.42);
        m.Mode(352 * tune, 322 * tune, 0.010, 0.09, 0.26);
        m.Mode(548 * tune, 520 * tune, 0.010, 0.05, 0.12 * bright);
        // The wires answer a moment after the head.
        m.Noise(900, 5200 * bright, 0.26, 0.55, 0.002, 0.0015);
        m.Noise(4200, 11000 * bright, 0.18, 0.62 * bright, 0.001, 0.002);
        m.Noise(1500, 9000, 0.006, 0.5 * bright);
        if (!rim) return;
        m.Mode(486 * tune, 480 * tune, 1, 0.16, 0.34);
        m.Mode(1260 * tune, 1255 * tune, 1, 0.07, 0.26);
        m.Mode(2350 * tune, 2350 * tune, 1, 0.035, 0.18);
    }

    private static void CrossStick(Modes m, double bright, double tune)
    {
        m.Mode(742 * tune, 736 * tune, 1, 0.055, 0.6);
        m.Mode(1580 * tune, 1576 * tune, 1, 0.04, 0.5 * bright);
        m.Mode(2910 * tune, 2910 * tune, 1, 0.022, 0.34 * bright);
        m.Noise(1200, 6500, 0.008, 0.5);
        m.Mode(196 * tune, 190 * tune, 0.02, 0.07, 0.07);
    }

    private static void Tom(Modes m, double pitch, double decay, double bright, double tune)
    {
        var f = pitch * tune;
        m.Mode(f * 1.32, f, 0.03, decay, 0.8);
        m.Mode(f * 1.95, f * 1.59, 0.025, decay * 0.55, 0.32 * bright);
        m.Mode(f * 2.4, f * 2.14, 0.02, decay * 0.35, 0.2 * bright);
        m.Mode(f * 2.75, f * 2.65, 0.02, decay * 0.22, 0.12 * bright);
        m.Noise(600, 4200 * bright, 0.014, 0.42);
        m.Noise(180, 900, 0.06, 0.16);
    }

    /// <summary>Two plates that meet: of a closed hat some hundred hertz of chick under the hiss.</summary>
    private static void Hat(Modes m, Touch touch, double bright)
    {
        m.Plate(touch switch
        {
            Touch.Open => new([-40, -34, -22, -14, -21, -22, -13, -9, -12], 0.9, 1.8, -8, 0.003),
            Touch.Loose => new([-38, -30, -21, -13, -20, -20, -13, -9, -13], 0.45, 0.8, -10, 0.002),
            Touch.Splash => new([-34, -26, -18, -12, -21, -22, -15, -13, -19], 0.7, 1.4, -10, 0.012),
            Touch.Foot => new([-36, -30, -22, -11, -17, -15, -10, -8, -13], 0.16, 0.4, -20, 0.001),
            _ => new([-30, -25, -20, -11, -19, -17, -9, -4, -7], 0.22, 0.5, -20, 0.0005),
        }, Hats, Lean(bright), 1);
        if (touch is not Touch.Foot and not Touch.Splash) m.Noise(2500, 9000 * bright, 0.006, 0.5 * bright);
    }

    /// <summary>Seeds of the cymbals.</summary>
    private const int Hats = 11, Bow = 12, Tip = 112, Crashes = 13;

    private static double Lean(double bright) => 8 * Math.Log2(bright);

    /// <summary>The tip of the stick, short and broad, over a wash that goes on.</summary>
    private static void Ride(Modes m, double bright)
    {
        m.Plate(new([-42, -42, -26, -18, -26, -22, -13, -11, -24], 0.8, 4, -5, 0.01), Bow, Lean(bright), 0.6);
        m.Plate(new([-28, -27, -23, -14, -23, -21, -14, -11, -14], 0.11, 0.22, -15, 0, 80), Tip, Lean(bright), 0.7);
    }

    private static void RideBell(Modes m, double bright, double tune)
    {
        double[] partials = [880, 1290, 1710, 2480, 3380, 4610, 6010];
        for (var i = 0; i < partials.Length; i++) m.Mode(partials[i] * tune, partials[i] * tune, 1, 2.2 - i * 0.2,
            0.6 / (1 + i * 0.3) * (i > 2 ? bright : 1));
        m.Plate(new([-40, -38, -28, -19, -24, -22, -15, -19, -29], 0.8, 2.5, -5), Bow, Lean(bright), 0.1);
        m.Plate(new([-28, -27, -23, -14, -23, -21, -14, -11, -14], 0.05, 0.1, -15, 0, 60), Tip, Lean(bright), 0.25);
    }

    /// <param name="size">Seconds in which it has died away.</param>
    private static void Cymbal(Modes m, int cymbal, double size, double bright, double bloom)
    {
        var (wash, edge) = (Crashes + cymbal, Crashes + cymbal + 100);
        m.Plate(new([-42, -40, -28, -19, -22, -21, -13, -16, -29], size * 0.5, size * 1.2, -5, bloom, 360), wash, Lean(bright), 1);
        m.Plate(new([-36, -36, -26, -16, -20, -22, -20, -22, -30], 0.08, 0.25, -14, 0, 80), edge, Lean(bright), 0.3);
    }

    private static void China(Modes m, double bright)
    {
        m.Cloud(130, 240, 9500, 1.05, 1.9, 0.005, 0.75);
        m.Noise(900, 5200, 0.4, 0.7 * bright, 0.004);
        m.Mode(412, 408, 1, 0.5, 0.1);
    }

    private static void Cowbell(Modes m, double bright, double tune)
    {
        m.Mode(566 * tune, 562 * tune, 1, 0.26, 0.5);
        m.Mode(848 * tune, 845 * tune, 1, 0.22, 0.45);
        m.Mode(1512 * tune, 1510 * tune, 1, 0.12, 0.22 * bright);
        m.Mode(2618 * tune, 2616 * tune, 1, 0.08, 0.16 * bright);
        m.Noise(1500, 7000, 0.006, 0.4);
    }

    private static void Band(Modes m)
    {
        foreach (var root in (double[])[146.8, 220, 261.6, 329.6])
            for (var n = 1; n <= 6; n++) m.Mode(root * n, root * n, 1, 0.45 / Math.Sqrt(n), 0.16 / n);
    }

    private static void Own(Family family, Modes m, double bright, double tune)
    {
        switch (family)
        {
            case Family.Kick: Kick(m, bright, tune * 1.15); break;
            case Family.Snare: Snare(m, bright, tune * 1.2, false); break;
            case Family.Hat: Hat(m, Touch.Plain, bright); break;
            case Family.Ride: Ride(m, bright); break;
            case Family.Bell: Cowbell(m, bright, tune * 1.3); break;
            case Family.Crash: Cymbal(m, 4, 3, bright, 0.03); break;
            case Family.Tom: Tom(m, 240, 0.35, bright, tune); break;
            default: Band(m); break;
        }
    }

    /// <summary>Soft saturation glues the parts together; the tail is faded so that no sound ends in a click.</summary>
    private static void Shape(float[] signal, double force)
    {
        var peak = signal.Max(Math.Abs);
        var fade = Math.Min(signal.Length, Rate / 50);
        for (var i = 0; i < signal.Length; i++)
        {
            var tail = signal.Length - i < fade ? (signal.Length - i) / (double)fade : 1;
            signal[i] = (float)(Math.Tanh(1.4 * signal[i] / peak) / Math.Tanh(1.4) * force * 0.9 * tail);
        }
    }

    private static int HashOf(SoundKey key)
    {
        var hash = 17;
        foreach (var c in key.ToString()) hash = unchecked(hash * 31 + c);
        return hash;
    }
}
