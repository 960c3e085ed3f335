using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Listening;

/// <param name="Question">Its number.</param>
public sealed record QuestionInput(long Question);

/// <summary>Looks for a few counts in every sound, without naming them.</summary>
public sealed class SoundLikeWork(SoundQuestions questions, HeardRecordings recordings)
    : Work<QuestionInput>($"sound-{SoundQuestions.Like}", "Looking in the sound")
{
    private const int Most = 100, MostInOne = 20;

    protected override async Task RunAsync(QuestionInput input, JobRun run)
    {
        if (await questions.FindAsync(input.Question, run.Stop) is not { } question) throw new JobFailedException("It was asked anew.");
        var asked = question.AskedAs<LikeAsked>();
        var idea = FewCounts.AsIdea(CountLines.Parse(asked.Text).Passage, IdeaWords.Read<VoicingRule>(asked.Drum) ?? VoicingRule.Drum,
            asked.Rates);
        var (way, found) = (recordings.For(run), new List<AnsweringPlace>());
        await foreach (var one in way.EachAsync((_, _) => null, run.Stop))
        {
            var places = await Task.Run(() => SoundSearch.Of(idea, one.Bars, HeardStrokes.In(one.Heard, one.Ear, SoundSearch.Eager)),
                run.Stop);
            found.AddRange(places.Take(MostInOne).Select(p => Answers.Of(one.Recording.Id, p)));
        }
        await questions.KeepAsync(run, input.Question, new LikeAnswer(way.Recordings, way.Bars, [.. found.OrderByDescending(f => f.Score)
            .Take(Most)]),
            way.Recordings == 0 ? "No recording has a sound that the ear has heard."
                : $"{way.Recordings} recordings looked through, {way.Bars:#,0} bars.");
    }
}

/// <summary>Looks for stretches that come back in what the ear heard of several titles.</summary>
public sealed class SoundRecurringWork(SoundQuestions questions, HeardRecordings recordings)
    : Work<QuestionInput>($"sound-{SoundQuestions.Recurring}", "Looking for what comes back in the sound")
{
    private const int MostPlaces = 12;

    protected override async Task RunAsync(QuestionInput input, JobRun run)
    {
        if (await questions.FindAsync(input.Question, run.Stop) is not { } question) throw new JobFailedException("It was asked anew.");
        var all = new List<(RecordingId Id, (PlayerId Player, string Title) Title, SoundBars Bars, Passage Passage)>();
        await foreach (var one in recordings.For(run).EachAsync((_, _) => null, run.Stop))
            all.Add((one.Recording.Id, (one.Recording.PlayerId, one.Recording.Title), one.Bars,
                HeardPassage.Of(one.Bars, HeardStrokes.In(one.Heard, one.Ear))));
        var titles = all.Select(a => a.Title).Distinct().Select((t, i) => (t, i)).ToDictionary(x => x.t, x => (long)x.i);
        // Title by title, in the order in which cells tell their places.
        all = [.. all.OrderBy(a => titles[a.Title]).ThenBy(a => a.Id.Value)];
        Source[] sources = [.. all.Select(a => new Source(a.Passage, a.Id.Value, titles[a.Title]))];
        var cells = await Task.Run(() => HeardCells.Of(sources, question.AskedAs<RecurringAsked>().Titles, run.Stop), run.Stop);
        var told = cells.Select(c => Told(c, all)).ToList();
        await questions.KeepAsync(run, input.Question, new RecurringAnswer(all.Count, all.Sum(a => a.Bars.Count), told),
            $"{told.Count} stretches come back in {all.Count} recordings that the ear has heard.");
    }

    private static RecurringCell Told(RankedCell ranked,
        IReadOnlyList<(RecordingId Id, (PlayerId Player, string Title) Title, SoundBars Bars, Passage Passage)> all)
    {
        var cell = ranked.Cell;
        ToldCell Of(Occurrence o) => new(all[o.Source].Passage, o, HeardCells.Facets);
        return new(Of(cell.Occurrences[0]).Text, cell.Moments, cell.Occurrences.Count, cell.Recordings, ranked.Expected,
            [.. cell.Occurrences.GroupBy(o => Of(o).Count).OrderByDescending(g => g.Count()).Take(3).Select(g => $"{g.Key} ({g.Count()})")],
            // One of each recording first: that it comes back elsewhere is what makes it worth hearing.
            [.. cell.Occurrences.GroupBy(o => o.Source).SelectMany(g => g.Select((o, i) => (o, i))).OrderBy(x => x.i).Take(MostPlaces)
                .Select(x => Place(all[x.o.Source], x.o))]);
    }

    private static AnsweringPlace Place((RecordingId Id, (PlayerId, string) Title, SoundBars Bars, Passage Passage) of, Occurrence o)
    {
        var at = of.Bars.At(o.Start);
        Stroke[] strokes = [.. of.Passage.Strokes.Where(s => s.At >= o.Start && s.At <= o.End
            && HeardCells.Facets.Families.Contains(s.Voice.Family))];
        return new(of.Id.Value, (int)Math.Max(0, Math.Round(at.Milliseconds)),
            (int)Math.Max(0, Math.Round(of.Bars.At(o.End + new Tick(Tick.PerQuarter / 2)).Milliseconds)),
            of.Bars.AreKnown ? of.Passage.Meters.Locate(o.Start).Bar + 1 : null, 1,
            [.. strokes.Select(s => (int)Math.Round((of.Bars.At(s.At) - at) * 1000))], [.. strokes.Select(s => s.Voice.Code)],
            [.. strokes.Select(_ => 1.0)]);
    }
}

internal static class Answers
{
    public static AnsweringPlace Of(RecordingId recording, FoundPlace place) => new(recording.Value,
        (int)Math.Max(0, Math.Round(place.At.Milliseconds)), (int)Math.Max(0, Math.Round(place.Until.Milliseconds)), place.Bar,
        Math.Round(place.Score, 4), [.. place.Strokes.Select(s => (int)Math.Round((s.At - place.At) * 1000))],
        [.. place.Strokes.Select(s => s.Voice.Code)], [.. place.Strokes.Select(s => Math.Round(s.Strength, 3))]);
}
