using InnerCadence.Core.Music;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>What is played along with on pads or keys.</summary>
/// <param name="Judges">A round that was scored may be judged by its score.</param>
public sealed record PadsView(string Text, Passage Passage, bool Judges = false)
{
    private static readonly (string Code, string Key)[] Places = [("KeyJ", "j"), ("KeyF", "f"), ("Space", "space"), ("KeyK", "k"),
        ("KeyD", "d"), ("KeyL", "l"), ("KeyS", "s"),
        ("KeyH", "h"), ("KeyG", "g")];

    /// <summary>A key for each drum of the passage, hands first; the kick is on the space bar.</summary>
    public IEnumerable<(Voice Voice, string Code, string Key)> Keys
    {
        get
        {
            var free = Places.Where(p => p.Code != "Space").GetEnumerator();
            foreach (var voice in Passage.Voices.Take(Places.Length))
            {
                var place = voice == Voice.Kick ? Places[2] : free.MoveNext() ? free.Current : default;
                if (place.Code is not null) yield return (voice, place.Code, place.Key);
            }
        }
    }
}
