using Dapper;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Storage.Tests;

/// <summary>Questions to all sounds of a study: a few are kept, and the last answer stands until there is a newer one.</summary>
public class QuestionsToAllSounds : StorageTests
{
    private SoundQuestions Questions => new(Source, Jobs);

    private async Task<long> AskAsync(string text)
    {
        var job = await Questions.AskAsync(Study, SoundQuestions.Like, new LikeAsked(text, "family", Rates: false), Stop);
        (await Jobs.FindAsync(job, Stop))!.Kind.ShouldBe("sound-like");
        await using var connection = await Source.OpenConnectionAsync(Stop);
        return await connection.ExecuteScalarAsync<long>("select max(id) from sound_question");
    }

    private async Task AnswerAsync(long question, int recordings)
    {
        await using var connection = await Source.OpenConnectionAsync(Stop);
        await connection.ExecuteAsync(
            "update sound_question set made_at = now(), result = jsonb_build_object('recordings', @recordings, 'bars', 9, "
                + "'places', '[]'::jsonb) where id = @question", new { question, recordings });
    }

    [Fact]
    public async Task The_last_answer_stands_while_a_new_question_is_worked_on()
    {
        (await Questions.LatestAsync(Study, SoundQuestions.Like, Stop)).ShouldBeNull();
        await AnswerAsync(await AskAsync("SN: 4 e &"), 7);
        var waiting = await AskAsync("SN: 1");
        var latest = (await Questions.LatestAsync(Study, SoundQuestions.Like, Stop))!;
        latest.AskedAs<LikeAsked>().ShouldBe(new("SN: 4 e &", "family", false));
        latest.ResultAs<LikeAnswer>()!.Recordings.ShouldBe(7);
        (await Questions.FindAsync(waiting, Stop))!.ResultAs<LikeAnswer>().ShouldBeNull();
        (await Questions.LatestAsync(Study, SoundQuestions.Recurring, Stop)).ShouldBeNull();
        await AnswerAsync(waiting, 8);
        (await Questions.LatestAsync(Study, SoundQuestions.Like, Stop))!.Id.ShouldBe(waiting);
    }

    [Fact]
    public async Task Old_questions_go_and_those_of_other_studies_stay()
    {
        var first = await AskAsync("SN: 1");
        var other = await Studies.AddAsync(new("Another", "", "Oda Finch", Core.Music.Handedness.Right, []), Stop);
        await Questions.AskAsync(other, SoundQuestions.Like, new LikeAsked("SN: 2", "same", true), Stop);
        for (var i = 0; i < 14; i++) await AskAsync($"SN: {i % 4 + 1}");
        (await Questions.FindAsync(first, Stop)).ShouldBeNull();
        await using var connection = await Source.OpenConnectionAsync(Stop);
        foreach (var (study, kept) in new[] { (other, 1), (Study, 13) })
            (await connection.ExecuteScalarAsync<int>("select count(*)::int from sound_question where study_id = @study", new { study }))
                .ShouldBe(kept);
    }
}
