using System.Globalization;
using System.Text.Json;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>The fields of a passage as typed.</summary>
public sealed class PassageInput
{
    public string? Text { get; set; } = "";
    /// <summary>The text as it was when the page was opened: what a merge starts from.</summary>
    public string? Began { get; set; }
    /// <summary>What stood in the field before another text was put there: a way back.</summary>
    public string? Before { get; set; }
    public string? StartsAt { get; set; }
    public string? Bar { get; set; }
    public string? Section { get; set; }
    public string? Kind { get; set; } = PassageKind.Groove.Word;
    public bool Looped { get; set; }
    public bool BecauseHeard { get; set; }
    public string? HeardFrom { get; set; } = "ear";
    public string? Confidence { get; set; } = "likely";
    public string? Note { get; set; }
    public int Version { get; set; }

    /// <summary>1:32.410 · bar 41 · verse 2 · groove</summary>
    public string PlaceInWords => string.Join(" · ", new[] { StartsAt, Bar is { Length: > 0 } bar ? $"bar {bar}" : "", Section, Kind }
        .Where(part => !string.IsNullOrWhiteSpace(part)));

    /// <summary>How early or late what was tapped in lay: tick, code of a voice, milliseconds and loudness of each stroke, as JSON.
    /// </summary>
    public string? Played { get; set; }

    /// <summary>What was tapped and still stands in a text.</summary>
    public IReadOnlyList<StrokeOffset> PlayedIn(Passage passage)
    {
        if (Played is not { Length: > 0 and <= MostText } told) return [];
        var written = passage.Strokes.Select(s => (s.At, s.Voice)).ToHashSet();
        try
        {
            return [.. JsonSerializer.Deserialize<List<List<JsonElement>>>(told)!
                .Where(o => o.Take(3).Select(e => e.ValueKind).SequenceEqual(
                    [JsonValueKind.Number, JsonValueKind.String, JsonValueKind.Number]))
                .Select(o => (At: o[0].TryGetInt32(out var tick) ? tick : -1, Voice: Voice.Find(o[1].GetString()!), Ms: o[2].GetDouble(),
                    Loud: o.Count > 3 && o[3].ValueKind == JsonValueKind.Number ? o[3].GetDouble() : default(double?)))
                .Where(o => o.Voice is not null && Math.Abs(o.Ms) <= 500 && (o.Loud is null or (>= 0 and <= 1))
                    && written.Contains((new(o.At), o.Voice!)))
                .Select(o => new StrokeOffset(new(o.At), o.Voice!, o.Ms, Loudness: o.Loud)).DistinctBy(o => (o.At, o.Voice))];
        }
        catch (JsonException)
        {
            return [];
        }
    }

    public static PassageInput Of(PassageRow passage) => new()
    {
        Text = passage.Text,
        Began = passage.Text,
        StartsAt = passage.StartsAt?.ToString(),
        Bar = passage.Bar?.ToString(CultureInfo.InvariantCulture),
        Section = passage.Section,
        Kind = passage.Kind.Word,
        Looped = passage.Looped,
        BecauseHeard = passage.BecauseHeard,
        HeardFrom = passage.Source,
        Confidence = passage.Confidence,
        Note = passage.Note,
        Version = passage.Version,
    };

    /// <summary>
    /// Nothing, with the problems told, where a field cannot be read. Faults in the count lines do not stand in the way:
    /// the text is kept as typed and its good lines count.
    /// </summary>
    /// <param name="chart">The printed one beside the recording, if there is one: a bar can be told by it.</param>
    public PassageDraft? Read(ModelStateDictionary problems, Chart? chart = null)
    {
        var text = (Text ?? "").Replace("\r\n", "\n");
        if (Typed.HasUnkeepable(text)) problems.AddModelError("Input.Text", Typed.Unkeepable);
        if (text.Length > 4 * MostText) problems.AddModelError("Input.Text",
            "The text is too long to keep: split it into several passages.");
        var draft = new PassageDraft
        {
            Text = text,
            Bars = CountLines.Parse(text).Passage.Bars,
            StartsAt = Typed.Span(StartsAt, message => problems.AddModelError("Input.StartsAt", message))?.At,
            Bar = Chart.BarTyped(Bar, chart, message => problems.AddModelError("Input.Bar", message)),
            Section = problems.Text("Input.Section", Section),
            Kind = problems.Choice<PassageKind>("Input.Kind", Kind),
            Looped = Looped,
            BecauseHeard = BecauseHeard,
            HeardFrom = problems.Choice("Input.HeardFrom", HeardFrom, PassageDraft.Sources),
            Confidence = problems.Choice("Input.Confidence", Confidence, PassageDraft.Confidences),
            Note = problems.Text("Input.Note", Note, most: UploadLimits.Note),
        };
        return problems.IsValid ? draft : null;
    }

    /// <summary>A doubt where a passage would lie after the recording's end; empty where there is none.</summary>
    public static string Beyond(PassageDraft draft, Recording? recording) =>
        recording?.Duration is { } end && draft.StartsAt is { } at && at > end
            ? $" It begins at {at}, and the recording is said to end at {end}: is one of the two mistyped?"
        : recording?.TotalBars is { } bars && draft.Bar is { } bar && bar > bars
            ? $" It begins in bar {bar}, and the recording is said to have {bars}: is one of the two mistyped?" : "";

    /// <summary>Puts the count lines of a drum tab in its place; false, with the problems told, where it is none.</summary>
    public bool ReadTab(ModelStateDictionary problems)
    {
        var read = DrumTab.Parse((Text ?? "").ReplaceLineEndings("\n"));
        foreach (var problem in read.Problems) problems.AddModelError("Input.Text",
            $"Line {problem.At.Line}, column {problem.At.Column}: {problem.Message}");
        if (read.Passage.Bars == 0 && read.Problems.Count == 0) problems.AddModelError("Input.Text",
            "There is no drum-tab text here: write a line a voice, such as HH|x-x-x-x-|.");
        if (!problems.IsValid) return false;
        Replace(problems, CountWriter.Write(read.Passage, read.Title));
        return true;
    }

    /// <summary>Puts the count lines in their place as they lie on other toms; false, with the problem told, where that cannot
    /// be.</summary>
    public bool ReadToms(ModelStateDictionary problems, string? toms)
    {
        var text = (Text ?? "").ReplaceLineEndings("\n");
        if (Api.EditApi.TomsOf(toms) is not { } kit) problems.AddModelError("Input.Text",
            "Say 1 to 4 toms, or codes from high to low such as T1 FT.");
        else
        {
            var result = Rewriting.Put(text, Core.Music.Kit.Remap(CountLines.Parse(text).Passage, kit), dropSilent: true);
            if (result.Why is { } why) problems.AddModelError("Input.Text", why);
            else Replace(problems, result.Text!);
        }
        return problems.IsValid;
    }

    /// <summary>Puts another text into the field; what stood there can be put back.</summary>
    public void Replace(ModelStateDictionary problems, string text)
    {
        foreach (var field in (string[])["Input.Text", "Input.Before"]) problems.Remove(field);
        (Before, Text) = (string.IsNullOrWhiteSpace(Text) ? null : Text, text);
    }

    public void PutBack(ModelStateDictionary problems) => Replace(problems, Before ?? Text ?? "");

    private const int MostText = 64 * 1024;
}
