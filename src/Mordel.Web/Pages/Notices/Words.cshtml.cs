using System.Collections.Immutable;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Notices;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Lists;
using Mordel.Data.Outbox;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Notices;

/// <summary>The words of a notice, by rules and language, tried on something real.</summary>
public sealed class WordsModel(
    KeepNotices keep,
    NoticeTemplates templates,
    NoticePreview previews,
    INoticeSetter setter,
    MakeProfile rules
) : PageModel
{
    public NoticeKindEntry Kind { get; private set; } = NoticeKinds.All[0];
    public string Language { get; private set; } = NoticeLanguages.English.Tag;
    public string? Profile { get; private set; }

    /// <summary>What stands in the form.</summary>
    public NoticeTemplate Words { get; private set; } = new("", "");

    /// <summary>Whether the office has words of its own here.</summary>
    public bool IsOwn { get; private set; }

    /// <summary>How it reads for something in the register; null where it cannot be set.</summary>
    public SetNotice? Preview { get; private set; }
    public ImmutableArray<string> Faults { get; private set; } = [];

    /// <summary>The rules there are.</summary>
    public IReadOnlyList<string> Profiles { get; private set; } = [];

    public async Task<IActionResult> OnGet(string kind, string? language, string? profile, CancellationToken cancel)
    {
        if (!await Choose(kind, language, profile, cancel))
            return NotFound();
        Words = await templates.For(Kind.Kind, Profile, Language, cancel);
        await Try(cancel);
        return Page();
    }

    /// <summary>Shows how other words read, without keeping them.</summary>
    public async Task<IActionResult> OnPostTry(
        string kind,
        string? language,
        string? profile,
        string? subject,
        string? text,
        CancellationToken cancel
    )
    {
        if (!await Choose(kind, language, profile, cancel))
            return NotFound();
        Words = new(subject?.Trim() ?? "", text?.ReplaceLineEndings("\n").Trim() ?? "");
        await Try(cancel);
        return Page();
    }

    /// <summary>Keeps them.</summary>
    public async Task<IActionResult> OnPost(
        string kind,
        string? language,
        string? profile,
        string? subject,
        string? text,
        bool end,
        CancellationToken cancel
    )
    {
        if (!await Choose(kind, language, profile, cancel))
            return NotFound();
        Words = end ? new("", "") : new(subject?.Trim() ?? "", text?.ReplaceLineEndings("\n").Trim() ?? "");
        if (!end && Words.Text.Length == 0)
            return this.Wrong("A notice without words is none.");
        var reply = await keep.Words(kind, Profile, Language, Words, new(User.Name()), cancel);
        return await this.Answer(
            reply,
            _ => $"/notices/{kind}?language={Language}&profile={Uri.EscapeDataString(Profile ?? "")}",
            () => Try(cancel)
        );
    }

    private async Task<bool> Choose(string kind, string? language, string? profile, CancellationToken cancel)
    {
        if (NoticeKinds.Named(kind) is not { } entry)
            return false;
        Kind = entry;
        Language = NoticeLanguages.Of(language).Tag;
        Profile = string.IsNullOrEmpty(profile) ? null : profile;
        Profiles = [.. (await rules.Authorities(cancel)).Select(a => a.ProfileId).Distinct().Order()];
        IsOwn = (await templates.Latest(cancel)).Any(t =>
            t.Kind == entry.Id && t.Language == Language && t.ProfileId == Profile
        );
        return Profile is null || Profiles.Contains(Profile);
    }

    private async Task Try(CancellationToken cancel)
    {
        Faults = Words.Text.Length == 0 ? [] : setter.Faults(Words);
        Preview =
            Faults.IsEmpty && Words.Text.Length > 0
                ? setter.Set(Words, await previews.Of(Kind.Kind, Language, Profile, cancel))
                : null;
    }
}
