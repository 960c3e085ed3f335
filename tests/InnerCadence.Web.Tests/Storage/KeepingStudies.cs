using InnerCadence.Core.Music;
using InnerCadence.Storage;

namespace InnerCadence.Web.Tests.Storage;

public class KeepingStudies : StorageTests
{
    [Fact]
    public async Task A_study_keeps_its_player_and_those_compared_with()
    {
        var study = (await Studies.FindAsync(Study, Stop))!;
        study.Subject.Name.ShouldBe("Nell Tarrow");
        study.Subject.Handedness.ShouldBe("left");
        study.Comparison.Select(p => p.Name).ShouldBe(["Oda Finch"]);
    }

    [Fact]
    public async Task The_second_of_two_tabs_does_not_overwrite_the_first()
    {
        (await Studies.UpdateAsync(Study, new("First", "", "Nell Tarrow", Handedness.Left, []), 1, Stop)).ShouldBeTrue();
        (await Studies.UpdateAsync(Study, new("Second", "", "Nell Tarrow", Handedness.Left, []), 1, Stop)).ShouldBeFalse();
        (await Studies.FindAsync(Study, Stop))!.Name.ShouldBe("First");
    }

    [Fact]
    public async Task A_compared_player_with_a_recording_stays()
    {
        await RecordAsync("Their piece", 32, player: "Oda Finch");
        await Studies.UpdateAsync(Study, new("A study", "", "Nell Tarrow", Handedness.Left, ["Wim Sallow"]), 1, Stop);
        (await Studies.FindAsync(Study, Stop))!.Comparison.Select(p => p.Name).ShouldBe(["Oda Finch", "Wim Sallow"]);
    }

    [Fact]
    public async Task A_deleted_study_hides_all_that_is_in_it_until_it_is_brought_back()
    {
        var passage = await WriteAsync(await RecordAsync("Piece", 32), "SN: 2 4");
        await Studies.DeleteAsync(Study, Stop);
        (await Studies.FindAsync(Study, Stop)).ShouldBeNull();
        (await Passages.FindAsync(passage, Stop)).ShouldBeNull();
        await Studies.RestoreAsync(Study, Stop);
        (await Passages.FindAsync(passage, Stop))!.Text.ShouldBe("SN: 2 4");
    }

    [Fact]
    public async Task A_folder_with_a_bad_row_leaves_nothing_behind()
    {
        var folder = Directory.CreateTempSubdirectory().FullName;
        await File.WriteAllTextAsync(Path.Combine(folder, "study.csv"), "name,subject,handedness,comparison,question\nHalf,Nobody Known,right,,\n", Stop);
        await File.WriteAllTextAsync(
            Path.Combine(folder, "recordings.csv"),
            "title,take,player,ensemble,release,recorded,issued,kind,meter,tempo,duration,bars,searched,closeness,searched_on,note\n"
            + "Good,,Nobody Known,,,1970,,studio,4/4,100,,32,,,,\nBad,,Nobody Known,,,sometime,,studio,4/4,100,,32,,,,\n", Stop);
        var error = await Should.ThrowAsync<InvalidDataException>(() => new StudyFolder(Studies, Recordings, Timelines, Attributions, Passages, Ideas, Sightings, new Lineages(Source), Claims, new(Source), new(Source)).LoadAsync(folder, Stop));
        error.Message.ShouldStartWith("recordings.csv, row 2: ‘sometime’ is no date");
        (await Studies.AllAsync(Stop)).Select(s => s.Name).ShouldBe(["A study"]);
    }
}
