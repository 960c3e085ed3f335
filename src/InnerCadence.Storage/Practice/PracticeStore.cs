using Dapper;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;
using InnerCadence.Core.Practice;
using InnerCadence.Storage.Passages;
using Npgsql;

namespace InnerCadence.Storage.Practice;

/// <summary>Something to practise, and how far it got.</summary>
public sealed record PracticeItem
{
    public PracticeId Id { get; init; }
    public StudyId StudyId { get; init; }
    public IdeaId? IdeaId { get; init; }
    public PassageId? PassageId { get; init; }
    public string Name { get; init; } = "";
    /// <summary>Count lines without a tempo.</summary>
    public string Text { get; init; } = "";
    public double Goal { get; init; }
    public double Start { get; init; }
    public int Minutes { get; init; }
    public int Rung { get; init; }
    public int Clean { get; init; }
    public int Failed { get; init; }
    public bool Stopped { get; init; }
    public DateOnly DueOn { get; init; }
    public int? DueAfter { get; init; }
    /// <summary>Fastest clean round so far.</summary>
    public double? Best { get; init; }

    public Ladder Ladder => new(Start, Goal, Rung, Clean, Failed, Stopped);
    public Due Due => new(DueOn, DueAfter);
    public Passage Passage => WrittenPassages.Read(Text);
}

/// <summary>One round, or a report of pain.</summary>
public sealed record PracticeEntry(Guid Key, double Tempo, string? Outcome, int? Pain, string Note);

/// <summary>Items, their log, their due dates, and what the log says about hands and feet.</summary>
public sealed class PracticeStore(NpgsqlDataSource source)
{
    private const string Columns =
        """
        select p.id, p.study_id, p.idea_id, p.passage_id, p.name, p.text, p.goal, p.start, p.minutes, p.rung, p.clean, p.failed, p.stopped,
          p.due_on, p.due_after,
               (select max(l.tempo) from practice_log l where l.item_id = p.id and l.outcome = 'clean') as best
        from practice_item p join study s on s.id = p.study_id and s.deleted_at is null
        """;

    /// <summary>What is due longest comes first.</summary>
    public async Task<IReadOnlyList<PracticeItem>> OfStudyAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<PracticeItem>(
            new($"{Columns} where p.study_id = @study and p.deleted_at is null order by p.due_on, p.id", new { study },
            cancellationToken: stop))).AsList();
    }

    public async Task<PracticeItem?> FindAsync(PracticeId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<PracticeItem>(new($"{Columns} where p.id = @id and p.deleted_at is null",
            new { id }, cancellationToken: stop));
    }

    /// <summary>The ladder begins where the figure is comfortable and ends at the goal.</summary>
    public async Task<PracticeId> AddAsync(StudyId study, string name, Passage figure, Bpm goal, int minutes, IdeaId? idea,
        PassageId? passage, CancellationToken stop)
    {
        var plain = figure with { Tempo = null };
        await using var connection = await source.OpenConnectionAsync(stop);
        return new(await connection.ExecuteScalarAsync<long>(new(
            "insert into practice_item (study_id, idea_id, passage_id, name, text, goal, start, minutes) values (@study, @idea, "
                + "@passage, @name, @text, @goal, @start, @minutes) returning id",
            new
            {
                study,
                idea,
                passage,
                name,
                text = CountWriter.Write(plain),
                goal = goal.Value,
                start = Ladder.For(plain, goal).Start,
                minutes
            }, cancellationToken: stop)));
    }

    /// <summary>Keeps rounds and reports as they were made; what is sent twice is kept once and moves the ladder once.</summary>
    public async Task<PracticeItem?> KeepAsync(PracticeId id, IReadOnlyList<PracticeEntry> entries, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (await LockedAsync(connection, transaction, id, stop) is not { } item) return null;
        var ladder = item.Ladder;
        foreach (var entry in entries)
        {
            var added = await connection.ExecuteAsync(new(
                "insert into practice_log (item_id, key, tempo, outcome, pain, note) values (@id, @Key, @Tempo, @Outcome, @Pain, @Note) "
                    + "on conflict (key) do nothing",
                new { id, entry.Key, entry.Tempo, entry.Outcome, entry.Pain, entry.Note }, transaction, cancellationToken: stop));
            if (added == 0) continue;
            if (entry.Outcome is { } outcome) ladder = ladder.After(outcome == "clean" ? Outcome.Clean : Outcome.Failed);
            if (entry.Pain is { } pain) ladder = ladder.AfterPain(pain);
        }
        await SaveAsync(connection, transaction, id, ladder, item.Due, stop);
        await transaction.CommitAsync(stop);
        return await FindAsync(id, stop);
    }

    /// <summary>Ends a session; when the figure is due again depends on whether the day went well.</summary>
    public async Task<Due?> EndAsync(PracticeId id, DateOnly today, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (await LockedAsync(connection, transaction, id, stop) is not { } item) return null;
        var day = (await DaysAsync(connection, transaction, id, stop)).FirstOrDefault(d => d.Day == today);
        var due = item.Due.After(today, day is { WentWell: true });
        await SaveAsync(connection, transaction, id, item.Ladder, due, stop);
        await transaction.CommitAsync(stop);
        return due;
    }

    /// <summary>After a rest: from the start again.</summary>
    public async Task AnewAsync(PracticeId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        if (await LockedAsync(connection, transaction, id, stop) is not { } item) return;
        await SaveAsync(connection, transaction, id, item.Ladder.Anew(), item.Due, stop);
        await transaction.CommitAsync(stop);
    }

    /// <summary>As it is, and nobody else changes it before this transaction ends: rounds that arrive meanwhile wait.</summary>
    private static async Task<PracticeItem?> LockedAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, PracticeId id,
        CancellationToken stop)
    {
        await connection.ExecuteAsync(new("select 1 from practice_item where id = @id for update", new { id }, transaction,
            cancellationToken: stop));
        return await connection.QuerySingleOrDefaultAsync<PracticeItem>(new($"{Columns} where p.id = @id and p.deleted_at is null",
            new { id }, transaction, cancellationToken: stop));
    }

    private static Task SaveAsync(NpgsqlConnection connection, NpgsqlTransaction transaction, PracticeId id, Ladder ladder, Due due,
        CancellationToken stop) => connection.ExecuteAsync(new(
        "update practice_item set rung = @Rung, clean = @Clean, failed = @Failed, stopped = @Stopped, due_on = @On, due_after = "
            + "@Interval where id = @id",
        new { id, ladder.Rung, ladder.Clean, ladder.Failed, ladder.Stopped, due.On, due.Interval }, transaction, cancellationToken: stop));

    /// <summary>Day by day, oldest first.</summary>
    public async Task<IReadOnlyList<PracticeDay>> DaysAsync(PracticeId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await DaysAsync(connection, null, id, stop);
    }

    private static async Task<IReadOnlyList<PracticeDay>> DaysAsync(NpgsqlConnection connection, NpgsqlTransaction? transaction,
        PracticeId id, CancellationToken stop) =>
        PracticeDay.Of((await connection.QueryAsync<(DateOnly Day, double Tempo, string? Outcome, int? Pain)>(new(
            "select l.at::date, l.tempo, l.outcome, l.pain::int from practice_log l where l.item_id = @id order by l.at", new { id },
                transaction, cancellationToken: stop)))
            .Select(l => new PracticeRound(l.Day, l.Tempo,
                l.Outcome switch { "clean" => Outcome.Clean, "failed" => Outcome.Failed, _ => null }, l.Pain)));

    public Task DeleteAsync(PracticeId id, CancellationToken stop) =>
        ExecuteAsync("update practice_item set deleted_at = now() where id = @id", new { id }, stop);

    public Task RestoreAsync(PracticeId id, CancellationToken stop) =>
        ExecuteAsync("update practice_item set deleted_at = null where id = @id", new { id }, stop);

    /// <summary>Minutes on each day of the week, Monday first; half an hour where nobody said.</summary>
    public async Task<IReadOnlyList<int>> WeekAsync(StudyId study, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.ExecuteScalarAsync<int[]>(new("select minutes from practice_week where study_id = @study", new { study },
            cancellationToken: stop)) is { Length: 7 } kept ? kept : [30, 30, 30, 30, 30, 30, 30];
    }

    public Task SaveWeekAsync(StudyId study, int[] minutes, CancellationToken stop) => ExecuteAsync(
        "insert into practice_week (study_id, minutes) values (@study, @minutes) on conflict (study_id) do update set minutes = "
            + "excluded.minutes", new { study, minutes }, stop);

    /// <summary>As somebody set them.</summary>
    public async Task<Limits> SetLimitsAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<Limits>(
            new("select hand, hand_burst, doubles, foot, foot_double from limb_limit", cancellationToken: stop)) ?? Limits.Usual;
    }

    /// <summary>As they are set, raised to what the log shows was played clean.</summary>
    public async Task<Limits> LimitsAsync(CancellationToken stop)
    {
        var limits = await SetLimitsAsync(stop);
        await using var connection = await source.OpenConnectionAsync(stop);
        foreach (var (text, best) in await connection.QueryAsync<(string, double)>(new(
            "select p.text, max(l.tempo) from practice_item p join practice_log l on l.item_id = p.id and l.outcome = 'clean' group by "
                + "p.id, p.text", cancellationToken: stop)))
        {
            if (Bpm.Of(best) is not { } tempo) continue;
            foreach (var limb in Playability.Of(WrittenPassages.Read(text), StickingSettings.Usual with { Tempo = tempo }).Limbs.Where(l =>
                l.Strokes >= 4))
                limits = limb.Limb == "kick foot" ? limits with { Foot = Math.Max(limits.Foot, limb.Peak) }
                    : limb.Limb.EndsWith("hand", StringComparison.Ordinal) ? limits with { Hand = Math.Max(limits.Hand, limb.Peak) }
                    : limits;
        }
        return limits;
    }

    /// <summary>Where the drums stand; the usual kit where nobody said.</summary>
    public async Task<KitLayout> LayoutAsync(CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return KitLayout.Read(await connection.ExecuteScalarAsync<string?>(new("select value from setting where name = @LayoutName",
            new { LayoutName }, cancellationToken: stop)) ?? "", _ => { });
    }

    public Task SaveLayoutAsync(KitLayout layout, CancellationToken stop) => ExecuteAsync(
        "insert into setting (name, value) values (@LayoutName, @Written) on conflict (name) do update set value = excluded.value",
            new { LayoutName, layout.Written }, stop);

    private const string LayoutName = "kit layout";

    public Task SaveLimitsAsync(Limits limits, CancellationToken stop) => ExecuteAsync(
        """
        insert into limb_limit (hand, hand_burst, doubles, foot, foot_double) values (@Hand, @HandBurst, @Doubles, @Foot, @FootDouble)
        on conflict (one) do update set hand = excluded.hand, hand_burst = excluded.hand_burst, doubles = excluded.doubles,
          foot = excluded.foot, foot_double = excluded.foot_double
        """, limits, stop);

    private async Task ExecuteAsync(string sql, object parameters, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(sql, parameters, cancellationToken: stop));
    }
}
