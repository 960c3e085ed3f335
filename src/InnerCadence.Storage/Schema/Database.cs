using System.Data;
using System.Reflection;
using Dapper;
using DbUp;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using Npgsql;

namespace InnerCadence.Storage.Schema;

/// <summary>Schema and type mapping: called once before anything else of this room.</summary>
public static class Database
{
    static Database()
    {
        DefaultTypeMap.MatchNamesWithUnderscores = true;
        SqlMapper.AddTypeHandler(new IdHandler<StudyId>());
        SqlMapper.AddTypeHandler(new IdHandler<WishId>());
        SqlMapper.AddTypeHandler(new IdHandler<PlayerId>());
        SqlMapper.AddTypeHandler(new IdHandler<RecordingId>());
        SqlMapper.AddTypeHandler(new IdHandler<PassageId>());
        SqlMapper.AddTypeHandler(new IdHandler<ReadingId>());
        SqlMapper.AddTypeHandler(new IdHandler<IdeaId>());
        SqlMapper.AddTypeHandler(new IdHandler<SightingId>());
        SqlMapper.AddTypeHandler(new IdHandler<CoverageId>());
        SqlMapper.AddTypeHandler(new IdHandler<JobId>());
        SqlMapper.AddTypeHandler(new IdHandler<EnsembleId>());
        SqlMapper.AddTypeHandler(new IdHandler<ReleaseId>());
        SqlMapper.AddTypeHandler(new IdHandler<IssueId>());
        SqlMapper.AddTypeHandler(new IdHandler<DrummedId>());
        SqlMapper.AddTypeHandler(new IdHandler<ImportId>());
        SqlMapper.AddTypeHandler(new IdHandler<SoundId>());
        SqlMapper.AddTypeHandler(new IdHandler<SessionId>());
        SqlMapper.AddTypeHandler(new IdHandler<StampId>());
        SqlMapper.AddTypeHandler(new IdHandler<ClaimId>());
        SqlMapper.AddTypeHandler(new IdHandler<PracticeId>());
        SqlMapper.AddTypeHandler(new IdHandler<ArrivalId>());
        SqlMapper.AddTypeHandler(new IdHandler<ArrivedFileId>());
        SqlMapper.AddTypeHandler(new DateHandler());
        SqlMapper.AddTypeHandler(new TickHandler());
        SqlMapper.AddTypeHandler(new ClockHandler());
        SqlMapper.AddTypeHandler(new WordHandler<PassageKind>());
        SqlMapper.AddTypeHandler(new WordHandler<RecordingKind>());
        SqlMapper.AddTypeHandler(new WordHandler<Certainty>());
        SqlMapper.AddTypeHandler(new WordHandler<TempoReading>());
        SqlMapper.AddTypeHandler(new WordHandler<SaidThere>());
    }

    /// <summary>A pool of connections to the database of this address.</summary>
    public static NpgsqlDataSource Open(string connectionString) => NpgsqlDataSource.Create(connectionString);

    /// <summary>Asks the database for nothing, to see that it answers.</summary>
    /// <exception cref="NpgsqlException">It does not.</exception>
    public static async Task AskAsync(NpgsqlDataSource source, CancellationToken stop)
    {
        await using var asked = source.CreateCommand("select 1");
        await asked.ExecuteScalarAsync(stop);
    }

    /// <summary>Only one at a time brings a database up to date: a number that nothing else locks.</summary>
    private const long Migrating = 0x1CADE;

    /// <summary>The steps of the schema that this program knows, in their order.</summary>
    internal static IReadOnlyList<string> Steps { get; } =
        [.. Assembly.GetExecutingAssembly().GetManifestResourceNames().Where(n => n.EndsWith(".sql", StringComparison.Ordinal))
            .Append(OldTextsStep.Name).Order(StringComparer.Ordinal)];

    /// <summary>The database has data and wants a step that it does not have yet.</summary>
    public static bool IsBehind(string connectionString)
    {
        using var connection = Alone(connectionString);
        return Done(connection) is { Count: > 0 } done && Steps.Except(done).Any();
    }

    /// <summary>Brings the schema up to date; does nothing when it is. Who comes second waits.</summary>
    /// <param name="wanted">The steps to go; all where nothing is said.</param>
    /// <exception cref="InvalidOperationException">A migration failed and nothing of it was kept, or the database was made by a newer
    /// version.</exception>
    public static void Migrate(string connectionString, Func<string, bool>? wanted = null)
    {
        using var alone = Alone(connectionString);
        alone.Execute("select pg_advisory_lock(@Migrating)", new { Migrating });
        if (Done(alone).Except(Steps).FirstOrDefault() is { } newer) throw new InvalidOperationException(
            $"This database was made by a newer version (it has {newer}); bring the program up to date. Nothing was changed.");
        var steps = DeployChanges.To.PostgresqlDatabase(connectionString);
        if (wanted?.Invoke(OldTextsStep.Name) != false) steps = steps.WithScript(OldTextsStep.Name, new OldTextsStep());
        var result = steps.WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly(), name => Steps.Contains(name)
            && wanted?.Invoke(name) != false)
            .WithTransactionPerScript()
            .LogToNowhere()
            .Build()
            .PerformUpgrade();
        if (!result.Successful) throw new InvalidOperationException(
            $"The database could not be brought up to date: {result.Error.Message}", result.Error);
        // What was restored has no statistics yet; these tables are small, and every plan begins with them.
        if (wanted is null) alone.Execute("analyze study, player, recording, idea, claim");
    }

    private static IReadOnlyList<string> Done(NpgsqlConnection connection) =>
        connection.ExecuteScalar<bool>("select to_regclass('public.schemaversions') is not null")
            ? connection.Query<string>("select scriptname from schemaversions order by scriptname").AsList() : [];

    private static NpgsqlConnection Alone(string connectionString)
    {
        var connection = new NpgsqlConnection(new NpgsqlConnectionStringBuilder(connectionString) { Pooling = false }.ConnectionString);
        connection.Open();
        return connection;
    }

    private sealed class DateHandler : SqlMapper.TypeHandler<DateOnly>
    {
        public override DateOnly Parse(object value) => value is DateOnly date ? date : DateOnly.FromDateTime((DateTime)value);

        public override void SetValue(IDbDataParameter parameter, DateOnly value) =>
            (parameter.DbType, parameter.Value) = (DbType.Date, value);
    }

    private sealed class TickHandler : SqlMapper.TypeHandler<Tick>
    {
        public override Tick Parse(object value) => new((int)value);

        public override void SetValue(IDbDataParameter parameter, Tick value) =>
            (parameter.DbType, parameter.Value) = (DbType.Int32, value.Value);
    }

    private sealed class WordHandler<T> : SqlMapper.TypeHandler<T> where T : struct, IWord<T>
    {
        public override T Parse(object value) => OneOf<T>.Find((string)value)
            ?? throw new DataException($"‘{value}’ is none of {string.Join(", ", OneOf<T>.Words)}.");

        public override void SetValue(IDbDataParameter parameter, T value) =>
            (parameter.DbType, parameter.Value) = (DbType.String, value.Word);
    }

    private sealed class ClockHandler : SqlMapper.TypeHandler<ClockTime>
    {
        public override ClockTime Parse(object value) => new((int)value);

        public override void SetValue(IDbDataParameter parameter, ClockTime value) =>
            (parameter.DbType, parameter.Value) = (DbType.Int32, value.Milliseconds);
    }
}
