using Dapper;
using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Studies;
using Npgsql;

namespace InnerCadence.Storage.Claims;

/// <summary>A claim as it was made.</summary>
public sealed record ClaimRow(ClaimId Id, StudyId StudyId, string Sentence, ClaimTest Test, string Note, int Version);

/// <summary>One change in how a claim stands.</summary>
public sealed record StandingRow
{
    public DateTime At { get; init; }
    public string Standing { get; init; } = "";
    public string Figures { get; init; } = "";
    public string Reason { get; init; } = "";
    public string Cause { get; init; } = "";
}

/// <summary>A claim and how it stands now.</summary>
/// <param name="Cautious">How it stands without what is unsure or unheard.</param>
public sealed record StandingClaim(ClaimRow Claim, Stand Stand, Stand Cautious);

/// <summary>The claims of a study, and the history of how they stood.</summary>
public sealed class ClaimStore(NpgsqlDataSource source, StudyMaterial material, KeptReady kept)
{
    public ClaimStore(NpgsqlDataSource source, StudyMaterial material) : this(source, material, new(source)) { }

    private const string Columns =
        """
        select id, study_id, sentence, test, player_id, idea_id, other_id, least, tempo, kind, section, phrase_bar, phrase_of, dated_from,
          dated_to, voice, meter, at_tick, trait, note, against, late_ms, version
        from claim
        """;

    /// <summary>The sentence of a claim that cannot be tested as it is kept, such as one that came from elsewhere; nothing where all
    /// can.</summary>
    internal static async Task<string?> UnreadableAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, StudyId study,
        CancellationToken stop)
    {
        foreach (var kept in await connection.QueryAsync<Kept>(new($"{Columns} where study_id = @study", new { study }, transaction,
            cancellationToken: stop)))
        {
            try
            {
                _ = kept.AsClaim();
            }
            catch (InvalidOperationException)
            {
                return kept.Sentence;
            }
        }
        return null;
    }

    /// <summary>In the order in which they were made.</summary>
    public async Task<IReadOnlyList<ClaimRow>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return [.. (await connection.QueryAsync<Kept>(new($"{Columns} where study_id = @study and deleted_at is null order by id",
            new { study }, cancellationToken: stop))).Select(k => k.AsClaim())];
    }

    public async Task<ClaimRow?> FindAsync(ClaimId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QuerySingleOrDefaultAsync<Kept>(new($"{Columns} where id = @id and deleted_at is null", new { id },
            cancellationToken: stop)))?.AsClaim();
    }

    public async Task<ClaimId> AddAsync(StudyId study, string sentence, ClaimTest test, string note, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return new(await connection.ExecuteScalarAsync<long>(new(
            """
            insert into claim (study_id, sentence, test, player_id, idea_id, other_id, least, tempo, kind, section, phrase_bar, phrase_of,
              dated_from, dated_to, voice, meter, at_tick, trait, note, against, late_ms)
            values (@StudyId, @Sentence, @Test, @PlayerId, @IdeaId, @OtherId, @Least, @Tempo, @Kind, @Section, @PhraseBar, @PhraseOf,
              @DatedFrom, @DatedTo, @Voice, @Meter, @AtTick, @Trait, @Note, @Against, @LateMs)
            returning id
            """, Kept.Of(new(default, study, sentence, test, note, 1)), cancellationToken: stop)));
    }

    /// <summary>False where another tab saved since that version was read.</summary>
    public async Task<bool> SaveAsync(ClaimRow claim, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteAsync(new(
            """
            update claim set sentence = @Sentence, test = @Test, player_id = @PlayerId, idea_id = @IdeaId, other_id = @OtherId,
              least = @Least, tempo = @Tempo, kind = @Kind, section = @Section,
              phrase_bar = @PhraseBar, phrase_of = @PhraseOf, dated_from = @DatedFrom, dated_to = @DatedTo, voice = @Voice, meter = @Meter,
                at_tick = @AtTick, trait = @Trait, note = @Note, against = @Against, late_ms = @LateMs, version = version + 1
            where id = @Id and version = @Version and deleted_at is null
            """, Kept.Of(claim), cancellationToken: stop)) == 1;
    }

    public Task DeleteAsync(ClaimId id, CancellationToken stop) =>
        MarkAsync("update claim set deleted_at = now() where id = @id", id, stop);

    public Task RestoreAsync(ClaimId id, CancellationToken stop) =>
        MarkAsync("update claim set deleted_at = null where id = @id", id, stop);

    private async Task MarkAsync(string sql, ClaimId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(sql, new { id }, cancellationToken: stop));
    }

    /// <summary>Newest first, with how it stands now on top where that is not kept yet.</summary>
    public async Task<IReadOnlyList<StandingRow>> HistoryAsync(ClaimId id, Stand now, CancellationToken stop)
    {
        var kept = await HistoryAsync(id, stop);
        var standing = now.Standing.ToString().ToLowerInvariant();
        return kept.Count > 0 && kept[0].Standing == standing ? kept
            : [new() { At = DateTime.UtcNow, Standing = standing, Figures = now.Figures, Reason = now.Reason, Cause = kept.Count == 0
                ? "the claim was made" : now.CauseAfter(kept[0].Figures) }, .. kept];
    }

    /// <summary>Newest first.</summary>
    public async Task<IReadOnlyList<StandingRow>> HistoryAsync(ClaimId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<StandingRow>(
            new("select at, standing, figures, reason, cause from claim_standing where claim_id = @id order by id desc limit 200",
            new { id }, cancellationToken: stop))).AsList();
    }

    /// <summary>How every claim of a study stands now; nothing is written.</summary>
    public Task<IReadOnlyList<StandingClaim>> StandAsync(Study study, CancellationToken stop) =>
        kept.OfAsync<IReadOnlyList<StandingClaim>>(study.Id, async s =>
    {
        var all = await OfStudyAsync(study.Id, s);
        if (all.Count == 0) return [];
        var (_, plain, cautious) = await material.WithCautiousAsync(study, s);
        return [.. all.Select(claim => new StandingClaim(claim, Standings.Of(claim.Test, plain), Standings.Of(claim.Test, cautious)))];
    }, all => all.Count, stop);

    /// <summary>Claims that the evidence would carry and nobody has made.</summary>
    public Task<IReadOnlyList<Suggestion>> SuggestedAsync(Study study, CancellationToken stop) =>
        kept.OfAsync<IReadOnlyList<Suggestion>>(study.Id, async s =>
    {
        var made = (await StandAsync(study, s)).Select(c => c.Claim.Test);
        return [.. Suggestions.Of((await material.WithCautiousAsync(study, s)).Plain, study.Subject.Id.Value,
            [.. study.Comparison.Select(p => p.Id.Value)], made)];
    }, all => all.Count, stop);

    /// <summary>Holds the claims of a study against what is known now; a standing that is not the last one kept is added to its history
    /// with its cause.</summary>
    public async Task WeighAsync(Study study, CancellationToken stop)
    {
        var stands = await StandAsync(study, stop);
        if (stands.Count == 0) return;
        await using var connection = await source.OpenConnectionAsync(stop);
        var anew = await RecountStore.IsDueAsync(connection, study.Id, stop);
        foreach (var (claim, stand, _) in stands) await LogAsync(connection, claim, stand, anew, stop);
    }

    /// <summary>The studies that have claims.</summary>
    public async Task<IReadOnlyList<StudyId>> StudiesAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<StudyId>(new(
            "select distinct c.study_id from claim c join study s on s.id = c.study_id and s.deleted_at is null where c.deleted_at is "
            + "null order by c.study_id", cancellationToken: stop))).AsList();
    }

    /// <summary>Two readers that see the same change log it once.</summary>
    /// <param name="anew">What is kept was counted by an earlier account: that is the cause, also where only the numbers moved.</param>
    private static async Task LogAsync(NpgsqlConnection connection, ClaimRow row, Stand stand, bool anew, CancellationToken stop)
    {
        var claim = row.Id;
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new("select 1 from claim where id = @claim for update", new { claim }, transaction,
            cancellationToken: stop));
        var last = await connection.QuerySingleOrDefaultAsync<StandingRow>(new(
            "select at, standing, figures, reason, cause from claim_standing where claim_id = @claim order by id desc limit 1",
                new { claim }, transaction, cancellationToken: stop));
        var standing = stand.Standing.ToString().ToLowerInvariant();
        if (last?.Standing != standing || (anew && last.Figures != stand.Figures))
        {
            var cause = last is null ? "the claim was made" : anew ? RecountStore.Cause : stand.CauseAfter(last.Figures);
            if (last is not null && anew) await RecountStore.TellAsync(connection, transaction, row.StudyId,
                new(row.Sentence, $"/claims/{claim}", $"{last.Standing}: {last.Figures}", $"{standing}: {stand.Figures}"), stop);
            await connection.ExecuteAsync(new(
                "insert into claim_standing (claim_id, standing, figures, reason, cause) values (@claim, @standing, @Figures, @Reason, "
                    + "@cause)",
                new { claim, standing, stand.Figures, stand.Reason, cause }, transaction, cancellationToken: stop));
        }
        else if (last.Figures != stand.Figures)
        {
            // The standing is the same; the numbers it is told with are those of today, so that the next change is told against them.
            await connection.ExecuteAsync(new(
                "update claim_standing set figures = @Figures, reason = @Reason where id = (select max(id) from claim_standing where "
                    + "claim_id = @claim)",
                new { claim, stand.Figures, stand.Reason }, transaction, cancellationToken: stop));
        }
        await transaction.CommitAsync(stop);
    }

    /// <summary>A claim as its columns.</summary>
    private sealed record Kept
    {
        public ClaimId Id { get; init; }
        public StudyId StudyId { get; init; }
        public string Sentence { get; init; } = "";
        public string Test { get; init; } = "";
        public PlayerId PlayerId { get; init; }
        public IdeaId? IdeaId { get; init; }
        public PlayerId? OtherId { get; init; }
        public double? Least { get; init; }
        public double? Tempo { get; init; }
        public string Kind { get; init; } = "";
        public string Section { get; init; } = "";
        public int? PhraseBar { get; init; }
        public int? PhraseOf { get; init; }
        public DateOnly? DatedFrom { get; init; }
        public DateOnly? DatedTo { get; init; }
        public string Voice { get; init; } = "";
        public string Meter { get; init; } = "";
        public int? AtTick { get; init; }
        public string Trait { get; init; } = "";
        public string Against { get; init; } = "";
        public double? LateMs { get; init; }
        public string Note { get; init; } = "";
        public int Version { get; init; }

        public static Kept Of(ClaimRow claim)
        {
            var kept = new Kept
            {
                Id = claim.Id,
                StudyId = claim.StudyId,
                Sentence = claim.Sentence,
                Test = claim.Test.Word,
                PlayerId = new(claim.Test.Player),
                Note = claim.Note,
                Version = claim.Version
            };
            if (claim.Test is IdeaClaim of) kept = kept with { IdeaId = new(of.Idea) };
            return claim.Test switch
            {
                PresentIn t => kept with { Least = t.Share, Kind = t.Kind?.Word ?? "" },
                RateAtLeast t => kept with { Least = t.Per100 },
                OnlyTempo t => kept with { Tempo = t.Tempo },
                OnlyInSection t => kept with { Section = t.Section },
                OnlyInPhraseBar t => kept with { PhraseBar = t.Bar, PhraseOf = t.Of },
                NeverBefore t => kept with { DatedFrom = t.Date.Earliest, DatedTo = t.Date.Latest },
                MoreThan t => kept with { OtherId = new(t.Other) },
                HadItFirst t => kept with { OtherId = new(t.Other) },
                VoiceAt t => kept with { Voice = t.Voice.Code, Meter = t.Meter.ToString(), AtTick = t.At.Value, Least = t.Share },
                TraitIn t => kept with { Trait = t.Habit.Word, Least = t.Share },
                LateBy t => kept with { Voice = t.Voice.Code, Against = t.Against.Code, LateMs = t.Milliseconds, Least = t.Share },
                _ => throw new ArgumentOutOfRangeException(nameof(claim)),
            };
        }

        public ClaimRow AsClaim()
        {
            var (player, idea, other) = (PlayerId.Value, IdeaId?.Value ?? 0, OtherId?.Value ?? 0);
            ClaimTest test = Test switch
            {
                "present" => new PresentIn(player, idea, Least!.Value, OneOf<RecordingKind>.Find(Kind)),
                "rate" => new RateAtLeast(player, idea, Least!.Value),
                "only-above" or "only-below" => new OnlyTempo(player, idea, Tempo!.Value, Test == "only-above"),
                "only-section" => new OnlyInSection(player, idea, Section),
                "only-phrase-bar" => new OnlyInPhraseBar(player, idea, PhraseBar!.Value, PhraseOf!.Value),
                "never-before" => new NeverBefore(player, idea, new(DatedFrom!.Value, DatedTo!.Value)),
                "more-than" => new MoreThan(player, idea, other),
                "first" => new HadItFirst(player, idea, other),
                "voice" => new VoiceAt(player, Core.Music.Voice.Find(Voice) ?? throw Unreadable(), Core.Music.Meter.Parse(Meter)
                    ?? throw Unreadable(), new(AtTick!.Value), Least!.Value),
                "trait" => new TraitIn(player, Habit.Find(Trait) ?? throw Unreadable(), Least!.Value),
                "late" => new LateBy(player, Core.Music.Voice.Find(Voice) ?? throw Unreadable(), Core.Music.Voice.Find(Against)
                    ?? throw Unreadable(),
                    LateMs!.Value, Least!.Value),
                _ => throw Unreadable(),
            };
            return new(Id, StudyId, Sentence, test, Note, Version);
        }

        private InvalidOperationException Unreadable() => new($"Claim {Id} does not say what its test {Test} needs.");
    }
}
