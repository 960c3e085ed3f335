using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>How a passage is put together: groups, cross-rhythms, bar form, what stays and what varies.</summary>
public sealed class RhythmModel(StudyStore studies, PassageStore passages, Records records) : StudyPage(studies)
{
    public PassageRow Passage { get; private set; } = null!;
    public RecordView? Record { get; private set; }
    public Passage Read { get; private set; } = Core.Music.Passage.Empty;
    /// <summary>What of the passage is described; nothing for all of it.</summary>
    public string? Span { get; private set; }
    /// <summary>Bar of the passage with which that begins, from 0.</summary>
    private int FirstBar { get; set; }
    public Traits? Traits { get; private set; }
    public IReadOnlyList<Grouping> Groupings { get; private set; } = [];
    public IReadOnlyList<CrossRhythm> Crosses { get; private set; } = [];
    public Grouping? Chosen { get; private set; }
    public IReadOnlyList<FormedBar> Form { get; private set; } = [];
    /// <summary>One; or one for each bar of a pattern of several.</summary>
    public IReadOnlyList<SkeletonView> Skeletons { get; private set; } = [];
    public string? Cycle { get; private set; }
    public string? Unit { get; private set; }
    /// <summary>After how many bars the cycle that was asked for comes together.</summary>
    public string? Together { get; private set; }

    /// <summary>Whether other voices go in the same groups as the chosen one.</summary>
    public string? Comparison => Chosen is null || Groupings.Count < 2 ? null
        : Groupings.Where(g => g != Chosen && g.ToString() == Chosen.ToString() && g.Starts.SequenceEqual(Chosen.Starts))
            .Select(g => g.Markers).ToList() is { Count: > 0 } same
            ? $"{string.Join(", ", same)} {(same.Count == 1 ? "goes" : "go")} in the same groups, {Chosen}." : null;

    public Shape Picture => Strands.Draw(Read, new()
    {
        FirstBar = (Passage.Bar ?? 1) + FirstBar,
        Brackets = Chosen is null ? [] : [.. Chosen.Starts.Select((at, i) =>
            new Bracket(at, i + 1 < Chosen.Starts.Count ? Chosen.Starts[i + 1]
            : Chosen.Starts[0] + Read.Meters.StartOf(Chosen.Bars) is var end && end > Read.Length ? Read.Length : end,
            Chosen.Groups[i].ToString(System.Globalization.CultureInfo.InvariantCulture), false, null))],
    });

    public string Wait(Tick wait) => wait == Tick.Zero ? "none" : CountNames.Length(wait);

    public async Task<IActionResult> OnGetAsync(PassageId passage, string? by, string? cycle, string? unit, double? threshold,
        string? from, string? to, CancellationToken stop)
    {
        if (await passages.FindAsync(passage, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        Passage = found;
        Read = CountLines.Parse(found.Text).Passage with { Looped = found.Looped };
        if (from is not null && Excerpt.Place(Read, from) is { } start
            && (to is null or "end" ? Read.Length : Excerpt.Place(Read, to)) is { } end && end > start
            && (start > Tick.Zero || end < Read.Length))
        {
            // Cut to its bars, so that places are counted from the first of them.
            Span = $"{from} up to {to ?? "end"}";
            FirstBar = Read.Meters.Locate(start).Bar;
            Read = Excerpt.Cut(Read, start, end) with { Looped = false };
        }
        if (Read.Bars == 0) return Redirect($"/passages/{passage}");
        Record = await records.BesideAsync(found.RecordingId, Read, found.Bar + FirstBar, FirstBar == 0 ? found.StartsAt : null, stop);
        Traits = Traits.Of(Read);
        Groupings = Grouping.Of(Read);
        Crosses = CrossRhythm.Of(Read);
        Chosen = Groupings.FirstOrDefault(g => g.Markers == by) ?? Grouping.Plainest(Groupings);
        Form = BarForm.Of(Read, (found.Bar ?? 1) + FirstBar);
        Skeletons = SkeletonView.OfPattern(Read, threshold, $"/passages/{passage}/rhythm", i =>
            ($"/passages/{passage}", $"bar {(found.Bar ?? 1) + FirstBar + i}"), found.RecordingId);
        ReadCycle(cycle, unit);
        return Page();
    }

    private void ReadCycle(string? cycle, string? unit)
    {
        (Cycle, Unit) = (cycle, Realignment.Units.Any(u => u.Name == unit) ? unit : "eighths");
        if (string.IsNullOrWhiteSpace(cycle)) return;
        if (!int.TryParse(cycle, out var length) || length is < 1 or > 500) Together =
            $"‘{cycle}’ is no length: write a number from 1 to 500.";
        else if (Realignment.Of(Realignment.Units.Single(u => u.Name == Unit).Length * length, Read.Meters) is not { } found) Together =
            "They do not come together within 10,000 repetitions.";
        else
        {
            var shown = found.Starts.Take(16).Select(s =>
                $"{s.Bar}.{s.Beat}{(s.Rest == Tick.Zero ? "" : $" + {CountNames.Length(s.Rest)}")}");
            Together = $"After {Words.Bars((int)found.Bars)}, {found.Starts.Count} times round. It starts on "
                + $"{string.Join(", ", shown)}{(found.Starts.Count > 16 ? " …" : "")}.";
        }
    }
}
