using System.Security.Cryptography;
using System.Text;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Listening;

/// <param name="Idea">Its number.</param>
public sealed record LookingInput(long Idea);

/// <summary>The long work of looking for an idea in every recording that the ear has heard. What was looked through and did not change is
/// left as it is, so that work that was stopped goes on where it was.</summary>
public sealed class LookingWork(LookingStore looking, IdeaStore ideas, HeardRecordings recordings, WrittenPassages written)
    : Work<LookingInput>(LookingStore.Kind, "Looking in the sound")
{
    /// <summary>Of one recording; what stands lower is hardly anything.</summary>
    private const int MostInOne = 60;

    /// <summary>What is kept of a place: higher where more is kept, so that it is looked for anew.</summary>
    private const int Told = 4;

    protected override async Task RunAsync(LookingInput input, JobRun run)
    {
        var (id, stop) = (new IdeaId(input.Idea), run.Stop);
        if (await ideas.FindAsync(id, stop) is not { } row) throw new JobFailedException("The idea is deleted.");
        var idea = row.AsIdea();
        var known = (await looking.LookedAsync(id, stop)).ToDictionary(l => l.RecordingId);
        var passages = (await written.OfStudyAsync(row.StudyId, stop)).Where(w => w.Bar is not null).ToLookup(w => w.RecordingId);
        // Agreement follows from what is written there, too.
        string AsItIs(Recording recording, string from) => $"{Told}|{row.Text}|{row.Rules}|{row.SpanTicks}|"
            + $"{string.Join(' ', row.Scope ?? [])}|{from}|{WrittenThere(passages[recording.Id])}";
        var way = recordings.For(run);
        await foreach (var one in way.EachAsync((r, from) => known.TryGetValue(r.Id, out var looked) && looked.LookedFor == AsItIs(r, from)
            ? looked.Bars : null, stop))
        {
            var places = await Task.Run(() => SoundSearch.Of(idea, one.Bars, HeardStrokes.In(one.Heard, one.Ear, SoundSearch.Eager)), stop);
            await looking.KeepAsync(id, one.Recording.Id, AsItIs(one.Recording, one.FollowsFrom), one.Bars.Count,
                SoundGroup.AgreementOf(one.Bars, passages[one.Recording.Id].Select(p => (p.Bar!.Value, p.Passage)),
                    HeardStrokes.In(one.Heard, one.Ear)), [.. places.Take(MostInOne)], stop);
        }
        await run.DoneAsync(way.Recordings == 0 ? "No recording has a sound that the ear has heard."
            : $"{row.Nickname}: {way.Recordings} of {way.Of} recordings looked through, {way.Bars:#,0} bars.");
    }

    private static string WrittenThere(IEnumerable<WrittenPassage> passages) => Convert.ToHexStringLower(SHA256.HashData(
        Encoding.UTF8.GetBytes(string.Join('\n', passages.Select(p => $"{p.Bar} {p.Text}")))));
}
