using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Compare;

/// <summary>Voice by place, one side beside another, with what stands out in words.</summary>
public sealed class FingerprintModel(StudyStore studies, StudyMaterial material) : StudyPage(studies)
{
    public static IReadOnlyList<(string Word, string Says)> Aspects { get; } = [("any", "all"), ("ghost", "ghosts"), ("accent", "accents"),
        ("open", "open hats"), ("left", "left hand")];

    public IReadOnlyList<ComparedSide> Sides { get; private set; } = [];
    public ComparedSide One { get; private set; } = null!;
    public ComparedSide Two { get; private set; } = null!;
    public IReadOnlyList<(string Meter, int Bars)> Meters { get; private set; } = [];
    public string Meter { get; private set; } = "4/4";
    public int Parts { get; private set; } = 4;
    public string Aspect { get; private set; } = "any";
    public Fingerprint? Print { get; private set; }
    public FingerprintCell? Chosen { get; private set; }
    public IReadOnlyList<(string Address, string Words, bool Theirs)> Places { get; private set; } = [];
    public IReadOnlyList<HabitRow> Habits { get; private set; } = [];
    public int BeatTicks => Print!.Meter.Beat.Value;
    public IEnumerable<int> PartsToChoose => Print is null ? [4] : new[] { 1, 2, 3, 4, 6 }.Where(n => BeatTicks % n == 0);

    public async Task<IActionResult> OnGetAsync(StudyId study, string? a, string? b, string? meter, int parts, string? aspect,
        string? voice, int? at, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var all = await material.PassagesAsync(study, stop);
        Sides = ComparedSide.Of(Study, [.. all.Select(p => Attributes.Of(p.Row))]);
        (One, Two) = (ComparedSide.Find(Sides, a, "subject"), ComparedSide.Find(Sides, b, "others"));
        Meters = [.. all.SelectMany(p => p.Bars).GroupBy(bar => bar.Meter).OrderByDescending(g => g.Count())
            .Select(g => (g.Key.ToString(), g.Count()))];
        if (Meters.Count == 0) return Page();
        Meter = Meters.Any(m => m.Meter == meter) ? meter! : Meters[0].Meter;
        Aspect = Aspects.Any(x => x.Word == aspect) ? aspect! : "any";
        var of = Core.Music.Meter.Parse(Meter)!;
        Parts = parts is 1 or 2 or 3 or 4 or 6 && of.Beat.Value % parts == 0 ? parts : of.Lower >= 8 ? 2 : 4;
        var kind = Aspect switch
        {
            "ghost" => StrokeAspect.Ghost,
            "accent" => StrokeAspect.Accent,
            "open" => StrokeAspect.Open,
            "left" =>
            StrokeAspect.LeftHand,
            _ => StrokeAspect.Any
        };
        var sides = $"{One.Word} beside {Two.Word}";
        Print = await material.ChosenAsync(study, (sides, of, Parts, kind), from =>
            Fingerprint.Of(Bars(from, One), Bars(from, Two), of, Parts, kind), print => print.Cells.Count, stop);
        Habits = await material.ChosenAsync(study, sides, from => HabitTable.Of(Passages(from, One), Passages(from, Two)), rows =>
            rows.Count, stop);
        Chosen = at is null ? null : Print.Cells.FirstOrDefault(c => c.Voice.Code == voice && c.At.Value == at);
        if (Chosen is { } cell)
            Places = [.. all.SelectMany(p => p.Bars.Select(bar => (Bar: bar, Of: p)))
                .Where(x => (One.Takes(x.Of.Row) || Two.Takes(x.Of.Row)) && x.Bar.Meter.Equals(of) && !x.Bar.Unheard.Contains(cell.Voice)
                && x.Bar.Strokes.Any(s => s.Voice == cell.Voice && s.At == cell.At && Fingerprint.Has(s, kind)))
                .Select(x => ($"/passages/{x.Of.Row.PassageId}",
                    $"{x.Of.Row.RecordedFrom?.Year} {x.Of.Row.RecordingName}, bar {(x.Of.Row.Bar ?? 1) + x.Bar.Index}",
                    !One.Takes(x.Of.Row))).OrderBy(x => x.Item3)];
        return Page();
    }

    private static IEnumerable<TitledBar> Bars(IReadOnlyList<CountedPassage> all, ComparedSide side) =>
        all.Where(p => side.Takes(p.Row)).SelectMany(p => p.Bars.Select(bar => new TitledBar(bar, p.Title)));

    private static IReadOnlyList<TitledPassage> Passages(IReadOnlyList<CountedPassage> all, ComparedSide side) =>
        [.. all.Where(p => p is { Whole: true, Traits: not null } && side.Takes(p.Row))
            .Select(p => new TitledPassage(p.Row.Passage, p.Traits!, p.Title))];

    public string Address(FingerprintCell cell) =>
        $"/studies/{Study.Id}/fingerprint?a={Uri.EscapeDataString(One.Word)}&b={Uri.EscapeDataString(Two.Word)}&meter="
            + $"{Uri.EscapeDataString(Meter)}&parts={Parts}&aspect={Aspect}&voice={cell.Voice.Code}&at={cell.At}";

    public string CountOf(Tick at) => CountNames.Split(at, Print!.Meter) is var (beat, past) && past == Tick.Zero
        ? beat.ToString(CultureInfo.InvariantCulture) : CountNames.Syllable(past, Print.Meter) ?? "";
}
