using Dapper;
using Npgsql;

namespace InnerCadence.Storage.Exchange;

/// <summary>A column that points to a row of another table of the study.</summary>
internal sealed record ArchiveKey(string Child, string Column, string Parent);

/// <summary>A table of a study as its archive sees it.</summary>
/// <param name="Keys">Columns that are renumbered when it comes in.</param>
/// <param name="Fresh">Columns that are unique in the whole installation: what comes in gets others.</param>
/// <param name="Cut">Columns that point to what an archive leaves out.</param>
/// <param name="Unique">Sets of columns that no two rows share.</param>
internal sealed record ArchiveTable(string Name, IReadOnlyList<ArchiveColumn> Columns, IReadOnlyList<ArchiveKey> Keys,
    IReadOnlyList<string> Fresh, IReadOnlyList<string> Cut, IReadOnlyList<IReadOnlyList<string>> Unique)
{
    public bool HasId => Has("id");
    public bool Has(string column) => Columns.Any(c => c.Name == column);

    /// <summary>Which rows are the study's, with a parameter for the ids of each parent.</summary>
    public string Belongs => Name == "study" ? "t.id = any(@study)"
        : string.Join(" or ", Keys.Select(k => $"t.{k.Column} = any(@{k.Parent})"));

    public DynamicParameters Parameters(Dictionary<string, long[]> ids)
    {
        var parameters = new DynamicParameters();
        foreach (var parent in Name == "study" ? ["study"] : Keys.Select(k => k.Parent).Distinct()) parameters.Add(parent,
            ids.GetValueOrDefault(parent, []));
        return parameters;
    }
}

/// <param name="Type">As PostgreSQL names it; an array is ARRAY with its element in <paramref name="Element"/>.</param>
internal sealed record ArchiveColumn(string Name, string Type, string Element, bool Nullable, bool HasDefault);

/// <summary>Reads from the schema itself which tables hang on a study, so that nothing of one can be forgotten.</summary>
internal static class ArchiveTables
{
    /// <summary>Not a study's own: sound files stay where they were attached, work in progress is none of an
    /// archive's, and what the ear finds is worked out again from the sounds.</summary>
    private static readonly string[] Left = ["sound", "job", "import_file", "import_columns", "arrival", "arrived_file", "looked_through",
        "found_place", "departing_look", "departing_bar", "sound_question"];

    /// <summary>The tables of a study that an archive holds, parents first.</summary>
    public static Task<IReadOnlyList<ArchiveTable>> ReadAsync(NpgsqlConnection connection, CancellationToken stop) =>
        ReadAsync(connection, Left, stop);

    /// <summary>Every table that hangs on a study, parents first.</summary>
    public static Task<IReadOnlyList<ArchiveTable>> AllAsync(NpgsqlConnection connection, CancellationToken stop) =>
        ReadAsync(connection, [], stop);

    private static async Task<IReadOnlyList<ArchiveTable>> ReadAsync(NpgsqlConnection connection, string[] left, CancellationToken stop)
    {
        var all = (await connection.QueryAsync<ArchiveKey>(new(
            """
            select c.conrelid::regclass::text as child, a.attname::text as "column", c.confrelid::regclass::text as parent
            from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = any(c.conkey)
            where c.contype = 'f' and c.connamespace = 'public'::regnamespace and array_length(c.conkey, 1) = 1
            """, cancellationToken: stop))).Where(k => k.Child != k.Parent && !left.Contains(k.Child))
                .ToLookup(k => left.Contains(k.Parent));
        var keys = all[false].ToList();
        var columns = (await connection.QueryAsync<(string Table, string Column, string Type, string Element, bool Nullable,
            bool HasDefault)>(new(
            """
            select table_name::text, column_name::text, data_type::text, ltrim(udt_name::text, '_'), is_nullable = 'YES',
              column_default is not null
            from information_schema.columns where table_schema = 'public' order by ordinal_position
            """, cancellationToken: stop))).ToLookup(c => c.Table, c =>
                new ArchiveColumn(c.Column, c.Type, c.Element, c.Nullable, c.HasDefault));
        var unique = (await connection.QueryAsync<(string Table, string[] Columns, bool Uuid)>(new(
            """
            select c.conrelid::regclass::text, array_agg(a.attname::text order by a.attnum), bool_and(a.atttypid = 'uuid'::regtype)
            from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = any(c.conkey)
            where c.contype in ('u', 'p') and c.connamespace = 'public'::regnamespace group by c.oid, c.conrelid
            """, cancellationToken: stop))).ToLookup(c => c.Table);
        var inside = Inside(keys);
        return [.. Ordered(inside, keys).Select(t => new ArchiveTable(t, [.. columns[t]],
            [.. keys.Where(k => k.Child == t && inside.Contains(k.Parent))],
            [.. unique[t].Where(u => u.Uuid && u.Columns.Length == 1).Select(u => u.Columns[0])],
                [.. all[true].Where(k => k.Child == t).Select(k => k.Column)],
            [.. unique[t].Where(u => u.Columns is not ["id"] && !(u.Uuid && u.Columns.Length == 1))
                .Select(u => (IReadOnlyList<string>)u.Columns)]))];
    }

    private static HashSet<string> Inside(List<ArchiveKey> keys)
    {
        HashSet<string> inside = ["study"];
        while (keys.Where(k => inside.Contains(k.Parent)).Select(k => k.Child).Where(inside.Add).ToList().Count > 0) { }
        return inside;
    }

    private static List<string> Ordered(HashSet<string> inside, List<ArchiveKey> keys)
    {
        var ordered = new List<string>();
        foreach (var table in inside.Order(StringComparer.Ordinal)) Visit(table);
        return ordered;

        void Visit(string table)
        {
            if (ordered.Contains(table)) return;
            foreach (var parent in keys.Where(k => k.Child == table && inside.Contains(k.Parent)).Select(k => k.Parent)) Visit(parent);
            ordered.Add(table);
        }
    }
}
