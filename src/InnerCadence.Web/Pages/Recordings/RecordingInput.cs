using System.Globalization;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>The fields of a recording as typed into a form.</summary>
public sealed class RecordingInput : RecordingText
{
    public int Version { get; set; }

    public static RecordingInput Of(Recording recording) => new()
    {
        Title = recording.Title,
        Take = recording.Take,
        Player = recording.PlayerId.ToString(),
        Sure = recording.Sure.Word,
        Ensemble = recording.Ensemble,
        Release = recording.Release,
        Recorded = recording.RecordedSaid.Length > 0 ? recording.RecordedSaid : recording.Recorded?.ToString(),
        Issued = recording.IssuedSaid.Length > 0 ? recording.IssuedSaid : recording.Issued?.ToString(),
        Kind = recording.Kind.Word,
        Meter = recording.Meter,
        Tempo = recording.TempoSaid.Length > 0 ? recording.TempoSaid : recording.Tempo?.ToString("0.###", CultureInfo.InvariantCulture),
        TempoRead = recording.TempoRead.Word,
        Duration = recording.Duration?.ToString(),
        TotalBars = recording.TotalBars?.ToString(CultureInfo.InvariantCulture),
        Kit = recording.Kit,
        Note = recording.Note,
        Version = recording.Version,
    };

    /// <summary>Nothing, with the problems told, where a field cannot be read.</summary>
    public RecordingDraft? Read(ModelStateDictionary problems, Study study) =>
        Read(study, (field, message) => problems.AddModelError("Input." + field, message));

    public CoverageDraft? ReadSearched(ModelStateDictionary problems, DateOnly today) =>
        ReadSearched(today, (field, message) => problems.AddModelError("Input." + field, message));
}
