using InnerCadence.Core.Counting;
using InnerCadence.Core.Music;
using InnerCadence.Storage;
using InnerCadence.Web.Drawing;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Blind;

/// <summary>Judging without knowing whose playing it is: excerpts in an order from a seed, with player, recording and date hidden until all are judged.</summary>
public sealed class ShowModel(Storage.Studies studies, Storage.Ideas ideas, Storage.Sightings sightings, Sounds sounds) : StudyPage(studies)
{
    public int Seed { get; private set; }
    /// <summary>Which excerpt of the order, from 1.</summary>
    public int Number { get; private set; }
    public int Of { get; private set; }
    public SightingView? Sighting { get; private set; }
    public Passage Exemplar { get; private set; } = Passage.Empty;
    public string ExemplarText { get; private set; } = "";
    public bool HasSound { get; private set; }
    public IReadOnlyList<SightingView> Judged { get; private set; } = [];

    public Shape Picture => Strands.Draw(Sighting!.Passage, new() { Gap = 28, Brackets = [new(new Tick(Sighting.Row.StartTick), new Tick(Sighting.Row.EndTick), Sighting.Row.Idea, false, null)] });

    public async Task<IActionResult> OnGetAsync(StudyId study, int? seed, int number, CancellationToken stop)
    {
        if (seed is null) return Redirect($"/studies/{study}/blind?seed={Random.Shared.Next(1, 1_000_000)}&number=1");
        return await FindAsync(study, seed.Value, number, stop) ? Page() : NotFound();
    }

    public async Task<IActionResult> OnPostAsync(StudyId study, int seed, int number, SightingId sighting, int version, Judgement? judgement, string? reason, CancellationToken stop)
    {
        if (judgement is not { } made || !Enum.IsDefined(made) || reason?.Length > 2000 || Typed.HasUnkeepable(reason ?? "")) return BadRequest();
        if (await sightings.FindAsync(sighting, stop) is not { } row || row.StudyId != study) return NotFound();
        await sightings.JudgeAsync(sighting, version, made, reason?.Trim() ?? "", stop);
        return Redirect($"/studies/{study}/blind?seed={seed}&number={number + 1}");
    }

    /// <summary>The order is that of everything the study has found, so that it stays when some of it is judged.</summary>
    private async Task<bool> FindAsync(StudyId study, int seed, int number, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return false;
        var order = (await sightings.OfStudyAsync(study, stop)).ToArray();
        new Random(seed).Shuffle(order);
        (Seed, Number, Of) = (seed, Math.Max(1, number), order.Length);
        if (Number > order.Length)
        {
            Judged = [.. SightingView.Of(order)];
            return true;
        }
        Sighting = SightingView.Of([order[Number - 1]]).Single();
        ExemplarText = (await ideas.FindAsync(Sighting.Row.IdeaId, stop))!.Text;
        Exemplar = CountLines.Parse(ExemplarText).Passage;
        HasSound = Sighting.Clock is not null && await sounds.OfRecordingAsync(Sighting.Row.RecordingId, stop) is not null;
        return true;
    }
}
