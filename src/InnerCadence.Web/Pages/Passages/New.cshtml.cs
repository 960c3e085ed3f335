using System.Globalization;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Interchange;
using InnerCadence.Web.Pages.Files;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>Pages on which a passage is written down.</summary>
public interface IPassageForm
{
    PassageInput Input { get; }
    CountText Read { get; }
    Shape Picture { get; }
    int FirstBar { get; }
    RecordingId RecordingId { get; }
    /// <summary>Tempo of the recording, where the text names none.</summary>
    double? Tempo { get; }
    /// <summary>What another tab saved meanwhile, if it did.</summary>
    string? KeptText { get; }
    /// <summary>Toms of the recording's kit, codes from high to low; empty where nobody said.</summary>
    string Kit { get; }
    /// <summary>The recording has a sound at hand.</summary>
    bool HasSound { get; }
    /// <summary>The record behind what is written; nothing where no sound is at hand that is read here.</summary>
    RecordView? Record { get; }
    string SoundAddress => $"/recordings/{RecordingId}/sound";
    /// <summary>What can be heard against this one: other readings, then other passages.</summary>
    IReadOnlyList<Comparison> Comparisons { get; }
    /// <summary>After a merge: at how many places both had changed a line.</summary>
    int? Merged { get; }
}

/// <summary>Something to hear against a passage.</summary>
/// <param name="Text">Its count lines; nothing where they are at <paramref name="Address"/>.</param>
public sealed record Comparison(string Name, string? Text, string Address);

public sealed class NewPassageModel(StudyStore studies, RecordingStore recordings, PassageStore passages, TimelineStore timelines,
    EarAtOnce atOnce, SessionStore sessions, SoundStore sounds, ArrivalStore arrivals, KnownSounds known)
    : StudyPage(studies), IPassageForm, IAsksSounds
{
    [BindProperty]
    public PassageInput Input { get; set; } = new();

    public Recording Recording { get; private set; } = null!;
    public CountText Read => CountLines.Parse(Input.Text ?? "");
    public Shape Picture => Strands.Draw(Read.Passage, new() { Pickable = true, Also = Read.Voices, Sound = Record is not null });
    public int FirstBar => 1;
    public RecordingId RecordingId => Recording.Id;
    public double? Tempo => Recording.Tempo;
    public string? KeptText => null;
    public int? Merged => null;
    public string Kit => Recording.Kit;
    public bool HasSound { get; private set; }
    public RecordView? Record { get; private set; }
    public IReadOnlyList<Comparison> Comparisons => [];

    /// <summary>A file that is looked over here before it is kept.</summary>
    public ArrivedFile? Arrived { get; private set; }
    /// <summary>What was read out of it, and what had to be decided.</summary>
    public ReadScore? Opened { get; private set; }
    /// <summary>Keep how early or late each stroke was played.</summary>
    [BindProperty(Name = "timing")]
    public bool KeepsTiming { get; set; }
    public IReadOnlyList<(string Called, int Times)> Unknown => Opened?.Unknown ?? [];

    public async Task<IActionResult> OnGetAsync(RecordingId recording, string? at, string? bar, string? kind, bool because,
        ArrivedFileId? file, int? hear, string? to, StampId? stamp, string? text, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (file is { } opened)
        {
            if (!await OpenAsync(opened, stop) || Opened is null) return NotFound();
            (Input.Text, Input.HeardFrom, Input.Note) = (Opened.Text, "colleague", $"From the file {Arrived!.Name}.");
            return Page();
        }
        (Input.Text, Input.StartsAt, Input.Bar, Input.BecauseHeard) = (text is { Length: > 0 and <= MostGiven } ? text : Head(Recording),
            at,
            bar, because);
        if (OneOf<PassageKind>.Words.Contains(kind)) Input.Kind = kind;
        if (stamp is { } made) Input.Note = await sessions.NoteAsync(made, recording, stop);
        if (ClockTime.Parse(at ?? "") is { } start && ClockTime.Parse(to ?? "") is { } end && end > start) hear ??= await TakeAsync(start,
            end, stop);
        if (hear is { } bars) await ProposeAsync(Math.Clamp(bars, 1, MostProposed), stop);
        Input.Before = null;
        return Page();
    }

    /// <summary>A proposal takes the place of the text; all other fields stay as they were typed, and the text can be put back.</summary>
    public async Task<IActionResult> OnPostProposeAsync(RecordingId recording, ArrivedFileId? file, int? hear, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (file is { } opened) await OpenAsync(opened, stop);
        await ProposeAsync(Math.Clamp(hear ?? 2, 1, MostProposed), stop);
        return ProposalProblem is null ? Page() : Again();
    }

    /// <summary>Puts back the text that another one took the place of; nothing is saved.</summary>
    public async Task<IActionResult> OnPostBackAsync(RecordingId recording, ArrivedFileId? file, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (file is { } opened) await OpenAsync(opened, stop);
        Input.PutBack(ModelState);
        return Page();
    }

    /// <summary>Fills in what is known of a span that was heard: its bar, section, meter and tempo.</summary>
    /// <returns>How many bars of it can be proposed from what is struck; nothing where nothing was heard in the sound.</returns>
    private async Task<int?> TakeAsync(ClockTime start, ClockTime end, CancellationToken stop)
    {
        var timeline = await timelines.OfAsync(Recording, stop);
        var tempo = timeline.Map is { } map ? Bpm.Of(Math.Round(map.TempoAt(map.PlaceOf(start).Bar), 1)) : Recording.Tempo is { } said
            ? Bpm.Of(said) : null;
        var line = tempo is { } pace ? timeline.Map?.BarLineNear(start, pace.SecondsPerQuarter / 2) : null;
        var bar = line?.Bar ?? timeline.Complete(start, null).Bar;
        Input.Bar ??= bar?.ToString(CultureInfo.InvariantCulture);
        if (bar is { } b) Input.Section = timeline.Form.SectionOf(b)?.Name ?? "";
        Input.Text = FormattableString.Invariant(
            $"meter {(bar is { } known ? timeline.Grid.MeterOf(known) : Recording.Meter)}\n{(tempo is { } goes ? $"tempo {goes.Value:0.###}\n" : "")}");
        if (!IsHeard || tempo is null) return null;
        var last = timeline.Map is { } marked ? marked.PlaceOf(end) : default(BarPlace?);
        var bars = last is { } place && bar is { } from ? place.Bar - from + (place.InBar > 0.5 ? 1 : 0)
            : (int)Math.Round((end.Milliseconds - start.Milliseconds) / 1000.0 / tempo.Value.SecondsOf(Recording.Meters.StartOf(1)));
        return Math.Clamp(bars, 1, MostProposed);
    }

    public const int MostProposed = 8;

    /// <summary>A text that comes with the address, such as a commonest bar, is no longer.</summary>
    private const int MostGiven = 4000;
    /// <summary>How many bars are proposed from the sound; nothing where none are asked for.</summary>
    public int? Proposed { get; private set; }
    private static string Apart(HeardStretch known)
    {
        var off = known.Typed!.Value.Milliseconds - known.Start.Milliseconds;
        return $"{Math.Abs(off)} ms {(off > 0 ? "after" : "before")}";
    }

    /// <summary>Where the first beat could be taken from two places, which one it was and why.</summary>
    public string? ProposalDoubt { get; private set; }

    /// <summary>What the proposal's tempo comes from, where nobody told it or these bars go at another.</summary>
    public string? ProposedTempo { get; private set; }

    /// <summary>Quarters a minute by which a tempo differs that is worth a word.</summary>
    private const double Told = 0.5;

    /// <summary>Why none can be proposed.</summary>
    public string? ProposalProblem { get; private set; }
    public int ProposedStrokes { get; private set; }
    /// <summary>What is struck in the recording's sound was looked for, or can be at once.</summary>
    public bool IsHeard { get; private set; }

    /// <summary>Count lines from what is struck in the sound, to be listened to and put right; nothing is saved.</summary>
    private async Task ProposeAsync(int bars, CancellationToken stop)
    {
        Proposed = bars;
        var timeline = await timelines.OfAsync(Recording, stop);
        var start = Typed.Span(Input.StartsAt, message => ModelState.AddModelError("Input.StartsAt", message))?.At;
        var bar = Chart.BarTyped(Input.Bar, timeline.Chart, message => ModelState.AddModelError("Input.Bar", message));
        var sound = await sounds.OfRecordingAsync(Recording.Id, stop);
        var whole = sound is null ? null : await sounds.HeardAsync(sound.Id, stop);
        var told = Recording.Tempo is { } said ? Bpm.Of(said) : null;
        var byEar = told is null && timeline.Map is null && whole is not null
            ? HeardStretch.ByEar(whole.Beats, whole.Tempos, Recording.Meters, start, bar) : null;
        var (stretch, noStart) = byEar is { } ears ? (ears.Stretch, false)
            : HeardStretch.Of(timeline.Map, timeline.Grid, told, Recording.Meters, start, bar, bars);
        var heard = stretch is null ? null : whole?.Strokes ?? await AtOnceAsync(sound, stretch, bars, stop);
        ProposalProblem = !ModelState.IsValid ? "Write the clock time as 1:32.4."
            : noStart ? "Say at which clock time the first beat falls."
            : stretch is null ? "The tempo is not known: give the recording one, or mark its bars."
            : heard is null ? "Nothing was heard in the sound yet: look for strokes on the Listen page first."
            : null;
        if (ProposalProblem is not null) return;
        var (known, pace) = (stretch!, new RecordPace(timeline.Map, [.. whole?.Beats ?? []]));
        (stretch, var why) = known.Settled(heard!, pace, timeline.Grid, Recording.Meters, bars);
        ProposalDoubt = why switch
        {
            BeginsAt.ClearerBarLine => $"The proposal begins at {stretch.Start}, where "
                + $"{(timeline.Map is null ? "the ear has a bar line" : "a bar begins")}: that fits what is struck better than "
                + $"{known.Typed ?? known.Start}.",
            BeginsAt.ClockTime => $"The clock time lies {Apart(known)} the bar line at {known.Start}; the proposal begins at the clock "
                + "time, which fits what is struck better.",
            BeginsAt.BarLine => $"The clock time {known.Typed} lies {Apart(known)} the bar line; the proposal begins at the bar line, "
                + "which fits what is struck better.",
            _ => null,
        };
        var proposal = Transcript.Propose(heard!, pace.Laid(stretch, heard!, bars));
        if (proposal.Tempo is { } goes) ProposedTempo = TempoOf(goes, stretch.Tempo, byEar);
        Input.Replace(ModelState, CountWriter.Write(proposal));
        foreach (var field in (string[])["Input.StartsAt", "Input.Bar", "Input.Confidence"]) ModelState.Remove(field);
        (Input.StartsAt, Input.Bar, Input.Confidence, ProposedStrokes) = (stretch.Start.ToString(), stretch.Bar is { } first ? $"{first}"
            : Input.Bar, "guess", proposal.Strokes.Count);
    }

    private static string? TempoOf(Bpm goes, Bpm known, (HeardStretch Stretch, bool AtBarLine)? byEar) => byEar is { } taken
        ? FormattableString.Invariant($"Nobody told the tempo or marked bars: by the ear it is {goes.Value:0.0} quarters a minute, and ")
            + (taken.AtBarLine ? $"a bar begins at {taken.Stretch.Start}." : $"no bar begins near {taken.Stretch.Start}.")
        : Math.Abs(goes.Value - known.Value) < Told ? null
        : FormattableString.Invariant($"On the record these bars go at {goes.Value:0.0}, not at {known.Value:0.0}.");

    /// <summary>What is struck in these bars, while the whole sound was not heard yet.</summary>
    private async Task<IReadOnlyList<HeardStroke>?> AtOnceAsync(SoundRow? sound, HeardStretch stretch, int bars, CancellationToken stop)
    {
        var (from, to) = stretch.Asked(bars);
        return ShippedEar.Find() is { } ear && sound?.Samples is { } hash && await atOnce.OfAsync(hash, from, to, stop) is { } heard
            ? HeardStrokes.In(heard, ear) : null;
    }

    // The stamp is that of a listening session which is written down here; what was listened to is gone back to at its place, loop and
    // speed.
    public async Task<IActionResult> OnPostAsync(RecordingId recording, StampId? stamp, ArrivedFileId? file, string? back, string? at,
        string? to, int? speed, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (file is { } opened) await OpenAsync(opened, stop);
        var timeline = await timelines.OfAsync(Recording, stop);
        if (Input.Read(ModelState, timeline.Chart) is not { } typed) return Again();
        var draft = timeline.Place(typed);
        Kept();
        var read = CountLines.Parse(draft.Text).Passage;
        var written = read.Strokes.Select(s => (s.At, s.Voice)).ToHashSet();
        var offsets = KeepsTiming ? Opened?.Offsets.Where(o => written.Contains((o.At, o.Voice))).ToList() : [.. Input.PlayedIn(read)];
        var id = await passages.AddAsync(recording, draft, stop, offsets);
        if (PassageInput.Beyond(draft, Recording) is { Length: > 0 } beyond) Tell(beyond.Trim());
        if (Arrived is { } used) await arrivals.ForgetAsync(used.ArrivalId, stop);
        if (stamp is { } made && await sessions.LocateAsync(made, id, stop) is { } session)
        {
            Tell($"Written down: {Said(draft)}.{PassageInput.Beyond(draft, Recording)}");
            return Redirect($"/sessions/{session}?wrote={made}#stamps");
        }
        if (back != "listen" || ClockTime.Parse(at ?? "") is not { } from) return Redirect($"/passages/{id}");
        Tell($"Written down: {Said(draft)}.{PassageInput.Beyond(draft, Recording)}");
        return Redirect(ListenLink.Of(recording, from, ClockTime.Parse(to ?? ""), speed));
    }

    private static string Said(PassageDraft draft) =>
        $"{draft.Kind}{(draft.Bar is { } bar ? $" at bar {bar}" : draft.StartsAt is { } at ? $" at {at}" : "")}";

    /// <summary>The meter and tempo that are known already.</summary>
    private static string Head(Recording recording) =>
        FormattableString.Invariant($"meter {recording.Meter}\n{(recording.Tempo is { } tempo ? $"tempo {tempo:0.###}\n" : "")}");

    /// <summary>Turns drum-tab text in the field into count lines; nothing is saved.</summary>
    public async Task<IActionResult> OnPostTabAsync(RecordingId recording, ArrivedFileId? file, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (file is { } opened) await OpenAsync(opened, stop);
        return Input.ReadTab(ModelState) ? Page() : Again();
    }

    /// <summary>Remembers which drums the unknown sounds of the file are, and reads it again; what was typed beside it stays, and its text
    /// can be put back.</summary>
    public async Task<IActionResult> OnPostSoundsAsync(RecordingId recording, ArrivedFileId? file, Dictionary<string, string> sound,
        CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        await known.SayAsync(SoundChoices.Read(sound), stop);
        if (file is not { } opened || !await OpenAsync(opened, stop) || Opened is null) return NotFound();
        Input.Replace(ModelState, Opened.Text);
        return Page();
    }

    private async Task<bool> OpenAsync(ArrivedFileId id, CancellationToken stop)
    {
        if (await arrivals.FileAsync(id, stop) is not { } found) return false;
        (Arrived, Opened) = (found, ScoreFiles.Read(found.Content, out _, await known.MapAsync(stop), stop));
        return true;
    }

    /// <summary>Starts from a text that another page made, such as a skeleton; nothing is saved yet.</summary>
    public async Task<IActionResult> OnPostTakeAsync(RecordingId recording, string? text, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        ModelState.Clear();
        Input = new() { Text = text ?? "", HeardFrom = "ear", Note = "A skeleton worked out from several bars." };
        return Page();
    }

    public async Task<IActionResult> OnPostTomsAsync(RecordingId recording, ArrivedFileId? file, string? toms, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        if (file is { } opened) await OpenAsync(opened, stop);
        return Input.ReadToms(ModelState, toms) ? Page() : Again();
    }

    private async Task<bool> FindAsync(RecordingId id, CancellationToken stop)
    {
        if (await recordings.FindAsync(id, stop) is not { } found) return false;
        ViewData["Recording"] = id;
        Recording = found;
        var sound = await sounds.OfRecordingAsync(id, stop);
        (HasSound, IsHeard) = (sound is not null,
            sound is { IsHeard: true } || (sound is { Samples: not null } && ShippedEar.Find() is not null));
        // What is typed says where it lies; the page asks as it changes.
        if (sound is { Samples: not null }) Record = new($"/recordings/{id}", [], null, null, null)
        {
            Film = sound.Film is not null
            ? $"/recordings/{id}/film" : null
        };
        return await EnterAsync(found.StudyId, stop);
    }
}
