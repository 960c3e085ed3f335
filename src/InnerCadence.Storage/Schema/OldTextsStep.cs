using System.Data;
using Dapper;
using DbUp.Engine;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Storage.Schema;

/// <summary>
/// The step of the schema at which count lines learned levels, echoes and names: every stored text that would be read otherwise is
/// rewritten so that its strokes
/// stay, and told on the Desk.
/// </summary>
internal sealed class OldTextsStep : IScript
{
    public const string Name = "InnerCadence.Storage.Migrations.0017_old_texts";
    /// <summary>How many steps a database has that went through it; an archive of fewer holds old texts.</summary>
    public const int Number = 17;

    /// <summary>Tables with a text of count lines.</summary>
    public static readonly string[] Tables = ["reading", "idea", "practice_item"];

    private static readonly (string Texts, string Update)[] Steps =
    [
        ("select g.id, g.text, r.study_id, r.title || ', bar ' || coalesce(a.bar::text, '?') as what, '/passages/' || a.id as link from "
            + "reading g join passage a on a.id = g.passage_id join recording r on r.id = a.recording_id",
            "update reading set text = @now where id = @Id"),
        ("select id, text, study_id, nickname as what, '/ideas/' || id as link from idea", "update idea set text = @now where id = @Id"),
        ("select id, text, study_id, name as what, '/practice/' || id as link from practice_item",
            "update practice_item set text = @now where id = @Id"),
    ];

    public string ProvideScript(Func<IDbCommand> dbCommandFactory)
    {
        using var command = dbCommandFactory();
        var (connection, transaction) = (command.Connection!, command.Transaction);
        foreach (var (texts, update) in Steps)
        {
            foreach (var old in connection.Query<(long Id, string Text, long Study, string What, string Link)>(texts,
                transaction: transaction).AsList())
            {
                if (OldTexts.BroughtOver(old.Text) is not { } now) continue;
                connection.Execute(update, new { old.Id, now }, transaction);
                connection.Execute(
                    "insert into counted_anew (study_id, counted, what, link, was, now_is) values (@Study, @Version, @what, @Link, "
                        + "@Text, @now) on conflict do nothing",
                    new { old.Study, Account.Version, what = $"{old.What}: the text, so that its strokes stay", old.Link, old.Text, now },
                        transaction);
            }
        }
        return "";
    }
}
