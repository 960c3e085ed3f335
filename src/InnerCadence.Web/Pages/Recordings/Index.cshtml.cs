using System.Globalization;
using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>The discography of a study: filtered, sorted, takes of one title together.</summary>
public sealed class RecordingsModel(StudyStore studies, RecordingStore recordings, RecordingCatalogue catalogue, Discography discography,
    ClaimStore claims, NextSteps next) : StudyPage(studies)
{
    public const int PageRows = 100;

    public IReadOnlyList<Recording> Recordings { get; private set; } = [];
    public CatalogueTotals Totals { get; private set; } = new(0, 0, 0, 0);
    public CatalogueFilter Filter { get; private set; } = new();
    public IReadOnlyList<(EnsembleId Id, string Name)> Ensembles { get; private set; } = [];
    public IReadOnlyList<(ReleaseId Id, string Title)> Releases { get; private set; } = [];
    public int PageNumber { get; private set; }
    /// <summary>What to listen to next; not worked out beside a filter, nor for so many that it would keep the list waiting.</summary>
    public NextToHear? Next { get; private set; }
    private const int MostWeighed = 500;
    public int Pages => Math.Max(1, (Totals.Recordings + PageRows - 1) / PageRows);

    public async Task<IActionResult> OnGetAsync(
        StudyId study, PlayerId? player, string? kind, EnsembleId? ensemble, ReleaseId? release, string? q, string? from, string? to,
            string? searched, string? sort, string? order, CancellationToken stop,
        [FromQuery(Name = "page")] int page = 1)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Filter = new()
        {
            Player = player,
            Kind = OneOf<RecordingKind>.Find(kind),
            Ensemble = ensemble,
            Release = release,
            Text = string.IsNullOrWhiteSpace(q) || q.Length > UploadLimits.Name || Typed.HasUnkeepable(q) ? null : q.Trim(),
            FromYear = Year(from),
            ToYear = Year(to),
            Searched = CatalogueFilter.SearchedWords.Contains(searched) ? searched : null,
            Sort = CatalogueFilter.Sorts.Contains(sort) ? sort! : "recorded",
            Descending = order == "down",
        };
        Totals = await catalogue.TotalsAsync(study, Filter, stop);
        PageNumber = Math.Clamp(page, 1, Pages);
        Recordings = await catalogue.PageAsync(study, Filter, (PageNumber - 1) * PageRows, PageRows, stop);
        (Ensembles, Releases) = await discography.NamesAsync(study, stop);
        if (!IsFiltered && PageNumber == 1 && Totals.Recordings is > 0 and <= MostWeighed) Next = await next.OfAsync(Study,
            await claims.StandAsync(Study, stop), stop);
        return Page();
    }

    public async Task<IActionResult> OnPostRestoreAsync(StudyId study, RecordingId recording, CancellationToken stop)
    {
        await recordings.RestoreAsync(recording, stop);
        return Redirect($"/recordings/{recording}");
    }

    public bool IsFiltered => Filter with { Sort = "recorded", Descending = false } != new CatalogueFilter();

    /// <summary>The address of this table with another order or page.</summary>
    public string With(string? sort = null, int? page = null)
    {
        var by = sort ?? Filter.Sort;
        var down = sort is null ? Filter.Descending : sort == Filter.Sort && !Filter.Descending;
        (string Name, string? Value)[] parts =
        [
            ("player", Filter.Player?.ToString()), ("kind", Filter.Kind?.Word), ("ensemble", Filter.Ensemble?.ToString()),
                ("release", Filter.Release?.ToString()), ("q", Filter.Text),
            ("from", Filter.FromYear?.ToString(CultureInfo.InvariantCulture)),
                ("to", Filter.ToYear?.ToString(CultureInfo.InvariantCulture)), ("searched", Filter.Searched),
            ("sort", by == "recorded" ? null : by), ("order", down ? "down" : null), ("page", page?.ToString(CultureInfo.InvariantCulture)),
        ];
        var query = string.Join('&', parts.Where(p => p.Value is not null).Select(p => $"{p.Name}={Uri.EscapeDataString(p.Value!)}"));
        return $"/studies/{Study.Id}/recordings{(query.Length > 0 ? "?" + query : "")}";
    }

    private static int? Year(string? text) => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var year)
        && year is >= 1 and <= 9999 ? year : null;
}
