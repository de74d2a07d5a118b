using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Notices;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Notices;

/// <summary>All notices: when each goes out, and in whose words.</summary>
public sealed class IndexModel(KeepNotices keep, NoticeTemplates templates, NoticeWriter writer) : PageModel
{
    public IReadOnlySet<NoticeKind> Off { get; private set; } = new HashSet<NoticeKind>();
    public IReadOnlyList<NoticeTemplateRow> Own { get; private set; } = [];
    public bool CanSend => writer.CanSend;

    public async Task OnGet(CancellationToken cancel) =>
        (Off, Own) = (await keep.Off(cancel), await templates.Latest(cancel));

    /// <summary>A kind goes out, or does not.</summary>
    public async Task<IActionResult> OnPostSwitch(string? kind, bool off, CancellationToken cancel) =>
        await this.Answer(await keep.Switch(kind, off, cancel), k => $"/notices#{k}", () => OnGet(cancel));
}
