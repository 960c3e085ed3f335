using System.Globalization;
using System.Text.Json;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>The sound of a recording at hand, and its listening sessions.</summary>
[RequestSizeLimit(SoundFiles.MostBytes), RequestFormLimits(MultipartBodyLengthLimit = SoundFiles.MostBytes)]
public sealed class ListenModel(
    StudyStore studies, RecordingStore recordings, TimelineStore timelines, PassageStore passages, CoverageStore coverages,
        IdeaStore ideas, JobStore jobs, SoundStore sounds, SoundFiles store, SessionStore sessions, MediaTool tool,
        LookingStore looking)
    : RecordingPage(studies, recordings, timelines)
{
    public SoundRow? Sound { get; private set; }
    public StripView Strip { get; private set; } = null!;
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];
    /// <summary>What stands on the keys unless somebody says otherwise: what the last session had there, else the first nine.</summary>
    public IReadOnlySet<IdeaId> Proposed { get; private set; } = new HashSet<IdeaId>();
    public IReadOnlyList<SessionRow> Sessions { get; private set; } = [];
    public string? Problem { get; private set; }
    /// <summary>What a session that could not begin was to be; nothing before one is tried.</summary>
    public (string[] Sought, bool Everything, string? By, int Reaction)? Asked { get; private set; }

    /// <summary>Where listening begins, and where it goes back there; nothing where the address names no clock time.</summary>
    public ClockTime? LoopFrom { get; private set; }
    public ClockTime? LoopTo { get; private set; }
    /// <summary>In percent of the recorded one.</summary>
    public int? Speed { get; private set; }

    /// <param name="from">A clock time for the start of a loop; a plain number of seconds for the stretch that the strip shows. So too
    /// to.</param>
    public async Task<IActionResult> OnGetAsync(RecordingId recording, string? from, string? to, int? speed, CancellationToken stop)
    {
        if (from?.Contains(':') == true) LoopFrom = ClockTime.Parse(from);
        if (to?.Contains(':') == true && ClockTime.Parse(to) is { } end && end > (LoopFrom ?? new(0))) LoopTo = end;
        Speed = speed is { } percent ? Math.Clamp(percent, ListenLink.Slowest, ListenLink.Fastest) : null;
        var stretch = LoopFrom is { } start ? (start.Milliseconds / 1000.0 - Around, (LoopTo ?? start).Milliseconds / 1000.0 + Around)
            : (Seconds(from), Seconds(to));
        return await FindAsync(recording, stretch.Item1, stretch.Item2, stop) ? Page() : NotFound();

        static double? Seconds(string? text) =>
            double.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var seconds) ? seconds : null;
    }

    public string BarsAsJson => StripView.BarLines(Recording, Timeline);

    public string SectionsAsJson => StripView.Sections(Timeline);

    /// <summary>So many seconds are seen of what lies before and after a loop.</summary>
    private const double Around = 4;
    /// <summary>Seconds by which a sound may be longer or shorter than its recording is said to be.</summary>
    private const double MostOff = 5;

    public async Task<IActionResult> OnGetStripAsync(RecordingId recording, double? from, double? to, CancellationToken stop) =>
        await FindAsync(recording, from, to, stop) ? Content(Strip.Picture.AsJson().ToJsonString(), "application/json") : NotFound();

    public async Task<IActionResult> OnPostAttachAsync(RecordingId recording, IFormFile? file, CancellationToken stop)
    {
        if (!await FindAsync(recording, null, null, stop)) return NotFound();
        if (file is null) return Refuse("Choose a sound file first.");
        var name = new string([.. file.FileName.Split('/', '\\')[^1].Where(c => !char.IsControl(c)).Take(UploadLimits.Name)]);
        if (!store.HasRoom(file.Length)) return Refuse(
            $"There is too little room on the disk for {name}: {file.Length / 1_000_000} MB and {SoundFiles.Spare / 1_000_000} to spare "
            + $"are needed.");
        await using var content = file.OpenReadStream();
        var (head, problem) = await SoundStore.HeadAsync(content, stop);
        var media = (string?)"audio/wav";
        if (head is null)
        {
            if (file.Length == 0) return Refuse($"{name}: {problem} Nothing was attached.");
            media = MediaOf(name, content);
            if (media is null && !tool.IsThere) return Refuse($"{name}: {problem} {MediaTool.Missing} Nothing was attached.");
        }
        content.Position = 0;
        var hash = await store.KeepAsync(content, stop);
        double? seconds = head?.Seconds;
        if (head is null && tool.IsThere)
        {
            try
            {
                seconds = (await sounds.FactsAsync(hash, tool, stop)).Seconds;
            }
            catch (UnreadableMediaException unreadable)
            {
                await sounds.ForgetAsync(hash, stop);
                return Refuse($"{name}: {(name.EndsWith(".wav", StringComparison.OrdinalIgnoreCase) ? problem : unreadable.Message)} "
                    + $"Nothing was attached.");
            }
        }
        await sounds.AttachAsync(Recording, hash, name, media ?? "application/octet-stream", file.Length, seconds, false, stop,
            decodes: head is null && tool.IsThere);
        var differs = seconds is not { } lasts ? "" : Recording.Duration is not { } said ? $" So the recording lasts {StripView.At(lasts)}."
            : Math.Abs(said.Milliseconds / 1000.0 - lasts) > MostOff
                ? $" It lasts {StripView.At(lasts)}, the recording is said to last {said}." : "";
        Tell($"{name} is at hand.{(head is null && tool.IsThere ? " It is being read." : "")}{differs}");
        return Redirect($"/recordings/{recording}/listen");
    }

    public async Task<IActionResult> OnPostSimulateAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, null, null, stop)) return NotFound();
        if (Timeline.Map is null) return Refuse("Mark the recording’s bars first: its sound is made up along them.");
        return Redirect($"/jobs/{await jobs.AddAsync(SoundStore.SimulationKind, Study.Id, $"{{\"recording\":{recording}}}", stop)}");
    }

    /// <summary>What was struck in the sound, if that was looked for.</summary>
    public HeardSound? Heard { get; private set; }

    public async Task<IActionResult> OnPostOnsetsAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, null, null, stop)) return NotFound();
        if (Sound is not { Samples: not null } sound) return Refuse("What is struck is heard once the sound is read: attach one, or wait "
            + "for it.");
        return Redirect(
            $"/jobs/{await jobs.AddAsync(SoundStore.OnsetsKind, Study.Id, $"{{\"sound\":{sound.Id},\"recording\":{recording}}}", stop)}");
    }

    /// <summary>The work of reading the file, where it is not done.</summary>
    public Job? Reading { get; private set; }
    /// <summary>The file is not read, and could be.</summary>
    public bool CanBeRead => Sound is { Samples: null } && tool.IsThere && Reading is null or { IsOver: true };
    public bool ReadsAllKinds => tool.IsThere;

    public async Task<IActionResult> OnPostReadAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, null, null, stop) || Sound is not { } sound) return NotFound();
        if (!tool.IsThere) return Refuse(MediaTool.Missing);
        return Redirect(
            $"/jobs/{await jobs.AddAsync(SoundStore.DecodingKind, Study.Id, $"{{\"sound\":{sound.Id},\"recording\":{recording}}}", stop)}");
    }

    public async Task<IActionResult> OnPostDetachAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, null, null, stop) || Sound is not { } sound) return NotFound();
        await sounds.DeleteAsync(sound.Id, stop);
        Tell($"{sound.Name} is no longer at hand; its file goes after a day.",
            $"/recordings/{recording}/listen?handler=Again&sound={sound.Id}");
        return Redirect($"/recordings/{recording}/listen");
    }

    public async Task<IActionResult> OnPostAgainAsync(RecordingId recording, SoundId sound, CancellationToken stop)
    {
        await sounds.RestoreAsync(sound, stop);
        return Redirect($"/recordings/{recording}/listen");
    }

    public async Task<IActionResult> OnPostBeginAsync(RecordingId recording, string[] sought, string? everything, string? by, int reaction,
        CancellationToken stop)
    {
        if (!await FindAsync(recording, null, null, stop)) return NotFound();
        Asked = (sought, everything is not null, by, reaction);
        IdeaId[] chosen = [.. Ideas.Where(i => sought.Contains(i.Id.ToString())).Select(i => i.Id)];
        if (everything is null && chosen.Length == 0) return Refuse("Say what you listen for: everything, or at least one idea.");
        if (chosen.Length > SessionStore.Keys) return Refuse("There are nine keys: choose at most nine ideas.");
        if (!ModelState.IsValid || reaction is < 0 or > 2000) return Refuse("A reaction is a whole number of milliseconds from 0 to 2000.");
        var name = ModelState.Text("by", by);
        if (!ModelState.IsValid) return Refuse(ModelState["by"]!.Errors[0].ErrorMessage);
        return Redirect($"/sessions/{await sessions.BeginAsync(recording, everything is not null, chosen, name, reaction, stop)}");
    }

    private PageResult Refuse(string why)
    {
        Problem = why;
        return Again();
    }

    /// <summary>Kinds of sound that browsers decode, by what is in the file and not by its name alone.</summary>
    private static string? MediaOf(string name, Stream content)
    {
        Span<byte> start = stackalloc byte[12];
        content.Position = 0;
        if (content.ReadAtLeast(start, 12, throwOnEndOfStream: false) < 12) return null;
        if (start[..4].SequenceEqual("fLaC"u8)) return "audio/flac";
        if (start[..4].SequenceEqual("OggS"u8)) return "audio/ogg";
        if (start[4..8].SequenceEqual("ftyp"u8)) return "audio/mp4";
        if (start[..3].SequenceEqual("ID3"u8) || (start[0] == 0xFF && (start[1] & 0xE0) == 0xE0)) return "audio/mpeg";
        return null;
    }

    private async Task<bool> FindAsync(RecordingId id, double? from, double? to, CancellationToken stop)
    {
        if (!await FindRecordingAsync(id, stop)) return false;
        Sound = await sounds.OfRecordingAsync(id, stop);
        Reading = Sound is { Samples: null } unread ? await jobs.LastOnAsync(SoundStore.DecodingKind, unread.Id, stop) : null;
        Heard = Sound is { IsHeard: true } ? await sounds.HeardAsync(Sound.Id, stop) : null;
        Ideas = await ideas.OfStudyAsync(Recording.StudyId, stop);
        var last = await sessions.LastKeysAsync(Recording.StudyId, stop);
        Proposed = Ideas.Select(i => i.Id).Where(i => last.Count == 0 || last.Contains(i)).Take(SessionStore.Keys).ToHashSet();
        Sessions = await sessions.OfRecordingAsync(id, stop);
        Strip = new(Recording, Timeline, await passages.OfRecordingAsync(id, stop), await coverages.OfRecordingAsync(id, stop), [],
            Sound is { HasOverview: true } s ? await sounds.OverviewAsync(s.Id, stop) : null, from, to)
        { LookedFor = await looking.LookedForAsync(id, stop) };
        return true;
    }
}
