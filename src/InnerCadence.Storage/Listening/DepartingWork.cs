using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Listening;

public sealed record DepartingInput;

/// <summary>The long work of looking for likely fills, set-ups and odd bars in every recording that the ear has heard. What was looked
/// through and did not change is left as it is.</summary>
public sealed class DepartingWork(DepartingStore departing, HeardRecordings recordings)
    : Work<DepartingInput>(DepartingStore.Kind, "Looking for what departs")
{
    private const int MostInOne = 24;

    protected override async Task RunAsync(DepartingInput input, JobRun run)
    {
        var known = await departing.LooksAsync(run.Study, run.Stop);
        var way = recordings.For(run);
        await foreach (var one in way.EachAsync((r, from) => known.TryGetValue(r.Id, out var look) && look.LookedFor == from ? look.Bars
            : null, run.Stop))
        {
            var common = await Task.Run(() => CommonestBar.Of(one.Bars, HeardStrokes.In(one.Heard, one.Ear), 1, one.Bars.Count), run.Stop);
            await departing.KeepAsync(one.Recording.Id, one.FollowsFrom, one.Bars, [.. (common?.Departing ?? []).Take(MostInOne)],
                run.Stop);
        }
        await run.DoneAsync(way.Recordings == 0 ? "No recording has a sound that the ear has heard and whose bars are known."
            : $"{way.Recordings} of {way.Of} recordings looked through, {way.Bars:#,0} bars.");
    }
}
