using System.Text.Json;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Words;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>What a checked case says a text gives.</summary>
public static class ExpectedReading
{
    public static void Check(string file, string name, Func<string, CountText> parse)
    {
        var found = Vectors.Named(file, name);
        var expect = found.GetProperty("expect");
        var read = parse(found.GetProperty("text").GetString()!);
        var told = string.Join('\n', read.Problems);

        if (expect.Maybe("meters") is { } meters)
            read.Passage.Meters.Meters.Select(m => m.ToString()).ShouldBe(meters.EnumerateArray().Select(m => m.GetString()));
        if (expect.Maybe("bars") is { } bars) read.Passage.Bars.ShouldBe(bars.GetInt32());
        if (expect.Maybe("tempo") is { } tempo) read.Passage.Tempo!.Value.Value.ShouldBe(tempo.GetDouble(), 1e-9);

        var errors = read.Problems.Where(p => p.Severity == Severity.Error).ToList();
        var expected = expect.GetProperty("errors").EnumerateArray().ToList();
        if (expected.Count == 0)
        {
            errors.ShouldBeEmpty();
            if (expect.Maybe("warnings") is { } warnings) read.Problems.Count.ShouldBe(warnings.GetInt32(), told);
            read.Passage.Strokes.Count.ShouldBe(expect.GetProperty("strokes").GetArrayLength());
            Unheard(read.Passage).ShouldBe(expect.Maybe("unheard") is { } unheard
                ? unheard.EnumerateArray().Select(u => $"{u.GetProperty("bar").GetInt32()} {u.GetProperty("voice").GetString()}").Order()
                    : []);
        }
        if (expect.Maybe("tempos") is { } tempos) read.Passage.Tempos.Select(p => $"{p.At.Value} {p.Tempo.Value}").ShouldBe(Tempos(tempos));
        if (expect.Maybe("levels") is { } levels) read.Passage.Levels.Marks.Select(m =>
            $"{m.At.Value} {string.Join(' ', m.Voices)} {m.Level.Written()} {m.Hairpin}").ShouldBe(Levels(levels));
        foreach (var says in Names(expect, "says")) string.Join(' ', ReadBack.Of(read.Passage)).ShouldContain(says, Case.Insensitive);
        if (expect.Maybe("readBack") is not null) ReadBackSays(read);
        foreach (var error in expected)
            errors.ShouldContain(p => Meets(p, error), $"{error} among\n{told}");
        foreach (var stroke in expect.GetProperty("strokes").EnumerateArray())
            read.Passage.Strokes.ShouldContain(s => Meets(s, read.Passage.LevelOf(s), stroke), $"{stroke}\n{told}");
    }

    /// <summary>What is read back, sent as a text, comes to the same passage.</summary>
    /// <param name="directives">Of the text, besides its meters, its own voices and its pickup.</param>
    public static void ReadBackSays(CountText told, string directives = "")
    {
        var passage = told.Passage;
        var meters = passage.Meters.ToString();
        var spoken = string.Join('\n', ReadBack.Of(told));
        var own = string.Concat(passage.Voices.Where(v => v.Code[0] == 'P')
            .Select(v => $"voice {v.Code} {v.Name}, {v.Family.ToString().ToLowerInvariant()}\n"));
        var school = directives.Length > 0 ? CountSchool.Triplet : CountSchool.Standard;
        var pickup = passage.Pickup > Tick.Zero ? $"pickup {CountNames.Place(passage.Pickup, passage.Meters.MeterOf(0), school)}\n" : "";
        var made = Fixing.Fixed($"meter {meters}\n{directives}{pickup}{own}{spoken}");
        var read = CountLines.Parse(made);
        var written = $"{spoken}\n--\n{made}";
        read.HasErrors.ShouldBeFalse(written);
        read.Passage.Strokes.ShouldBe(passage.Strokes, written);
        read.Passage.Unheard.ShouldBe(passage.Unheard, ignoreOrder: true, written);
        read.Passage.Levels.ShouldBe(passage.Levels, written);
        if (passage.Voices.Any()) read.Passage.Bars.ShouldBe(passage.Bars, written);
    }

    public static void CheckFixed(string file, string name)
    {
        var found = Vectors.Named(file, name);
        var (text, expect) = (found.GetProperty("text").GetString()!, found.GetProperty("expect"));
        var warned = expect.Maybe("warned")?.EnumerateArray().Select(w => (w.GetProperty("line").GetInt32(), w.GetProperty("column")
            .GetInt32()));
        foreach (var error in expect.Maybe("errors")?.EnumerateArray().ToList() ?? [])
            AsTyped.Parse(text).Problems.ShouldContain(p => p.Severity == Severity.Error && Meets(p, error), $"{error}");
        var made = Fixing.Fixed(text, [.. warned ?? []]);
        var read = CountLines.Parse(made);
        read.HasErrors.ShouldBeFalse(made);
        if (expect.Maybe("bars") is { } bars) read.Passage.Bars.ShouldBe(bars.GetInt32(), made);
        if (expect.Maybe("comment") is { } comment)
            made.Split('\n').ShouldContain(l => l.Contains('#') && l.Contains(comment.GetString()!), made);
        Has(read.Passage, expect.GetProperty("fixed"), made);
    }

    public static void CheckOffers(string file, string name)
    {
        var found = Vectors.Named(file, name);
        var (text, expect) = (found.GetProperty("text").GetString()!, found.GetProperty("expect"));
        var problem = AsTyped.Parse(text).Problems.First(p => p.At.Line == expect.GetProperty("line").GetInt32());
        problem.Fixes.Count.ShouldNotBe(1);
        var offered = problem.Fixes.Select(f => CountLines.Parse(Fixing.Put(text, f.Edits))).ToList();
        offered.ShouldAllBe(o => !o.HasErrors);
        foreach (var meant in expect.GetProperty("offers").EnumerateArray())
            offered.ShouldContain(o => o.Passage.Strokes.Count == meant.GetArrayLength()
                && meant.EnumerateArray().All(e => o.Passage.Strokes.Any(s => Meets(s, 0, e))), $"{meant}");
    }

    private static void Has(Passage passage, JsonElement strokes, string text)
    {
        passage.Strokes.Count.ShouldBe(strokes.GetArrayLength(), text);
        foreach (var stroke in strokes.EnumerateArray())
            passage.Strokes.ShouldContain(s => Meets(s, passage.LevelOf(s), stroke), $"{stroke}\n{text}");
    }

    private static IEnumerable<string> Unheard(Passage passage) => passage.Unheard.Select(u => $"{u.Bar + 1} {u.Voice}").Order();

    private static bool Meets(Problem problem, JsonElement error) =>
        (error.Maybe("line") is not { } line || problem.At.Line == line.GetInt32())
        && (error.Maybe("column") is not { } column || Math.Abs(problem.At.Column - column.GetInt32()) <= 2)
        && (error.Maybe("fix") is not { } fix || problem.Fixes.Any(f => f.Edits.Any(e => e.Text == fix.GetString()))
            || problem.Message.Contains(fix.GetString()!));

    private static bool Meets(Stroke stroke, double level, JsonElement expect) =>
        stroke.At.Value == expect.GetProperty("tick").GetInt32()
        && stroke.Voice.Code == expect.GetProperty("voice").GetString()
        && stroke.Dynamic.ToString().ToLowerInvariant() == Word(expect, "dynamic", "normal")
        && stroke.Openness?.ToString().ToLowerInvariant() == Word(expect, "openness", stroke.Voice == Voice.Hat ? "closed" : null)
        && (expect.Maybe("limb") is not { } limb || stroke.Limb == limb.GetString())
        && (expect.Maybe("limb") is null || stroke.SideUnsure == (expect.Maybe("limbUnsure")?.GetBoolean() ?? false))
        && stroke.Length?.Value == expect.Maybe("length")?.GetInt32()
        && stroke.Unsure == (expect.Maybe("unsure")?.GetBoolean() ?? false)
        && stroke.Optional == (expect.Maybe("optional")?.GetBoolean() ?? false)
        && Names(expect, "ornaments").SequenceEqual(Enum.GetValues<Ornaments>()
            .Where(o => o != Ornaments.None && stroke.Ornaments.HasFlag(o)).Select(o => o.ToString().ToLowerInvariant()))
        && stroke.Echo == (expect.Maybe("echo")?.GetBoolean() ?? false)
        && stroke.Grace?.Code == expect.Maybe("grace")?.GetString()
        && stroke.OrnamentUnsure == (expect.Maybe("ornamentUnsure")?.GetBoolean() ?? false)
        && Math.Abs(level - (expect.Maybe("level")?.GetDouble() ?? 0)) < 1e-4
        && Names(expect, "notes").SequenceEqual(stroke.Notes);

    private static IEnumerable<string> Tempos(JsonElement tempos) =>
        tempos.EnumerateArray().Select(t => $"{t.GetProperty("tick").GetInt32()} {t.GetProperty("bpm").GetDouble()}");

    private static IEnumerable<string> Levels(JsonElement levels) => levels.EnumerateArray().Select(l =>
        $"{l.GetProperty("tick").GetInt32()} {string.Join(' ', Names(l, "voices"))} {l.GetProperty("level").GetString()} "
            + $"{l.Maybe("hairpin")?.GetBoolean() ?? false}");

    private static string? Word(JsonElement expect, string name, string? otherwise) => expect.Maybe(name)?.GetString() ?? otherwise;

    private static IEnumerable<string> Names(JsonElement expect, string name) =>
        expect.Maybe(name) is { } list ? list.EnumerateArray().Select(o => o.GetString()!) : [];
}
