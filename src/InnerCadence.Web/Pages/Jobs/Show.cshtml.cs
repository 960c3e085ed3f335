using System.Text.Json;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Jobs;

/// <summary>How far a piece of long work is.</summary>
public sealed class JobModel(StudyStore studies, JobStore jobs, IEnumerable<IWork> works) : StudyPage(studies)
{
    public Job Job { get; private set; } = null!;
    public string Heading => works.FirstOrDefault(w => w.Kind == Job.Kind)?.Heading ?? Job.Kind;

    /// <summary>Where its result is seen.</summary>
    public IReadOnlyList<(string Address, string Words)> Onward => Job.Kind switch
    {
        RecordingImport.Name => [($"/imports/{Number("import")}", "What became of the file"),
            ($"/studies/{Study.Id}/recordings", "To the recordings")],
        ArrivalStore.Job => [($"/files/{Number("arrival")}", "What became of each file"),
            ($"/studies/{Study.Id}/passages", "To the passages")],
        SoundStore.SimulationKind => [($"/recordings/{Number("recording")}/listen", "To the recording’s sound")],
        ComparisonStore.Kind => [($"/ideas/{Number("idea")}/where", "Where the idea appears")],
        DiscoveryStore.Kind => [($"/studies/{Study.Id}/discovery", "What recurs")],
        LookingStore.Kind => [($"/ideas/{Number("idea")}/look", "Where it might be")],
        DepartingStore.Kind => [($"/studies/{Study.Id}/departing", "What departs")],
        "sound-" + SoundQuestions.Like => [($"/studies/{Study.Id}/like/{Number("question")}", "Where it might be")],
        "sound-" + SoundQuestions.Recurring => [($"/studies/{Study.Id}/recurring", "What comes back")],
        SoundStore.OnsetsKind => [($"/recordings/{Number("recording")}/listen#heard", "What was heard")],
        SoundStore.DecodingKind => [($"/recordings/{Number("recording")}/listen", "To the sound")],
        SoundStore.OverviewKind => [($"/studies/{Study.Id}/recordings", "To the recordings")],
        _ => [($"/studies/{Study.Id}/ideas", "To the ideas")],
    };

    private string Number(string name) => JsonDocument.Parse(Job.Input).RootElement.GetProperty(name).ToString();

    public async Task<IActionResult> OnGetAsync(JobId job, CancellationToken stop) => await FindAsync(job, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnPostCancelAsync(JobId job, CancellationToken stop)
    {
        if (!await FindAsync(job, stop)) return NotFound();
        await jobs.CancelAsync(job, stop);
        return Redirect($"/jobs/{job}");
    }

    private async Task<bool> FindAsync(JobId id, CancellationToken stop)
    {
        if (await jobs.FindAsync(id, stop) is not { } found) return false;
        Job = found;
        return found.StudyId is { } study && await EnterAsync(study, stop);
    }
}
