using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Notices;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Outbox;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Notices;

/// <summary>Letters about what is due: looked at first, then sent.</summary>
public sealed class SendModel(TellOwners tell) : PageModel
{
    public NoticeKindEntry Kind { get; private set; } = NoticeKinds.Of(NoticeKind.Due);
    public IReadOnlyList<Guid> Ids { get; private set; } = [];

    /// <summary>What would be sent; null where nothing was marked.</summary>
    public ToldThem? Look { get; private set; }

    /// <summary>How many letters went.</summary>
    public int? Sent { get; private set; }

    /// <summary>The kinds that can be chosen.</summary>
    public static IEnumerable<NoticeKindEntry> Kinds => NoticeKinds.All.Where(k => !k.ByItself);

    public void OnGet(int? sent) => Sent = sent;

    /// <summary>Shows what would be sent.</summary>
    public async Task<IActionResult> OnPostLook(List<Guid> ids, string? kind, CancellationToken cancel)
    {
        Kind = NoticeKinds.Named(kind) ?? Kind;
        Ids = ids;
        var look = await tell.Look(Kind.Kind, ids, cancel);
        if (look.Why is not null)
            this.Say(look.Errors);
        Look = look.Value;
        return Page();
    }

    /// <summary>Sends it.</summary>
    public async Task<IActionResult> OnPost(List<Guid> ids, string? kind, CancellationToken cancel)
    {
        var entry = NoticeKinds.Named(kind) ?? Kind;
        return await this.Answer(
            await tell.Send(entry.Kind, ids, new(User.Name()), cancel),
            sent => $"/notices/send?sent={sent}",
            async () => await OnPostLook(ids, kind, cancel)
        );
    }
}
