using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hands;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Practice;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>The best sticking of one school, and where it differs from the first.</summary>
public sealed record SchoolOption(School School, StickingOption Option, Shape Picture, IReadOnlyList<FoundRudiment> Rudiments);

/// <summary>How the same figure is stuck somewhere else in the study.</summary>
public sealed record StuckElsewhere(string Letters, IReadOnlyList<(PassageId Id, string Words)> Places);

/// <summary>Ways to stick a passage, whether it can be played, and how it is stuck elsewhere.</summary>
public sealed class HandsModel(StudyStore studies, PassageStore passages, WrittenPassages written, PracticeStore practice, Records records)
    : StudyPage(studies)
{
    private const int MostPlaces = 60;

    public PassageRow Passage { get; private set; } = null!;
    public RecordView? Record { get; private set; }
    public Passage Read { get; private set; } = Core.Music.Passage.Empty;
    public StickingSettings Settings { get; private set; } = StickingSettings.Usual;
    public string Tie { get; private set; } = "";
    public string? TieProblem { get; private set; }
    public StickingOptions Options { get; private set; } = new([], []);
    public IReadOnlyList<SchoolOption> Schools { get; private set; } = [];
    public StickingOption? Phantom { get; private set; }
    public Playability Playability { get; private set; } = null!;
    /// <summary>The rudiments in each of the options.</summary>
    public IReadOnlyDictionary<StickingOption, IReadOnlyList<FoundRudiment>> Named { get; private set; } = new Dictionary<StickingOption,
        IReadOnlyList<FoundRudiment>>();
    public IReadOnlyList<StuckElsewhere> Elsewhere { get; private set; } = [];
    public IReadOnlyList<FoundRudiment> Rudiments { get; private set; } = [];
    public string? Problem { get; private set; }

    public async Task<IActionResult> OnGetAsync(PassageId passage, string? school, string? tempo, string? hands, string? tie,
        CancellationToken stop) =>
        await FindAsync(passage, school, tempo, hands, tie, stop) ? Read.Bars == 0 ? Redirect($"/passages/{passage}") : Page() : NotFound();

    /// <summary>Keeps a sticking as another reading, with what is said for it.</summary>
    public async Task<IActionResult> OnPostAsync(PassageId passage, string? letters, string? source, string? argument,
        CancellationToken stop)
    {
        if (!await FindAsync(passage, null, null, null, null, stop)) return NotFound();
        var why = ModelState.Text("argument", argument, "Say why this one: seen on film, sounds heavier, the same cell elsewhere.",
            Typed.Note);
        var hand = Read.Strokes.Count(s => s.Voice.Limbs == LimbClass.Hand);
        if (!ModelState.IsValid || letters is null || letters.Length != hand || letters.Any(c => c is not ('R' or 'L')))
        {
            Problem = ModelState["argument"]?.Errors.FirstOrDefault()?.ErrorMessage
                ?? "This passage was changed meanwhile: choose the sticking again.";
            return Again();
        }
        var chosen = new StickingOption([.. letters.Select(c => c == 'R' ? Side.Right : Side.Left)], letters, 0, []).In(Read);
        await passages.AddReadingAsync(passage, CountWriter.Write(chosen), Read.Bars, PassageDraft.Sources.Contains(source) ? source!
            : "ear", "likely", why, stop);
        Tell("The sticking is kept as another reading; prefer it where it should count.");
        return Redirect($"/passages/{passage}");
    }

    /// <summary>Every hand stroke's letter, for the form that keeps it.</summary>
    public static string Letters(StickingOption option) => string.Concat(option.Hands.Select(h => h == Side.Right ? 'R' : 'L'));

    public Shape Draw(StickingOption option) => Strands.Draw(option.In(Read),
        new() { FirstBar = Passage.Bar ?? 1, Differing = Schools.Count == 0 ? new HashSet<(Tick, Voice)>() : Differing(option) });

    private HashSet<(Tick At, Voice Voice)> Differing(StickingOption option)
    {
        var strokes = Read.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand).ToList();
        var first = Options.Options[0];
        return [.. strokes.Where((_, i) => option.Hands[i] != first.Hands[i]).Select(s => (s.At, s.Voice))];
    }

    private async Task<bool> FindAsync(PassageId id, string? school, string? tempo, string? hands, string? tie, CancellationToken stop)
    {
        if (await passages.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        Passage = found;
        Record = await records.BesideAsync(found, stop);
        Read = CountLines.Parse(found.Text).Passage with { Looped = found.Looped };
        var own = Read.Hands ?? (Enum.TryParse<Handedness>(Study.Players.First(p => p.Name == found.Player).Handedness, true, out var h)
            ? h : Handedness.Right);
        if (Enum.TryParse<Handedness>(hands, true, out var asked) && Enum.IsDefined(asked)) own = asked;
        var ties = new Dictionary<Voice, Side>();
        Tie = tie?.Trim() ?? "";
        foreach (var part in Tie.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries))
        {
            if (part.Split(':') is [var code, var side] && Voice.Find(code) is { Limbs: LimbClass.Hand } voice
                && side.ToUpperInvariant() is "R" or "L") ties[voice] = side.Equals("R", StringComparison.OrdinalIgnoreCase) ? Side.Right
                : Side.Left;
            else TieProblem = $"‘{part}’ ties no drum to a hand: write RD:R or CB:L.";
        }
        Settings = StickingSettings.Usual with
        {
            Handedness = own,
            Tempo = Bpm.Parse(tempo ?? "") ?? Read.Tempo ?? (found.RecordingTempo is { } t ? Bpm.Of(t) : null) ?? Bpm.Usual,
            School = School.Find(school) ?? School.All[0],
            Limits = await practice.LimitsAsync(stop),
            Layout = await practice.LayoutAsync(stop),
            Tied = ties,
        };
        Options = Sticking.Of(Read, Settings);
        Named = Options.Options.ToDictionary(o => o, o => RudimentFinder.In(o.In(Read)));
        Playability = Playability.Of(Read, Settings);
        Phantom = Sticking.Phantom(Read, Settings);
        if (Options.Options.Count > 0)
        {
            var bests = School.All.Select(s => (School: s, Best: Sticking.Of(Read, Settings with { School = s }, 1).Options[0])).ToList();
            Schools = [.. bests.Select(b => new SchoolOption(b.School, b.Best,
                Strands.Draw(b.Best.In(Read), new() { Width = 600, Gap = 24, FirstBar = found.Bar ?? 1, Differing = Differing(b.Best) }),
                RudimentFinder.In(b.Best.In(Read))))];
        }
        Rudiments = RudimentFinder.In(Read);
        Elsewhere = await ElsewhereAsync(stop);
        return true;
    }

    /// <summary>The same figure of the hands in other passages, and the hands that are written there.</summary>
    private async Task<IReadOnlyList<StuckElsewhere>> ElsewhereAsync(CancellationToken stop)
    {
        var figure = new SameFigure(Read);
        var found = new List<(string Letters, PassageId Id, string Words)>();
        foreach (var other in (await written.OfStudyAsync(Study.Id, stop)).Where(p => p.PassageId != Passage.Id))
            foreach (var strokes in figure.In(other.Passage).Where(there => there.Any(s => s.Side is not null)))
            {
                stop.ThrowIfCancellationRequested();
                var bar = other.Passage.Meters.Locate(strokes[0].At).Bar;
                found.Add((string.Concat(strokes.Select(s => s.Side switch { Side.Right => 'R', Side.Left => 'L', _ => '-' })),
                    other.PassageId, $"{other.RecordingName}, bar {(other.Bar ?? 1) + bar}"));
                if (found.Count >= MostPlaces) break;
            }
        return [.. found.GroupBy(f => f.Letters).OrderByDescending(g => g.Count())
            .Select(g => new StuckElsewhere(g.Key, [.. g.Select(f => (f.Id, f.Words)).Distinct()]))];
    }
}
