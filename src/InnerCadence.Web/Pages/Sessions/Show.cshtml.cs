using System.Globalization;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Recordings;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Sessions;

/// <summary>What a listening page sends while it runs.</summary>
public sealed record KeepInput(IReadOnlyList<StampDraft>? Stamps, IReadOnlyList<HeardDraft>? Heard, int AtMs);

/// <summary>One stamp as it waits to be located: its clock time without the hand’s lateness, its bar and section.</summary>
public sealed record StampView(StampRow Row, ClockTime At, int? Bar, string Section)
{
    public string What => Row.Kind switch { "idea" => Row.Idea ?? "an idea", "bar" => $"bar {Row.Bar}", _ => Row.Kind };
}

/// <summary>A listening session: while it runs what passes and what is noticed is kept; afterwards its stamps wait in order.</summary>
public sealed class SessionModel(StudyStore studies, RecordingStore recordings, TimelineStore timelines, SessionStore sessions,
    SoundStore sounds, HeardStore heardSightings) : RecordingPage(studies, recordings, timelines)
{
    private const int Day = 86_400_000;

    public SessionRow Session { get; private set; } = null!;
    public IReadOnlyList<(int Key, IdeaId Id, string Nickname)> Ideas { get; private set; } = [];
    public IReadOnlyList<StampView> Stamps { get; private set; } = [];
    /// <summary>The sound from afar, along which the session goes; nothing without a sound.</summary>
    public Recordings.StripView? Strip { get; private set; }
    public string BarsAsJson => Recordings.StripView.BarLines(Recording, Timeline);
    public string SectionsAsJson => Recordings.StripView.Sections(Timeline);
    /// <summary>The stamp that is written down next, after one that was; nothing where none was or none is left.</summary>
    public StampView? Next { get; private set; }
    public IReadOnlyList<(ClockTime From, ClockTime To)> Heard { get; private set; } = [];
    public SoundRow? Sound { get; private set; }
    public IReadOnlySet<StampId> KeptHeard { get; private set; } = new HashSet<StampId>();
    /// <summary>A stamp typed by hand that could not be kept yet.</summary>
    public (string? Clock, string? Kind, string? Note) Typed { get; private set; }

    public async Task<IActionResult> OnGetAsync(SessionId session, StampId? wrote, CancellationToken stop) =>
        await FindAsync(session, stop, wrote) ? Page()
        : NotFound();

    public async Task<IActionResult> OnGetStripAsync(SessionId session, double? from, double? to, CancellationToken stop) =>
        await FindAsync(session, stop) && await StripAsync(from, to, stop) is { } strip
            ? Content(strip.Picture.AsJson().ToJsonString(), "application/json") : NotFound();

    private async Task<Recordings.StripView?> StripAsync(double? from, double? to, CancellationToken stop) => Sound is { } sound
        ? new(Recording, Timeline, [], [], [], sound.HasOverview ? await sounds.OverviewAsync(sound.Id, stop) : null, from, to) : null;

    /// <summary>Keeps stamps and spans sent by the script; what is sent twice is kept once.</summary>
    public async Task<IActionResult> OnPostKeepAsync(SessionId session, [FromBody] KeepInput input, CancellationToken stop)
    {
        if (!await FindAsync(session, stop)) return NotFound();
        var (stamps, heard) = (input.Stamps ?? [], input.Heard ?? []);
        if (stamps.Count > 5000 || heard.Count > 5000 || !stamps.All(IsGood)
            || heard.Any(h => h.FromMs < 0 || h.ToMs < h.FromMs || h.ToMs > Day) || input.AtMs is < 0 or > Day) return BadRequest();
        return await sessions.KeepAsync(session, [.. stamps], [.. heard], input.AtMs, stop) ? new OkResult()
            : StatusCode(StatusCodes.Status409Conflict);
    }

    /// <summary>A stamp typed by hand, for a page without scripts.</summary>
    public async Task<IActionResult> OnPostTypeAsync(SessionId session, string? clock, string? kind, string? note, CancellationToken stop)
    {
        if (!await FindAsync(session, stop)) return NotFound();
        Typed = (clock, kind, note);
        var at = ModelState.Clock("clock", clock);
        if (string.IsNullOrWhiteSpace(clock)) ModelState.AddModelError("clock", "When was it? Write minutes and seconds, such as 1:32.4.");
        var words = ModelState.Text("note", note, most: 2000);
        var idea = Ideas.FirstOrDefault(i => kind == $"idea {i.Key}");
        if (!ModelState.IsValid) return Again();
        await sessions.KeepAsync(session, [new(Guid.NewGuid(), idea.Nickname is not null ? "idea" : kind == "fill" ? "fill" : "note",
            idea.Nickname is not null ? idea.Id : null, at!.Value.Milliseconds + Session.ReactionMs, null, words, false)], [],
            at.Value.Milliseconds, stop);
        return Redirect($"/sessions/{session}");
    }

    public async Task<IActionResult> OnPostEndAsync(SessionId session, CancellationToken stop)
    {
        if (!await FindAsync(session, stop)) return NotFound();
        await sessions.EndAsync(Session, Recording, stop);
        Tell($"The session is over: {Heard.Count} {(Heard.Count == 1 ? "stretch" : "stretches")} written down as listened to, "
            + $"{Stamps.Count(s => s.Row.Kind != "bar")} stamps wait.");
        return Redirect($"/sessions/{session}");
    }

    /// <summary>A stamp of an idea counts as a sighting that was heard.</summary>
    public async Task<IActionResult> OnPostHeardAsync(SessionId session, StampId stamp, CancellationToken stop)
    {
        if (!await FindAsync(session, stop)) return NotFound();
        if (Stamps.All(s => s.Row.Id != stamp) || !await heardSightings.AddAsync(stamp, stop)) return BadRequest();
        Tell("It counts as heard. When it is written down, what is found there stands for it.");
        return Redirect($"/sessions/{session}#stamps");
    }

    private bool IsGood(StampDraft s) =>
        StampDraft.Kinds.Contains(s.Kind) && s.AtMs is >= 0 and <= Day && s.Bar is null or (>= 1 and <= UploadLimits.Bars)
            && (s.Note?.Length ?? 0) <= 2000 && !Core.Text.Typed.HasUnkeepable(s.Note ?? "")
        && (s.Kind == "idea" ? Ideas.Any(i => i.Id == s.IdeaId) : s.IdeaId is null);

    private async Task<bool> FindAsync(SessionId id, CancellationToken stop, StampId? wrote = null)
    {
        if (await sessions.FindAsync(id, stop) is not { } found || !await FindRecordingAsync(found.RecordingId, stop)) return false;
        Session = found;
        Ideas = await sessions.IdeasAsync(id, stop);
        Heard = await sessions.HeardAsync(id, stop);
        KeptHeard = await heardSightings.OfSessionAsync(id, stop);
        Sound = await sounds.OfRecordingAsync(found.RecordingId, stop);
        Strip = await StripAsync(null, null, stop);
        Stamps = [.. (await sessions.StampsAsync(id, stop)).Select(View)];
        if (wrote is { } made)
        {
            var open = Stamps.Where(s => s.Row.PassageId is null && s.Row.Kind != "bar").ToList();
            Next = open.FirstOrDefault(s => s.Row.AtMs >= Stamps.FirstOrDefault(w => w.Row.Id == made)?.Row.AtMs) ?? open.FirstOrDefault();
        }
        return true;
    }

    private StampView View(StampRow row)
    {
        var at = new ClockTime(Math.Max(0, row.AtMs - Session.ReactionMs));
        var bar = row.Bar ?? Timeline.Complete(at, null).Bar;
        return new(row, at, bar, bar is { } b ? Timeline.Form.SectionOf(b)?.Name ?? "" : "");
    }

    /// <summary>The address at which a stamp is written down, with what is known of its place.</summary>
    public string WriteDown(StampView stamp)
    {
        var start = stamp.Bar is { } bar ? Timeline.Map?.ClockOf(bar) ?? stamp.At : stamp.At;
        return string.Create(CultureInfo.InvariantCulture,
            $"/recordings/{Recording.Id}/passages/new?stamp={stamp.Row.Id}&at={start}&bar={stamp.Bar}&kind="
                + $"{(stamp.Row.Kind == "fill" ? "fill" : "groove")}&because={(stamp.Row.Kind == "idea" ? "true" : "false")}");
    }
}
