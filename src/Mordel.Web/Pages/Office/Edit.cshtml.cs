using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Register;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Office;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;
using PassportOf = Mordel.Data.Lists.Passport;

namespace Mordel.Web.Pages.Office;

/// <summary>Corrects what the register says of an assembly, its place and its owner.</summary>
public sealed class EditModel(
    PassportOf passport,
    EditRegister edit,
    RecordEvent record,
    MoveAssembly move,
    ReplaceAssembly replace,
    RegisterSearch search,
    DueList lists,
    ChangeList changes
) : PageModel
{
    private const int MostPlaces = 12;

    public AssemblyRow Assembly { get; private set; } = null!;

    /// <summary>The authorities that there are.</summary>
    public IReadOnlyList<DueChoice> Authorities { get; private set; } = [];
    public IReadOnlyList<ChangeRow> Changes { get; private set; } = [];
    public IReadOnlyList<AssemblyEventRow> Events { get; private set; } = [];

    /// <summary>The words that other places were searched by; null where nobody searched.</summary>
    public string? To { get; private set; }

    /// <summary>The places that were found by them.</summary>
    public IReadOnlyList<PlaceRow> Places { get; private set; } = [];

    /// <summary>What was typed, where it was not kept.</summary>
    public Dictionary<string, string?> Typed { get; } = new(StringComparer.Ordinal);

    /// <summary>What was kept just now.</summary>
    public Edited? Kept { get; private set; }

    public async Task<IActionResult> OnGet(Guid id, int? kept, int? open, string? to, CancellationToken cancel)
    {
        if (await passport.Of(id, cancel) is not { } view)
            return NotFound();
        Assembly = view.Assembly;
        Authorities = (await lists.Choices(User.Id(), cancel)).Authorities;
        var place = Assembly.Place!;
        Changes = await changes.Of([id, place.Id, place.OwnerId, Assembly.AuthorityId], cancel);
        Events = await changes.Events(id, cancel);
        To = to;
        if (!string.IsNullOrWhiteSpace(to))
            Places =
            [
                .. (await search.Find(to, null, cancel))
                    .Select(l => l.Assembly.Place!)
                    .DistinctBy(p => p.Id)
                    .Where(p => p.Id != place.Id)
                    .Take(MostPlaces),
            ];
        Kept = kept is { } count ? new(id, count, open ?? 0) : null;
        return Page();
    }

    /// <summary>Corrects the assembly.</summary>
    public async Task<IActionResult> OnPost(Guid id, Guid? authorityId, CancellationToken cancel) =>
        await Answered(id, await edit.Assembly(id, Values(FieldOf.Assembly), authorityId, Author, cancel), cancel);

    /// <summary>Corrects its place.</summary>
    public async Task<IActionResult> OnPostPlace(Guid id, Guid placeId, CancellationToken cancel) =>
        await Answered(id, await edit.Place(placeId, Values(FieldOf.Place), Author, cancel), cancel);

    /// <summary>Corrects its owner.</summary>
    public async Task<IActionResult> OnPostOwner(Guid id, Guid ownerId, CancellationToken cancel) =>
        await Answered(id, await edit.Owner(ownerId, Values(FieldOf.Owner), Author, cancel), cancel);

    /// <summary>Puts it to another place.</summary>
    public async Task<IActionResult> OnPostMove(
        Guid id,
        Guid placeId,
        string? how,
        DateOnly? day,
        string? to,
        CancellationToken cancel
    ) =>
        await this.Answer(
            await move.To(id, placeId, how, day, Author, cancel),
            done => $"/register/{id}/edit?kept={done.Changed}&open={done.OpenRuns}",
            () => OnGet(id, null, null, to, cancel)
        );

    /// <summary>Enters what stands in its place.</summary>
    public async Task<IActionResult> OnPostReplace(
        Guid id,
        [FromForm(Name = "replaced-day")] DateOnly? day,
        CancellationToken cancel
    ) =>
        await this.Answer(
            await replace.By(id, New(), day, Author, cancel),
            made => $"/register/{made}",
            () => OnGet(id, null, null, null, cancel)
        );

    /// <summary>What stands in a field of the one that takes its place.</summary>
    public string OfNew(RegisterField field, string usual)
    {
        ArgumentNullException.ThrowIfNull(field);
        return New().GetValueOrDefault(field.Id) ?? usual;
    }

    private Dictionary<string, string?> New() =>
        !Request.HasFormContentType
            ? []
            : RegisterFields
                .OfA(FieldOf.Assembly)
                .Where(f => Request.Form.ContainsKey($"new-{f.Id}"))
                .ToDictionary(f => f.Id, f => (string?)Request.Form[$"new-{f.Id}"].ToString());

    /// <summary>Keeps what happened to it.</summary>
    public async Task<IActionResult> OnPostEvent(
        Guid id,
        string? kind,
        DateOnly? day,
        string? note,
        CancellationToken cancel
    ) => await Said(id, await record.Of(id, kind, day, note, Author, cancel), cancel);

    /// <summary>Takes back what was kept by mistake.</summary>
    public async Task<IActionResult> OnPostBack(Guid id, Guid happened, CancellationToken cancel) =>
        await Said(id, await record.TakeBack(id, happened, Author, cancel), cancel);

    /// <summary>Says why no test can be made, or that one can again.</summary>
    public async Task<IActionResult> OnPostStuck(Guid id, string? reason, string? note, CancellationToken cancel) =>
        await Said(id, await record.Stuck(id, reason, note, Author, cancel), cancel);

    /// <summary>What stands in a field: as it was typed, or as it is kept.</summary>
    public string ValueOf(RegisterField field)
    {
        ArgumentNullException.ThrowIfNull(field);
        return Typed.GetValueOrDefault(field.Id) ?? RegisterValues.Of(Assembly, field) ?? "";
    }

    private Author Author => new(User.Name());

    // A box that is not ticked is not sent: it is a no.
    private Dictionary<string, string?> Values(FieldOf thing)
    {
        if (!Request.HasFormContentType)
            return Typed;
        foreach (var field in RegisterFields.OfA(thing).Where(f => f.IsTyped))
            if (field.Kind == FieldKind.YesNo)
                Typed[field.Id] = Request.Form.ContainsKey(field.Id) ? "yes" : "no";
            else if (Request.Form.TryGetValue(field.Id, out var typed))
                Typed[field.Id] = typed.ToString();
        return Typed;
    }

    private Task<IActionResult> Answered(Guid id, Reply<Edited> reply, CancellationToken cancel) =>
        this.Answer(
            reply,
            done => $"/register/{id}/edit?kept={done.Changed}&open={done.OpenRuns}",
            () => OnGet(id, null, null, null, cancel)
        );

    private Task<IActionResult> Said(Guid id, Reply<Guid> reply, CancellationToken cancel) =>
        this.Answer(reply, _ => $"/register/{id}/edit#happened", () => OnGet(id, null, null, null, cancel));
}
