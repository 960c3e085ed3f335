using System.Globalization;
using CsvHelper;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Practice;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Storage.Exchange;

/// <summary>A study as files that people can read: tables as CSV, each passage a text of count lines.</summary>
/// <remarks>
/// study.csv, recordings.csv, forms.csv with form line and bar marks, issues.csv, passages.csv with a file of passages/ in each row,
/// readings.csv for those heard in a second way (one bar of text a
/// row, its lines divided by |), ideas.csv, lineage.csv (idea from idea, or from whom it was borrowed), judgements.csv, claims.csv,
/// sources.csv (what is cited
/// besides recordings), article.md (its first line is the title), practice.csv. Every value goes through the same
/// readers as what is typed into a page.
/// </remarks>
public sealed class StudyFolder(StudyStore studies, RecordingStore recordings, TimelineStore timelines, AttributionStore attributions,
    PassageStore passages, IdeaStore ideas, SightingStore sightings, LineageStore lineages, ClaimStore claims, ArticleStore articles,
    PracticeStore practice)
{
    /// <summary>Makes a new study out of a folder; when a row cannot be read nothing of it stays.</summary>
    /// <exception cref="InvalidDataException">A row cannot be read; the message names file, row and reason.</exception>
    public async Task<StudyId> LoadAsync(string folder, CancellationToken stop)
    {
        var (head, _) = Rows(folder, "study.csv").Single();
        var id = await studies.BeginAsync(
            new(head["name"], head["question"], head["subject"], Enum.Parse<Handedness>(head["handedness"], true),
                head["comparison"].Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)), stop);
        try
        {
            await FillAsync(id, folder, stop);
            await studies.FinishAsync(id, stop);
        }
        catch
        {
            await studies.PurgeAsync(id, CancellationToken.None);
            throw;
        }
        return id;
    }

    private async Task FillAsync(StudyId id, string folder, CancellationToken stop)
    {
        var study = (await studies.FindAsync(id, stop))!;
        var recordingOf = new Dictionary<(string, string), RecordingId>();
        foreach (var (row, where) in Rows(folder, "recordings.csv"))
        {
            var text = Recording(row);
            void Tell(string field, string message) => throw Bad(where, message);
            recordingOf[(row["title"], row["take"])] = await recordings.AddAsync(id, text.Read(study, Tell)!,
                text.ReadSearched(default, Tell), stop);
        }

        foreach (var (row, where) in Rows(folder, "forms.csv"))
        {
            if (!recordingOf.TryGetValue((row["title"], row["take"]), out var recording)) throw Bad(where,
                $"there is no recording {row["title"]}, {row["take"]}");
            await timelines.SaveFormAsync(recording, row["form"], 1, stop);
            await timelines.SaveMarksAsync(recording, BarMarks.Read(row["marks"], message => throw Bad(where, message))!, 2, stop);
        }
        foreach (var (row, where) in Rows(folder, "issues.csv"))
        {
            if (!recordingOf.TryGetValue((row["title"], row["take"]), out var recording)) throw Bad(where,
                $"there is no recording {row["title"]}, {row["take"]}");
            await attributions.AddIssueAsync(recording, IssueText.Read(row["label"], row["number"], row["transfer"], row["issued"],
                row["speed"], row["offset"], row["note"], (_, message) => throw Bad(where, message))!, stop);
        }

        var written = new Dictionary<string, (PassageId Id, Passage Passage)>();
        foreach (var (row, where) in Rows(folder, "passages.csv"))
        {
            if (!recordingOf.TryGetValue((row["title"], row["take"]), out var recording)) throw Bad(where,
                $"there is no recording {row["title"]}, {row["take"]}");
            var text = await File.ReadAllTextAsync(Path.Combine(folder, "passages", Path.GetFileName(row["file"])), stop);
            var read = CountLines.Parse(text);
            if (read.Problems.FirstOrDefault() is { } problem) throw Bad(row["file"], $"line {problem.At.Line}: {problem.Message}");
            written[row["file"]] = (await passages.AddAsync(recording, Passage(row, where, text, read.Passage.Bars), stop),
                read.Passage with { Looped = row["repeats"] == "yes" });
        }

        foreach (var (row, where) in Rows(folder, "readings.csv"))
        {
            if (!written.TryGetValue(row["file"], out var passage)) throw Bad(where, $"there is no passage {row["file"]}");
            var text = row["text"].Replace("|", "\n");
            if (CountLines.Parse(text) is var read && read.Problems.FirstOrDefault() is { } problem) throw Bad(where,
                $"line {problem.At.Line}: {problem.Message}");
            await passages.AddReadingAsync(passage.Id, text, read.Passage.Bars, row["source"], "likely", row["note"], stop);
        }

        var ideaOf = new Dictionary<string, IdeaId>();
        foreach (var (row, where) in Rows(folder, "ideas.csv"))
            ideaOf[row["nickname"]] = await ideas.AddAsync(id, Idea(row, where, written), stop)
                ?? throw Bad(where, "two ideas have this nickname");
        foreach (var (row, where) in Rows(folder, "lineage.csv"))
            await DescendAsync(row, where, ideaOf, stop);
        foreach (var (row, where) in Rows(folder, "judgements.csv"))
            await JudgeAsync(row, where, ideaOf, written, stop);
        var named = await ideas.OfStudyAsync(id, stop);
        foreach (var (row, where) in Rows(folder, "claims.csv"))
        {
            string Numbered(IEnumerable<(string Name, string Id)> all, string name) =>
                name.Length == 0 ? "" : all.FirstOrDefault(x => x.Name == name).Id ?? throw Bad(where, $"there is no {name}");
            var players = study.Players.Select(p => (p.Name, $"{p.Id}")).ToList();
            var text = new ClaimText
            {
                Sentence = row["claim"],
                Test = row["test"],
                Player = Numbered(players, row["player"]),
                Idea = Numbered(named.Select(i => (i.Nickname, $"{i.Id}")), row["idea"]),
                Other = Numbered(players, row["other"]),
                Least = row["least"],
                Kind = row["kind"],
                Tempo = row["tempo"],
                Section = row["section"],
                Bar = row["bar"],
                Date = row["date"],
                Voice = row["voice"],
                Place = row["place"],
                Trait = row["trait"],
                Note = row["note"],
            };
            var read = text.Read(study, named, (_, message) => throw Bad(where, message))!.Value;
            await claims.AddAsync(id, read.Sentence, read.Test, read.Note, stop);
        }
        foreach (var (row, where) in Rows(folder, "practice.csv"))
        {
            var idea = named.FirstOrDefault(i => i.Nickname == row["idea"]);
            var figure = idea is not null ? CountLines.Parse(idea.Text).Passage : Core.Hands.Rudiment.Find(row["rudiment"])?.AsPassage()
                ?? throw Bad(where, "there is no such idea or rudiment");
            await practice.AddAsync(id, idea?.Nickname ?? row["rudiment"], figure, figure.Tempo ?? Bpm.Usual, Number(row["minutes"], where)
                ?? 10, idea?.Id, null, stop);
        }
        foreach (var (row, _) in Rows(folder, "sources.csv")) await articles.SaveSourceAsync(id, row["key"], row["text"], stop);
        var prose = (await File.ReadAllTextAsync(Path.Combine(folder, "article.md"), stop)).ReplaceLineEndings("\n").Split('\n', 2);
        await articles.SaveAsync(Article.Empty(id) with { Title = prose[0].TrimStart('#', ' '), Text = prose[^1].Trim() }, stop);
    }

    private async Task DescendAsync(Row row, string where, Dictionary<string, IdeaId> ideaOf, CancellationToken stop)
    {
        if (!ideaOf.TryGetValue(row["idea"], out var idea)) throw Bad(where, $"there is no idea {row["idea"]}");
        if (row["who"].Length > 0) await lineages.BorrowAsync(idea, row["who"], Typed.Date(row["dated"], why => throw Bad(where, why)),
            row["note"], stop);
        else if (!ideaOf.TryGetValue(row["of"], out var of) || !Lineage.Kinds.Contains(row["kind"])
            || !await lineages.LinkAsync(idea, of, row["kind"], stop)) throw Bad(where, "this link cannot be");
    }

    private async Task JudgeAsync(Row row, string where, Dictionary<string, IdeaId> ideaOf, Dictionary<string,
        (PassageId Id, Passage Passage)> written, CancellationToken stop)
    {
        if (!ideaOf.TryGetValue(row["idea"], out var idea) || !written.TryGetValue(row["file"], out var passage)) throw Bad(where,
            "no such idea or passage");
        if (Excerpt.Place(passage.Passage, row["place"]) is not { } start) throw Bad(where, $"the passage has no place {row["place"]}");
        var found = (await sightings.OfPassageAsync(passage.Id, stop)).SingleOrDefault(s => s.IdeaId == idea && s.StartTick == start.Value)
            ?? throw Bad(where, $"{row["idea"]} is not found at {row["place"]} of {row["file"]}");
        Judgement judgement = row["judgement"] switch
        {
            "confirmed" => Judgement.Confirmed,
            "near-miss" => Judgement.NearMiss,
            "rejected" => Judgement.Rejected,
            var other => throw Bad(where, $"‘{other}’ is no judgement"),
        };
        await sightings.JudgeAsync(found.Id, found.Version, judgement, row["reason"], stop);
    }

    private static RecordingText Recording(Row row) => new()
    {
        Title = row["title"],
        Take = row["take"],
        Player = row["player"],
        Ensemble = row["ensemble"],
        Release = row["release"],
        Recorded = row["recorded"],
        Issued = row["issued"],
        Kind = row["kind"],
        Meter = row["meter"],
        Tempo = row["tempo"],
        Duration = row["duration"],
        TotalBars = row["bars"],
        Searched = row["searched"],
        Closeness = row["closeness"],
        SearchedOn = row["searched_on"],
        Note = row["note"],
    };

    private static PassageDraft Passage(Row row, string where, string text, int bars) => new()
    {
        Text = text,
        Bars = bars,
        StartsAt = ClockTime.Parse(row["at"]) ?? throw Bad(where, $"‘{row["at"]}’ is no time"),
        Bar = Number(row["bar"], where),
        Section = row["section"],
        Kind = OneOf<PassageKind>.Find(row["kind"]) ?? throw Bad(where, $"‘{row["kind"]}’ is no kind"),
        Looped = row["repeats"] == "yes",
        BecauseHeard = row["because_heard"] == "yes",
        Note = row["note"],
    };

    private static IdeaDraft Idea(Row row, string where, Dictionary<string, (PassageId Id, Passage Passage)> written)
    {
        if (!written.TryGetValue(row["file"], out var source)) throw Bad(where, $"there is no passage {row["file"]}");
        var whole = source.Passage;
        var end = row["to"] == "end" ? whole.Length : Excerpt.Place(whole, row["to"]);
        if (Excerpt.Place(whole, row["from"]) is not { } from || end is not { } to || to <= from) throw Bad(where,
            "the span is not in the passage");
        string[]? scope = row["scope"].Length == 0 ? null : row["scope"].Split(' ');
        var strokes = whole.Strokes.Where(s => s.At >= from && s.At < to && (scope is null || scope.Contains(s.Voice.Code))).ToList();
        if (strokes.Count == 0) throw Bad(where, "no stroke of its scope is in the span");
        return new()
        {
            Nickname = row["nickname"],
            Note = row["note"],
            Sounds = row["sounds"],
            Tags = row["tags"].Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries),
            Text = CountWriter.Write(Excerpt.Cut(whole with { Strokes = [.. strokes] }, from, to)),
            Span = to - strokes[0].At,
            Scope = scope,
            NamedOn = Day(row["named_on"], where),
            Rules = new()
            {
                Facets = new()
                {
                    Voicing = IdeaWords.Read<VoicingRule>(row["voicing"]) ?? throw Bad(where, $"‘{row["voicing"]}’ is no voicing"),
                    Openness = IdeaWords.Read<FacetRule>(row["openness"]) ?? throw Bad(where, $"‘{row["openness"]}’ is no rule"),
                    Dynamics = IdeaWords.Read<FacetRule>(row["dynamics"]) ?? throw Bad(where, $"‘{row["dynamics"]}’ is no rule"),
                },
                Placement = IdeaWords.Read<PlacementRule>(row["placement"]) ?? throw Bad(where, $"‘{row["placement"]}’ is no placement"),
                Ghosts = IdeaWords.Read<GhostRule>(row["ghosts"]) ?? throw Bad(where, $"‘{row["ghosts"]}’ is no rule for ghosts"),
            },
        };
    }

    private static int? Number(string text, string where) =>
        text.Length == 0 ? null : int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n
            : throw Bad(where, $"‘{text}’ is no number");

    private static DateOnly Day(string text, string where) =>
        DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day
            : throw Bad(where, $"‘{text}’ is no day");

    private static List<(Row Row, string Where)> Rows(string folder, string file)
    {
        using var csv = CsvReader.FromFile(Path.Combine(folder, file));
        var rows = new List<(Row, string)>();
        while (csv.Read())
            rows.Add((new(file, csv.Headers.Select((header, i) => (header, value: csv.GetString(i).Trim()))
                .ToDictionary(f => f.header, f => f.value)), $"{file}, row {csv.RowNumber}"));
        return rows;
    }

    private static InvalidDataException Bad(string where, string why) => new($"{where}: {why.TrimEnd('.')}.");

    private sealed class Row(string file, Dictionary<string, string> values)
    {
        public string this[string column] => values.TryGetValue(column, out var value) ? value
            : throw new InvalidDataException($"{file} has no column {column}.");
    }
}
