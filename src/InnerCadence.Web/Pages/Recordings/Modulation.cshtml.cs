using System.Globalization;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>One step of a chain: an old note becomes a new one, and what that makes of tempo and bars.</summary>
public sealed record ModulationStep(Modulation How, Meter OldMeter, Meter NewMeter, double Before, double After)
{
    public (long Old, long New) Meet => How.BarLinesMeet(BarOf(OldMeter), BarOf(NewMeter));

    /// <summary>Seconds until the bar lines meet, or of eight old bars.</summary>
    public double Seconds => Math.Min(Meet.Old, 8) * BarOf(OldMeter).Wholes / How.OldBeat.Wholes * 60 / Before;

    public IReadOnlyList<double> OldPulse => Pulse(60 / Before);
    public IReadOnlyList<double> NewPulse => Pulse(60 / After);

    /// <summary>Both pulses on one line, bar lines taller.</summary>
    public Shape Picture
    {
        get
        {
            double X(double seconds) => 60 + seconds / Seconds * 900;
            var picture = new Shape("svg").With("class", "pulses").With("viewBox", "0 0 980 74").With("role", "img")
                .With("aria-label", $"Old pulse above, new pulse below the line; their bar lines meet after {Meet.Old} old and "
                + $"{Meet.New} new bars.");
            picture.Add(Shape.Line("strand", X(0), 37, X(Seconds), 37));
            picture.Add(Shape.Text("voice", 50, 28, "old"));
            picture.Add(Shape.Text("voice", 50, 58, "new"));
            Side(picture, OldPulse, BarOf(OldMeter).Wholes / How.OldBeat.Wholes * 60 / Before, -1, X);
            Side(picture, NewPulse, BarOf(NewMeter).Wholes / How.NewBeat.Wholes * 60 / After, 1, X);
            return picture;
        }
    }

    private void Side(Shape picture, IReadOnlyList<double> pulse, double bar, int way, Func<double, double> x)
    {
        foreach (var at in pulse) picture.Add(Shape.Line("pulse", x(at), 37, x(at), 37 + 14 * way));
        for (var i = 0; i * bar <= Seconds + 1e-6; i++) picture.Add(Shape.Line("bar-line", x(i * bar), 37, x(i * bar), 37 + 30 * way));
    }

    private List<double> Pulse(double gap) => [.. Enumerable.Range(0, Math.Min(400, (int)(Seconds / gap + 1e-6) + 1)).Select(i => i * gap)];

    private static NoteValue BarOf(Meter meter) => NoteValue.Of(meter.Counts, meter.Lower);
}

/// <summary>Metric modulation: a chain of notes that take over, heard and drawn.</summary>
public sealed class ModulationModel(StudyStore studies) : StudyPage(studies)
{
    public string Bpm { get; private set; } = "80";
    public string Steps { get; private set; } = "1/6 = 1/4";
    public IReadOnlyList<ModulationStep> Chain { get; private set; } = [];
    public string? Problem { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, string? bpm, string? steps, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        (Bpm, Steps) = (bpm?.Trim() ?? Bpm, steps?.Trim() ?? Steps);
        if (Bpm.Length > 20 || Steps.Length > 500) return BadRequest();
        Read();
        return Page();
    }

    private void Read()
    {
        if (!double.TryParse(Bpm, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var tempo) || tempo is < 5 or > 1000)
        {
            Problem = $"‘{Bpm}’ is no tempo: write beats a minute from 5 to 1000.";
            return;
        }
        var chain = new List<ModulationStep>();
        foreach (var step in Steps.Split([',', ';', '\n'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries).Take(12))
        {
            if (ReadStep(step, chain.Count > 0 ? chain[^1].NewMeter : Meter.CommonTime) is not { } read)
            {
                Problem = $"‘{step}’ is no step: write the old note, = and the new one as shares of a whole note, such as 1/6 = 1/4; "
                    + $"then, if need be, meters, such as 3/16 = 1/4 in 4/4 to 7/8.";
                break;
            }
            var after = read.How.Of(tempo);
            if (after is < 5 or > 1000)
            {
                Problem = $"After ‘{step}’ the tempo would be {after:0.#}: nobody counts that.";
                break;
            }
            chain.Add(new(read.How, read.Old, read.New, tempo, after));
            tempo = after;
        }
        Chain = chain;
    }

    private static (Modulation How, Meter Old, Meter New)? ReadStep(string text, Meter usual)
    {
        var parts = text.Split(" in ", 2, StringSplitOptions.TrimEntries);
        if (parts[0].Split('=', StringSplitOptions.TrimEntries) is not [var from, var to] || NoteValue.Parse(from) is not { } oldValue
            || NoteValue.Parse(to) is not { } newValue) return null;
        var (oldMeter, newMeter) = (usual, usual);
        if (parts.Length == 2)
        {
            var meters = parts[1].Split(" to ", StringSplitOptions.TrimEntries).Select(Meter.Parse).ToList();
            if (meters.Count > 2 || meters.Contains(null)) return null;
            (oldMeter, newMeter) = (meters[0]!, meters[^1]!);
        }
        return (new(oldValue, newValue, NoteValue.Quarter, NoteValue.Quarter), oldMeter, newMeter);
    }
}
