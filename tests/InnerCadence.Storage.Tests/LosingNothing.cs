using InnerCadence.Core.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using Npgsql;

namespace InnerCadence.Storage.Tests;

/// <summary>Readings, the trash, and saves that are cut off in the middle.</summary>
public class LosingNothing : StorageTests
{
    [Fact]
    public async Task A_second_reading_stands_beside_the_first_until_it_is_preferred()
    {
        var passage = await WriteAsync(await RecordAsync("Piece", 64), "SN: 1 e & a");
        var idea = await NameAsync("patter", "SN: 1 e & a");
        var second = await Passages.AddReadingAsync(passage, "SN: 1 e &\nFT: 1a", 1, "film of the hands", "likely",
            "the last one is a tom", Stop);
        (await Passages.ReadingsAsync(passage, Stop)).Select(r => r.Preferred).ShouldBe([true, false]);
        (await Sightings.OfIdeaAsync(idea, Stop)).Single().Verdict.ShouldBe(Verdict.Exact);

        (await Passages.PreferAsync(passage, second, Stop)).ShouldBeTrue();
        (await Passages.FindAsync(passage, Stop))!.Text.ShouldBe("SN: 1 e &\nFT: 1a");
        (await Sightings.OfIdeaAsync(idea, Stop)).ShouldBeEmpty("the tom is no part of the idea, and an idea of four misses none");
        (await Passages.ReadingsAsync(passage, Stop)).Count.ShouldBe(2);
    }

    [Fact]
    public async Task A_reading_of_another_passage_cannot_be_preferred()
    {
        var recording = await RecordAsync("Piece", 64);
        var (passage, other) = (await WriteAsync(recording, "SN: 1"), await WriteAsync(recording, "SN: 2"));
        var reading = (await Passages.ReadingsAsync(other, Stop)).Single().Id;
        (await Passages.PreferAsync(passage, reading, Stop)).ShouldBeFalse();
        (await Passages.FindAsync(passage, Stop))!.Text.ShouldBe("SN: 1");
    }

    [Fact]
    public async Task The_trash_tells_what_was_deleted_newest_first()
    {
        var recording = await RecordAsync("Piece", 64);
        var passage = await WriteAsync(recording, "SN: 1");
        var idea = await NameAsync("patter", "SN: 1 e & a");
        await Ideas.DeleteAsync(idea, Stop);
        await Passages.DeleteAsync(passage, Stop);
        var trash = new Trash(Source);
        (await trash.OfStudyAsync(Study, Stop)).Select(t => t.Kind).ShouldBe(["passage", "idea"]);
        await Recordings.DeleteAsync(recording, Stop);
        (await trash.OfStudyAsync(Study, Stop)).Select(t => t.Kind).ShouldBe(["recording", "idea"], "the passage went with its recording");
    }

    [Fact]
    public async Task A_save_cut_off_in_the_middle_leaves_all_as_it_was_and_the_next_one_works()
    {
        var passage = await WriteAsync(await RecordAsync("Piece", 64), "SN: 1 e & a");
        var idea = await NameAsync("patter", "SN: 1 e & a");

        // A lock on the sightings holds the save after the passage itself is written; then the server ends every connection of the study
        // but ours.
        await using (var holder = await Source.OpenConnectionAsync(Stop))
        {
            await using var transaction = await holder.BeginTransactionAsync(Stop);
            await using (var take = new NpgsqlCommand("lock table sighting in access exclusive mode", holder,
                transaction)) await take.ExecuteNonQueryAsync(Stop);
            var save = Passages.UpdateAsync(passage, Draft("SN: 2 4"), 1, Stop);
            // Outside the transaction, which would see the same activity for as long as it lasts.
            await using var watcher = await Source.OpenConnectionAsync(Stop);
            await using var kill = new NpgsqlCommand(
                "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid() "
                    + "and wait_event_type = 'Lock'", watcher);
            for (var killed = false; !killed;)
            {
                await Task.Delay(50, Stop);
                killed = await kill.ExecuteScalarAsync(Stop) is true;
            }
            await Should.ThrowAsync<NpgsqlException>(() => save);
        }
        var row = (await Passages.FindAsync(passage, Stop))!;
        (row.Text, row.Version).ShouldBe(("SN: 1 e & a", 1));
        (await Sightings.OfIdeaAsync(idea, Stop)).Count.ShouldBe(1);
        (await Passages.UpdateAsync(passage, Draft("SN: 2 4"), 1, Stop)).ShouldBe(SaveResult.Saved);
        (await Sightings.OfIdeaAsync(idea, Stop)).ShouldBeEmpty();
    }
}
