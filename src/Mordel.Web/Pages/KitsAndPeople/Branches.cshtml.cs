using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.KitsAndPeople;

/// <summary>Branches: what each has, and how it stands there.</summary>
public sealed class BranchesModel(BranchList list, KeepBranches keep, ChangeList changes) : PageModel
{
    public IReadOnlyList<BranchLine> Lines { get; private set; } = [];
    public IReadOnlyList<BranchPart> Districts { get; private set; } = [];
    public IReadOnlyList<BranchPart> People { get; private set; } = [];
    public IReadOnlyList<BranchPart> Kits { get; private set; } = [];

    /// <summary>Who changed what of them, the latest first; people and kits have theirs.</summary>
    public IReadOnlyList<ChangeRow> Changes { get; private set; } = [];

    /// <summary>Whether who looks makes branches: who works for one does not.</summary>
    public bool MayKeep { get; private set; }

    /// <summary>The branch whose form stands open, since something is wrong in it; empty for the new one.</summary>
    public Guid? Opened { get; private set; }

    /// <summary>What was typed there.</summary>
    public TypedBranch? Typed { get; private set; }

    public async Task OnGet(CancellationToken cancel)
    {
        Lines = await list.All(cancel);
        (Districts, People, Kits) = await list.Parts(cancel);
        Changes = await changes.Of([.. Lines.Select(l => l.Branch.Id)], cancel);
        MayKeep = User.IsInRole(Roles.Owner) || (await list.For(User.Id(), cancel)).Own is null;
    }

    /// <summary>Makes a branch, or says anew what one has.</summary>
    public async Task<IActionResult> OnPost(Guid? id, TypedBranch branch, CancellationToken cancel)
    {
        (Opened, Typed) = (id ?? Guid.Empty, branch);
        return await Answer(await keep.Keep(id, branch, new(User.Name()), cancel), cancel);
    }

    /// <summary>Takes a branch away.</summary>
    public async Task<IActionResult> OnPostRemove(Guid id, CancellationToken cancel) =>
        await Answer(await keep.Remove(id, new(User.Name()), cancel), cancel);

    /// <summary>What a form holds of a branch: as it was typed, else as it is.</summary>
    public BranchForm Form(BranchLine? line)
    {
        var id = line?.Branch.Id ?? Guid.Empty;
        var typed = Opened == id ? Typed : null;
        return new(
            line,
            typed?.Name ?? line?.Branch.Name ?? "",
            [
                ("districts", "Districts that it looks after", Marked(Districts, line, typed?.Districts)),
                ("people", "Who works for it", Marked(People, line, typed?.People?.Select(p => $"{p}"))),
                ("kits", "Its kits", Marked(Kits, line, typed?.Kits?.Select(k => $"{k}"))),
            ],
            Opened == id
        );
    }

    /// <summary>Where else something is; null where it is nowhere else.</summary>
    public string? Elsewhere(BranchPart part, BranchLine? line)
    {
        ArgumentNullException.ThrowIfNull(part);
        return part.Branch is { } of && of != line?.Branch.Id
            ? Lines.FirstOrDefault(l => l.Branch.Id == of)?.Branch.Name
            : null;
    }

    private static List<(BranchPart Part, bool Has)> Marked(
        IReadOnlyList<BranchPart> parts,
        BranchLine? line,
        IEnumerable<string>? typed
    )
    {
        var chosen = typed?.ToHashSet();
        return [.. parts.Select(p => (p, chosen?.Contains(p.Id) ?? (line is not null && p.Branch == line.Branch.Id)))];
    }

    private Task<IActionResult> Answer(Reply<Guid> reply, CancellationToken cancel) =>
        this.Answer(reply, _ => "/kits-and-people/branches", () => OnGet(cancel));
}

/// <summary>A branch's form.</summary>
/// <param name="Line">The branch; null for a new one.</param>
/// <param name="Name">Its name.</param>
/// <param name="Sets">What it may have, by the field of the form, with a head, each marked where it has it.</param>
/// <param name="IsOpen">Whether it stands open.</param>
public sealed record BranchForm(
    BranchLine? Line,
    string Name,
    IReadOnlyList<(string Field, string Head, IReadOnlyList<(BranchPart Part, bool Has)> Parts)> Sets,
    bool IsOpen
);
