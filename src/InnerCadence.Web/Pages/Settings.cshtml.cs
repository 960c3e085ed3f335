using System.Globalization;
using InnerCadence.Core.Hands;
using InnerCadence.Core.Interchange;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Practice;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Pages.Files;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages;

/// <summary>What holds for the whole installation.</summary>
[RequestSizeLimit(BackupFolder.MostBytes), RequestFormLimits(MultipartBodyLengthLimit = BackupFolder.MostBytes)]
public sealed class SettingsModel(JudgementStore judges, PracticeStore practice, KnownSounds sounds, Backups backups, BackupFolder store,
    TimeProvider time) : PageModel
{
    [BindProperty]
    public string? Judge { get; set; }

    /// <summary>Strokes a second: one hand, a burst of it, doubles of two, one foot, a double of it.</summary>
    [BindProperty]
    public string?[] Limit { get; set; } = [];
    public string? LimitProblem { get; private set; }
    public string KeptJudge { get; private set; } = "";
    public string KeptLimits { get; private set; } = "";
    public string KeptLayout { get; private set; } = "";
    /// <summary>Where the drums stand, a line each.</summary>
    [BindProperty]
    public string? Layout { get; set; }
    public IReadOnlyList<string> LayoutProblems { get; private set; } = [];
    public string? SoundProblem { get; private set; }
    public string? BackupProblem { get; private set; }

    /// <summary>Every note that is known or was spoken about, then instruments by name.</summary>
    public IReadOnlyList<(string Called, PercussionSound? Sound, bool Said)> Sounds { get; private set; } = [];
    public BackupPlan Plan { get; private set; } = new("never", 1);
    public (string? Every, string? Keep) TypedPlan { get; private set; }
    public IReadOnlyList<BackupFile> Kept { get; private set; } = [];

    public static IReadOnlyList<string> LimitNames { get; } = ["one hand, kept up", "one hand, in a burst", "doubles of two hands",
        "one foot, kept up", "a double of one foot"];

    public static string WordOf(BackupReason reason) => reason switch
    {
        BackupReason.ByHand => "by hand",
        BackupReason.Scheduled => "by itself",
        BackupReason.BeforeRestore => "before a restore",
        BackupReason.BeforeUpdate => "before an update",
        _ => "brought here",
    };

    public async Task OnGetAsync(CancellationToken stop) => await ShowAsync(stop);

    private async Task ShowAsync(CancellationToken stop, bool keepTyped = false)
    {
        if (!keepTyped) Judge = await judges.NameAsync(stop);
        if (!keepTyped || Limit.Length != 5)
        {
            Limit = Said(await practice.SetLimitsAsync(stop));
        }
        KeptLimits = Seen.Of(Said(await practice.SetLimitsAsync(stop)));
        (KeptJudge, KeptLayout) = (Seen.Of(await judges.NameAsync(stop)), (await practice.LayoutAsync(stop)).Written);
        if (LayoutProblems.Count == 0 && !(keepTyped && Layout is not null)) Layout = KeptLayout;
        var map = await sounds.MapAsync(stop);
        Sounds = [.. Enumerable.Range(0, 128).Select(PercussionMap.Called)
            .Concat(map.Said.Keys.Where(k => !k.StartsWith("note ", StringComparison.Ordinal)))
            .Select((called, i) => (called, Sound: map.Said.TryGetValue(called, out var said) ? said : i < 128
                && map.Sounds.TryGetValue(i, out var sound) ? sound : (PercussionSound?)null, Said: map.Said.ContainsKey(called)))
            .Where(s => s.Said || s.Sound is not null)];
        (Plan, Kept) = (await backups.PlanAsync(stop), store.All());
    }

    private async Task<PageResult> AgainAsync(CancellationToken stop, bool keepTyped = false)
    {
        await ShowAsync(stop, keepTyped);
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }

    private RedirectResult Done(string told)
    {
        TempData["Notice"] = told;
        return Redirect("/settings");
    }

    /// <summary>The page again because another tab saved meanwhile; what was typed stays, and saving again keeps it.</summary>
    private async Task<PageResult> MeanwhileAsync(string what, string kept, CancellationToken stop)
    {
        ModelState.AddModelError("", $"{what} changed in another tab meanwhile; kept now: {kept}. What you typed is below. Save again "
            + $"to keep yours.");
        var page = await AgainAsync(stop, keepTyped: true);
        Response.StatusCode = StatusCodes.Status409Conflict;
        return page;
    }

    public async Task<IActionResult> OnPostAsync(string? seen, CancellationToken stop)
    {
        var name = ModelState.Text("Judge", Judge);
        if (!ModelState.IsValid) return await AgainAsync(stop, keepTyped: true);
        if (await judges.NameAsync(stop) is var kept && Seen.IsStale(seen, kept)) return await MeanwhileAsync(
            "Your name for judgements was", kept.Length > 0 ? kept : "no name", stop);
        await judges.SetNameAsync(name, stop);
        return Done(name.Length > 0 ? $"Judgements are kept as {name}’s." : "Judgements are kept without a name.");
    }

    public async Task<IActionResult> OnPostLimitsAsync(string? seen, CancellationToken stop)
    {
        var read = Limit.Select(l => double.TryParse(l, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n)
            && n is >= 1 and <= 40 ? n : 0).ToArray();
        if (read.Length != 5 || read.Contains(0))
        {
            LimitProblem = "Strokes a second are numbers from 1 to 40.";
            var typed = Limit;
            Judge = await judges.NameAsync(stop);
            var page = await AgainAsync(stop, keepTyped: true);
            Limit = typed;
            return page;
        }
        var kept = Said(await practice.SetLimitsAsync(stop));
        if (Seen.IsStale(seen, kept)) return await MeanwhileAsync("The limits were", string.Join(", ", kept), stop);
        await practice.SaveLimitsAsync(new()
        {
            Hand = read[0],
            HandBurst = read[1],
            Doubles = read[2],
            Foot = read[3],
            FootDouble = read[4]
        }, stop);
        return Done("Limits are kept.");
    }

    private static string[] Said(Core.Hands.Limits limits) =>
        [.. new[] { limits.Hand, limits.HandBurst, limits.Doubles, limits.Foot, limits.FootDouble }.Select(l =>
            l.ToString("0.#", CultureInfo.InvariantCulture))];

    public async Task<IActionResult> OnPostLayoutAsync(string? seen, CancellationToken stop)
    {
        var problems = new List<string>();
        var layout = KitLayout.Read((Layout ?? "").ReplaceLineEndings("\n"), problems.Add);
        if (problems.Count > 0)
        {
            LayoutProblems = problems;
            return await AgainAsync(stop);
        }
        if (Seen.IsStale(seen, (await practice.LayoutAsync(stop)).Written)) return await MeanwhileAsync("The places of your drums were",
            "open “Settings” in a new tab to see them", stop);
        await practice.SaveLayoutAsync(layout, stop);
        return Done("The places of your drums are kept: reaches and crossings go by them.");
    }

    /// <summary>Says which drum a note is, or an instrument of another program.</summary>
    public async Task<IActionResult> OnPostSoundAsync(string? called, string? code, CancellationToken stop)
    {
        var name = PercussionMap.Called(int.TryParse(called, NumberStyles.None, CultureInfo.InvariantCulture, out var note)
            ? PercussionMap.Called(note) : called ?? "");
        if (SoundChoices.Read(new Dictionary<string, string> { [name] = code ?? "" }) is not { Count: 1 } said
            || (name.StartsWith("note ", StringComparison.Ordinal)
            && !(int.TryParse(name[5..], out var number) && number is >= 0 and < 128)))
        {
            SoundProblem = "Write a note from 0 to 127, or an instrument’s name, and choose its drum.";
            return await AgainAsync(stop);
        }
        await sounds.SayAsync(said, stop);
        return Done($"{name} is {SoundChoices.All.Single(c => c.Code == code).Words}.");
    }

    public async Task<IActionResult> OnPostForgetAsync(string called, CancellationToken stop)
    {
        await sounds.ForgetAsync(called, stop);
        return Done($"What was said about {called} is forgotten.");
    }

    public async Task<IActionResult> OnPostPlanAsync(string? every, string? keep, string? seen, CancellationToken stop)
    {
        TypedPlan = (every, keep);
        if (!BackupPlan.Choices.Contains(every) || !int.TryParse(keep, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            || number is < 1 or > BackupPlan.Most)
        {
            BackupProblem = $"Keep 1 to {BackupPlan.Most} of them.";
            return await AgainAsync(stop);
        }
        var kept = await backups.PlanAsync(stop);
        if (Seen.IsStale(seen, kept.Every, kept.Keep)) return await MeanwhileAsync("The plan of backups was",
            $"every {kept.Every}, the last {kept.Keep}", stop);
        await backups.PlanAsync(new(every!, number), stop);
        return Done(every == "never" ? "No backup is made by itself any more."
            : $"Every {every} a backup is made, and the last {number} are kept.");
    }

    public async Task<IActionResult> OnPostBackupAsync(CancellationToken stop)
    {
        var (made, problem) = await backups.MakeAsync(BackupReason.ByHand, time.GetLocalNow().DateTime, stop);
        if (made is not null) return Done($"{made.Name} is made and was read back.");
        BackupProblem = problem;
        return await AgainAsync(stop);
    }

    public async Task<IActionResult> OnPostRestoreAsync(string? name, bool sure, CancellationToken stop)
    {
        if (store.Find(name) is not { } backup) return NotFound();
        if (!sure) BackupProblem = "Tick that you mean it: what is here now gives way to the backup, after it was backed up itself.";
        else
        {
            var (before, problem) = await backups.RestoreAsync(backup, time.GetLocalNow().DateTime, stop);
            if (before is not null && problem is null) return Done($"{backup.Name} is restored. What was here before is {before.Name}.");
            BackupProblem = problem;
        }
        return await AgainAsync(stop);
    }

    public IActionResult OnGetBackup(string? name) =>
        store.Find(name) is { } backup ? PhysicalFile(Path.GetFullPath(store.PathOf(backup)), "application/octet-stream", backup.Name)
        : NotFound();

    public IActionResult OnPostRemove(string? name)
    {
        if (store.Find(name) is not { } backup) return NotFound();
        store.Remove(backup);
        return Done($"{backup.Name} is deleted.");
    }

    /// <summary>Puts a backup from elsewhere beside the others; it is restored from there.</summary>
    public async Task<IActionResult> OnPostBringAsync(IFormFile? file, CancellationToken stop)
    {
        BackupProblem = file is null ? "Choose a backup first." : null;
        if (file is null) return await AgainAsync(stop);
        var part = store.Part();
        try
        {
            await using (var into = System.IO.File.Create(part)) await file.CopyToAsync(into, stop);
            var head = new byte[5];
            await using (var bytes = System.IO.File.OpenRead(part)) await bytes.ReadAtLeastAsync(head, head.Length,
                throwOnEndOfStream: false, stop);
            if (head.AsSpan().SequenceEqual("PGDMP"u8)) return Done(
                $"{store.Keep(part, BackupReason.Brought, time.GetLocalNow().DateTime).Name} is here; nothing is restored yet.");
            BackupProblem = "This file is no backup. Nothing was kept.";
            return await AgainAsync(stop);
        }
        finally
        {
            System.IO.File.Delete(part);
        }
    }
}
