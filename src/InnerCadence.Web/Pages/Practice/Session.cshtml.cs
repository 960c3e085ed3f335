using System.Globalization;
using System.Text.Json;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;
using InnerCadence.Core.Practice;
using InnerCadence.Core.Rhythm;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Practice;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Practice;

/// <summary>What a session sends: rounds and reports with keys of their own, so that they can be sent again.</summary>
public sealed record RoundsInput(IReadOnlyList<PracticeEntry>? Entries);

/// <summary>Something that can sound in a session.</summary>
/// <param name="Text">As count lines without a tempo.</param>
public sealed record Sounding(string Group, string Name, string Text);

/// <summary>One item at the kit: the figure, its tempo, one key; taken apart, varied, dropped out and come back to; its log.</summary>
public sealed class PracticeSessionModel(StudyStore studies, PracticeStore practice, PassageStore passages, Records records)
    : StudyPage(studies)
{
    private const int MostBars = 64;

    public PracticeItem Item { get; private set; } = null!;
    public Passage Figure { get; private set; } = Passage.Empty;
    /// <summary>The record of a figure that was taken from a passage.</summary>
    public RecordView? Record { get; private set; }
    public IReadOnlyList<Sounding> Soundings { get; private set; } = [];
    public IReadOnlyList<Variation> Variations { get; private set; } = [];
    public IReadOnlyList<PracticeDay> Days { get; private set; } = [];
    public Playability Playability { get; private set; } = null!;
    public ReEntry? ReEntry { get; private set; }
    public int Seed { get; private set; } = 1;
    public string? Problem { get; private set; }

    /// <summary>The ladder as a table, so that the page can climb and fall while the server is away: tempo, clean, failed, next after
    /// clean, next after a failure.</summary>
    public string LadderTable => JsonSerializer.Serialize(Item.Ladder.Table.Select(t =>
        new object[] { t.State.Tempo, t.State.Clean, t.State.Failed, t.AfterClean, t.AfterFailed }));

    /// <summary>The rung above and the one below, in words.</summary>
    public string Neighbours
    {
        get
        {
            static string? Say(string words, double? tempo) =>
                tempo is { } t ? string.Create(CultureInfo.InvariantCulture, $"{words}{t:0.#}") : null;
            return string.Join(", ", new[] { Say("then ", Item.Ladder.Beside.Above), Say("two failures: ", Item.Ladder.Beside.Below) }
                .OfType<string>());
        }
    }

    public async Task<IActionResult> OnGetAsync(PracticeId item, int seed, CancellationToken stop) =>
        await FindAsync(item, seed, stop) ? Page() : NotFound();

    /// <summary>Keeps what a script sends; answers with the ladder as it stands then.</summary>
    public async Task<IActionResult> OnPostKeepAsync(PracticeId item, [FromBody] RoundsInput input, CancellationToken stop)
    {
        if (input.Entries is not { Count: > 0 and <= 2000 } entries || !entries.All(IsGood)) return BadRequest();
        if (await practice.KeepAsync(item, entries, stop) is not { } kept) return NotFound();
        Item = kept;
        return new JsonResult(new { stopped = kept.Stopped, table = JsonSerializer.Deserialize<JsonElement>(LadderTable) });
    }

    /// <summary>One round, for a page without scripts.</summary>
    public async Task<IActionResult> OnPostRoundAsync(PracticeId item, string? outcome, CancellationToken stop)
    {
        if (!await FindAsync(item, 0, stop)) return NotFound();
        if (outcome is not ("clean" or "failed")) return BadRequest();
        await practice.KeepAsync(item, [new(Guid.NewGuid(), Item.Ladder.Tempo, outcome, null, "")], stop);
        return Redirect($"/practice/{item}");
    }

    public async Task<IActionResult> OnPostPainAsync(PracticeId item, int pain, string? note, CancellationToken stop)
    {
        if (!await FindAsync(item, 0, stop)) return NotFound();
        var words = ModelState.Text("note", note, most: 2000);
        if (pain is < 0 or > 3 || !ModelState.IsValid)
        {
            Problem = "Tension or pain is a number from 0 to 3; the note is at most 2,000 characters.";
            return Again();
        }
        await practice.KeepAsync(item, [new(Guid.NewGuid(), Item.Ladder.Tempo, null, pain, words)], stop);
        return Redirect($"/practice/{item}");
    }

    public async Task<IActionResult> OnPostAnewAsync(PracticeId item, CancellationToken stop)
    {
        await practice.AnewAsync(item, stop);
        return Redirect($"/practice/{item}");
    }

    public async Task<IActionResult> OnPostEndAsync(PracticeId item, CancellationToken stop)
    {
        if (!await FindAsync(item, 0, stop) || await practice.EndAsync(item, DateOnly.FromDateTime(DateTime.Now),
            stop) is not { } due) return NotFound();
        Tell($"{Item.Name} is due again on {due.On.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)}.");
        return Redirect($"/studies/{Study.Id}/practice");
    }

    public async Task<IActionResult> OnPostDeleteAsync(PracticeId item, CancellationToken stop)
    {
        if (!await FindAsync(item, 0, stop)) return NotFound();
        await practice.DeleteAsync(item, stop);
        Tell($"{Item.Name} is no longer practised.", $"/studies/{Study.Id}/practice?handler=Restore&practice={item}");
        return Redirect($"/studies/{Study.Id}/practice");
    }

    private static bool IsGood(PracticeEntry? e) => e is not null && e.Tempo is > 0 and <= 400 && e.Outcome is null or "clean" or "failed"
        && e.Pain is null or (>= 0 and <= 3) && (e.Note?.Length ?? 0) <= 2000 && !Typed.HasUnkeepable(e.Note ?? "");

    private async Task<bool> FindAsync(PracticeId id, int seed, CancellationToken stop)
    {
        if (await practice.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        Item = found;
        Figure = found.Passage;
        if (found.PassageId is { } origin && await passages.FindAsync(origin, stop) is { } row) Record =
            await records.BesideAsync(row, stop);
        Seed = seed is > 0 and < 1_000_000 ? seed : 1;
        Variations = Core.Practice.Variations.Of(Figure, Seed);
        Soundings = [.. SoundingsOf()];
        Days = await practice.DaysAsync(id, stop);
        Playability = Playability.Of(Figure, StickingSettings.Usual with
        {
            Tempo = Bpm.Of(found.Goal)!.Value,
            Limits = await practice.LimitsAsync(stop)
        });
        ReEntry = Grouping.Of(Figure with { Looped = true }) is [var first, ..] ? ReEntry.Of(Figure, first) : null;
        return true;
    }

    private IEnumerable<Sounding> SoundingsOf()
    {
        yield return new("whole", "the figure", CountWriter.Write(Figure));
        foreach (var layer in TakenApart.Layers(Figure)) yield return new("layers", layer.Name, CountWriter.Write(layer.Passage));
        foreach (var part in TakenApart.Parts(Figure)) yield return new("parts", part.Name,
            CountWriter.Write(Excerpt.Cut(Figure, part.From, part.To > Figure.Length ? Figure.Length : part.To)));
        foreach (var bars in new[] { 1, 2, 4 })
            if (Figure.Bars <= bars && bars * 2 <= MostBars) yield return new("trading", $"{Bars(bars)} of it, {Bars(bars)} of your own",
                CountWriter.Write(Repeated(bars / Figure.Bars, bars / Figure.Bars)));
        var rounds = Math.Min(8, MostBars / Math.Max(1, Figure.Bars));
        if (rounds >= 4)
        {
            yield return new("it drops out", "two rounds on, two off",
                CountWriter.Write(Core.Practice.Rounds.Of(Figure, Drills.Of(rounds, 2, 2))));
            yield return new("it drops out", $"at random, by seed {Seed}",
                CountWriter.Write(Core.Practice.Rounds.Of(Figure, Drills.Of(rounds, 2, 2, Seed))));
        }
    }

    private static string Bars(int n) => n == 1 ? "one bar" : $"{CountNames.Number(n)} bars";

    private Passage Repeated(int with, int without) =>
        Core.Practice.Rounds.Of(Figure, [.. Enumerable.Range(0, with + without).Select(i => new DrillRound(i + 1, i < with))]);
}
