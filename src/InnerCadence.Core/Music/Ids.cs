using System.Globalization;

namespace InnerCadence.Core.Music;

/// <summary>The number of one thing of one kind, so that a passage is never looked up by an idea's number.</summary>
public interface IId<T> where T : struct, IId<T>
{
    long Value { get; }
    static abstract T Of(long value);

    /// <summary>Reads a positive number, as it stands in an address.</summary>
    static bool TryRead(string? text, out T id)
    {
        var read = long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var value) && value > 0;
        id = T.Of(value);
        return read;
    }
}

public readonly record struct StudyId(long Value) : IId<StudyId>
{
    public static StudyId Of(long value) => new(value);
    public static bool TryParse(string? text, out StudyId id) => IId<StudyId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct PlayerId(long Value) : IId<PlayerId>
{
    public static PlayerId Of(long value) => new(value);
    public static bool TryParse(string? text, out PlayerId id) => IId<PlayerId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct RecordingId(long Value) : IId<RecordingId>
{
    public static RecordingId Of(long value) => new(value);
    public static bool TryParse(string? text, out RecordingId id) => IId<RecordingId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct PassageId(long Value) : IId<PassageId>
{
    public static PassageId Of(long value) => new(value);
    public static bool TryParse(string? text, out PassageId id) => IId<PassageId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct ReadingId(long Value) : IId<ReadingId>
{
    public static ReadingId Of(long value) => new(value);
    public static bool TryParse(string? text, out ReadingId id) => IId<ReadingId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct IdeaId(long Value) : IId<IdeaId>
{
    public static IdeaId Of(long value) => new(value);
    public static bool TryParse(string? text, out IdeaId id) => IId<IdeaId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct SightingId(long Value) : IId<SightingId>
{
    public static SightingId Of(long value) => new(value);
    public static bool TryParse(string? text, out SightingId id) => IId<SightingId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct CoverageId(long Value) : IId<CoverageId>
{
    public static CoverageId Of(long value) => new(value);
    public static bool TryParse(string? text, out CoverageId id) => IId<CoverageId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct EnsembleId(long Value) : IId<EnsembleId>
{
    public static EnsembleId Of(long value) => new(value);
    public static bool TryParse(string? text, out EnsembleId id) => IId<EnsembleId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct ReleaseId(long Value) : IId<ReleaseId>
{
    public static ReleaseId Of(long value) => new(value);
    public static bool TryParse(string? text, out ReleaseId id) => IId<ReleaseId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct IssueId(long Value) : IId<IssueId>
{
    public static IssueId Of(long value) => new(value);
    public static bool TryParse(string? text, out IssueId id) => IId<IssueId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct DrummedId(long Value) : IId<DrummedId>
{
    public static DrummedId Of(long value) => new(value);
    public static bool TryParse(string? text, out DrummedId id) => IId<DrummedId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct ImportId(long Value) : IId<ImportId>
{
    public static ImportId Of(long value) => new(value);
    public static bool TryParse(string? text, out ImportId id) => IId<ImportId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct SoundId(long Value) : IId<SoundId>
{
    public static SoundId Of(long value) => new(value);
    public static bool TryParse(string? text, out SoundId id) => IId<SoundId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct SessionId(long Value) : IId<SessionId>
{
    public static SessionId Of(long value) => new(value);
    public static bool TryParse(string? text, out SessionId id) => IId<SessionId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct StampId(long Value) : IId<StampId>
{
    public static StampId Of(long value) => new(value);
    public static bool TryParse(string? text, out StampId id) => IId<StampId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct ClaimId(long Value) : IId<ClaimId>
{
    public static ClaimId Of(long value) => new(value);
    public static bool TryParse(string? text, out ClaimId id) => IId<ClaimId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct PracticeId(long Value) : IId<PracticeId>
{
    public static PracticeId Of(long value) => new(value);
    public static bool TryParse(string? text, out PracticeId id) => IId<PracticeId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct ArrivalId(long Value) : IId<ArrivalId>
{
    public static ArrivalId Of(long value) => new(value);
    public static bool TryParse(string? text, out ArrivalId id) => IId<ArrivalId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct ArrivedFileId(long Value) : IId<ArrivedFileId>
{
    public static ArrivedFileId Of(long value) => new(value);
    public static bool TryParse(string? text, out ArrivedFileId id) => IId<ArrivedFileId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}

public readonly record struct JobId(long Value) : IId<JobId>
{
    public static JobId Of(long value) => new(value);
    public static bool TryParse(string? text, out JobId id) => IId<JobId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(System.Globalization.CultureInfo.InvariantCulture);
}

public readonly record struct WishId(long Value) : IId<WishId>
{
    public static WishId Of(long value) => new(value);
    public static bool TryParse(string? text, out WishId id) => IId<WishId>.TryRead(text, out id);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}
