using System.Collections.Concurrent;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Storage.Evidence;

/// <summary>A study's account at one moment, each idea counted once.</summary>
public sealed class KnownEvidence(IReadOnlyList<Recording> recordings, IReadOnlyList<IdeaRow> ideas, Account account)
{
    private readonly ConcurrentDictionary<(IdeaId Idea, bool Cautious), IReadOnlyList<IdeaInRecording>> counted = new();
    private readonly ConcurrentDictionary<(IdeaId Idea, PlayerId? Player), Answer> answers = new();
    private readonly Lazy<Account> cautious = new(account.Cautious);
    private readonly Lazy<int> waiting = new(() => ideas.Sum(i => account.WaitingOf(i.Id.Value)));

    /// <summary>In the order in which they are told.</summary>
    public IReadOnlyList<Recording> Recordings => recordings;
    public IReadOnlyList<IdeaRow> Ideas => ideas;
    public Account Account => account;
    /// <summary>Sightings that wait for a judgement, of all ideas.</summary>
    public int Waiting => waiting.Value;

    /// <summary>How often an idea appears, with a player or with everybody.</summary>
    public Answer AnswerOf(IdeaId idea, PlayerId? player = null) =>
        answers.GetOrAdd((idea, player), key => Answer.Of(Of(key.Idea).Select(f => f.Performance)
            .Where(p => key.Player is null || p.Player == key.Player.Value.Value)));

    /// <summary>Every recording, with what it says about an idea.</summary>
    /// <param name="without">Without sightings that rest on unsure or unheard strokes.</param>
    /// <exception cref="InvalidOperationException">The study has no such idea.</exception>
    public IReadOnlyList<IdeaInRecording> Of(IdeaId idea, bool without = false) => counted.GetOrAdd((idea, without), key =>
    {
        var named = ideas.FirstOrDefault(i => i.Id == key.Idea)
            ?? throw new InvalidOperationException($"The study has no idea {key.Idea}.");
        return [.. recordings.Zip((key.Cautious ? cautious.Value : account).Of(named.AsNamed()), (r, p) => new IdeaInRecording(r, p))];
    });
}
