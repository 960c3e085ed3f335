using Dapper;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using Npgsql;

namespace InnerCadence.Storage.Recordings;

/// <summary>One issue of a recording: where it is to be had, and how its clock runs against the recording's.</summary>
public sealed record IssueRow
{
    public IssueId Id { get; init; }
    public string Label { get; init; } = "";
    public string Number { get; init; } = "";
    public string Transfer { get; init; } = "";
    public DateOnly? IssuedFrom { get; init; }
    public DateOnly? IssuedTo { get; init; }
    public double Speed { get; init; } = 1;
    public int OffsetMs { get; init; }
    public string Note { get; init; } = "";

    public PartialDate? Issued => IssuedFrom is { } from && IssuedTo is { } to ? new(from, to) : null;
    public IssueClock Clock => new(Speed, OffsetMs);
    public string Name => string.Join(' ', new[] { Label, Number, Transfer.Length > 0 ? $"({Transfer})" : "" }.Where(p => p.Length > 0));
}

public sealed record IssueDraft(string Label, string Number, string Transfer, PartialDate? Issued, double Speed, int OffsetMs, string Note);

/// <summary>Who drums in a span of bars, and how sure that is.</summary>
public sealed record DrummedRow
{
    public DrummedId Id { get; init; }
    public PlayerId PlayerId { get; init; }
    public string Player { get; init; } = "";
    public Certainty Sure { get; init; }
    public int FromBar { get; init; }
    public int Bars { get; init; }
    public string Note { get; init; } = "";
}

/// <summary>Issues of recordings, and who drums in which span of them.</summary>
public sealed class AttributionStore(NpgsqlDataSource source)
{
    public async Task<IReadOnlyList<IssueRow>> IssuesAsync(RecordingId recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<IssueRow>(new(
            "select id, label, number, transfer, issued_from, issued_to, speed, offset_ms, note from issue where recording_id = "
                + "@recording order by issued_from nulls last, id",
            new { recording }, cancellationToken: stop))).AsList();
    }

    public async Task AddIssueAsync(RecordingId recording, IssueDraft draft, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            insert into issue (recording_id, label, number, transfer, issued_from, issued_to, speed, offset_ms, note)
            values (@recording, @Label, @Number, @Transfer, @from, @to, @Speed, @OffsetMs, @Note)
            """, new
            {
                recording,
                draft.Label,
                draft.Number,
                draft.Transfer,
                from = draft.Issued?.Earliest,
                to = draft.Issued?.Latest,
                draft.Speed,
                draft.OffsetMs,
                draft.Note
            }, cancellationToken: stop));
    }

    /// <summary>Gives back what was taken out, so that it can be put in again.</summary>
    public async Task<IssueRow?> RemoveIssueAsync(RecordingId recording, IssueId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<IssueRow>(new(
            "delete from issue where id = @id and recording_id = @recording returning id, label, number, transfer, issued_from, "
                + "issued_to, speed, offset_ms, note",
            new { recording, id }, cancellationToken: stop));
    }

    public async Task<IReadOnlyList<DrummedRow>> SpansAsync(RecordingId recording, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return (await connection.QueryAsync<DrummedRow>(new(
            """
            select d.id, d.player_id, p.name as player, d.sure, d.from_bar, d.bars, d.note
            from drummed d join player p on p.id = d.player_id where d.recording_id = @recording order by d.from_bar, d.id
            """, new { recording }, cancellationToken: stop))).AsList();
    }

    public async Task AddSpanAsync(RecordingId recording, PlayerId player, Certainty sure, int fromBar, int bars, string note,
        CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await connection.ExecuteAsync(new(
            "insert into drummed (recording_id, player_id, sure, from_bar, bars, note) values (@recording, @player, @sure, @fromBar, "
                + "@bars, @note)",
            new { recording, player, sure, fromBar, bars, note }, cancellationToken: stop));
    }

    public async Task<DrummedRow?> RemoveSpanAsync(RecordingId recording, DrummedId id, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<DrummedRow>(new(
            "delete from drummed where id = @id and recording_id = @recording returning id, player_id, '' as player, sure, from_bar, "
                + "bars, note", new { recording, id }, cancellationToken: stop));
    }
}
