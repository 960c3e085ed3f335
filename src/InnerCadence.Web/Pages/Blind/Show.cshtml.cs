using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Blind;

/// <summary>
/// Judging without knowing whose playing it is: excerpts in an order from a seed, with player, recording and date hidden until all are
/// judged. What the
/// judge has judged blind before stays out, but for a tenth of what lies two weeks back, which is asked again to see how well one agrees
/// with oneself.
/// </summary>
public sealed class BlindModel(StudyStore studies, IdeaStore ideas, SightingStore sightings, SoundStore sounds, JudgementStore judges,
    Records records)
    : StudyPage(studies)
{
    public int Seed { get; private set; }
    /// <summary>Which excerpt of the order, from 1.</summary>
    public int Number { get; private set; }
    public int Of { get; private set; }
    /// <summary>When this round began, in seconds since 1970: what is judged in it does not change its order.</summary>
    public long Since { get; private set; }
    public string Judge { get; private set; } = "";
    public Core.Evidence.Agreement? Self { get; private set; }
    public Core.Evidence.Agreement? Others { get; private set; }
    private static readonly TimeSpan Weeks = TimeSpan.FromDays(14);
    public SightingView? Sighting { get; private set; }
    public Passage Exemplar { get; private set; } = Passage.Empty;
    public string ExemplarText { get; private set; } = "";
    public bool HasSound { get; private set; }
    /// <summary>The record at this place, at an address that does not tell which it is.</summary>
    public RecordView? Record { get; private set; }
    public IReadOnlyList<SightingView> Judged { get; private set; } = [];

    /// <summary>Model and place, their first strokes in one line; bars are counted from 1, so that none tells where it is.</summary>
    public (Shape Model, Shape Here)? Pictures { get; private set; }

    /// <summary>Where nothing can be laid under the model.</summary>
    public Shape Picture => Strands.Draw(Sighting!.Passage,
        new()
        {
            Gap = 28,
            Brackets = [new(new Tick(Sighting.Row.StartTick), new Tick(Sighting.Row.EndTick), Sighting.Row.Idea, false,
        null)]
        });

    public async Task<IActionResult> OnGetAsync(StudyId study, int? seed, int number, long? since, CancellationToken stop)
    {
        if (seed is null || since is null) return Redirect(
            $"/studies/{study}/blind?seed={seed ?? Random.Shared.Next(1, 1_000_000)}&since={DateTimeOffset.UtcNow.ToUnixTimeSeconds()}"
                + $"&number={Math.Max(1, number)}");
        return await FindAsync(study, seed.Value, number, since.Value, stop) ? Page() : NotFound();
    }

    public async Task<IActionResult> OnPostAsync(StudyId study, int seed, int number, long since, SightingId sighting, int version,
        Judgement? judgement, string? reason, CancellationToken stop)
    {
        if (judgement is not { } made || !Enum.IsDefined(made) || reason?.Length > 2000
            || Typed.HasUnkeepable(reason ?? "")) return BadRequest();
        if (await sightings.FindAsync(sighting, stop) is not { } row || row.StudyId != study) return NotFound();
        await judges.JudgeBlindAsync(sighting, version, made, reason?.Trim() ?? "", Began(since), stop);
        return Redirect($"/studies/{study}/blind?seed={seed}&since={since}&number={number + 1}");
    }

    private static DateTime Began(long since) => DateTimeOffset.FromUnixTimeSeconds(Math.Clamp(since, 0, 253_402_300_799)).UtcDateTime;

    /// <summary>The order is that of what the study has found and the judge had not judged when the round began, so that it stays while
    /// some of it is judged.</summary>
    private async Task<bool> FindAsync(StudyId study, int seed, int number, long since, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return false;
        var began = Began(since);
        Judge = await judges.NameAsync(stop);
        var before = await judges.BlindBeforeAsync(study, Judge, began, stop);
        var order = (await sightings.OfStudyAsync(study, stop))
            .Where(s => !before.TryGetValue(s, out var last) || (began - last >= Weeks && s.Value % 10 == seed % 10)).ToArray();
        new Random(seed).Shuffle(order);
        (Seed, Number, Of, Since) = (seed, Math.Max(1, number), order.Length, since);
        if (Number > order.Length)
        {
            (Self, Others) = await judges.AgreementAsync(study, stop);
            Judged = [.. SightingView.Of(await sightings.TheseAsync(order, stop))];
            return true;
        }
        if (await sightings.FindAsync(order[Number - 1], stop) is not { } row) return false;
        Sighting = SightingView.Of([row]).Single();
        var idea = (await ideas.FindAsync(Sighting.Row.IdeaId, stop))!;
        (ExemplarText, Exemplar) = (idea.Text, CountLines.Parse(idea.Text).Passage);
        var (start, factor) = (new Tick(row.StartTick), Factor.Of(row.Factor));
        if (LaidUnder.Of(idea.AsIdea(), Sighting.Passage, start, factor, row.Transforms, SightingJson.Read(row.Edits, Sighting.Passage))
            is { } laid && new LaidPicture(laid, Exemplar, Sighting.Passage, start, factor, 1) is var picture)
            Pictures = (picture.Model(), picture.Here());
        if (await records.BesideAsync(row.RecordingId, Sighting.Passage, row.Bar, row.PassageStart, stop) is { } record)
            Record = record with { Address = $"/sightings/{row.Id}", FirstBar = null, Off = null, IsHidden = true };
        HasSound = Sighting.Clock is not null && await sounds.OfRecordingAsync(Sighting.Row.RecordingId, stop) is not null;
        return true;
    }
}
