using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Outside;
using Mordel.Data.Lists;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;
using Mordel.Simulators;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Outbox;

/// <summary>A letter, or a report on its way: what it says, how far it is, what came back.</summary>
public sealed class LetterModel(NoticeList list, OutboxBell bell, IFiles files, SimulatedMail? mail = null) : PageModel
{
    private const int LongestAnswer = 2000;

    public LetterView View { get; private set; } = null!;

    /// <summary>Whether the mail server is a stand-in, in whose place one can answer.</summary>
    public bool IsSimulated => mail is not null && View.Row.Way == OutboxWays.Mail;

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel)
    {
        if (await list.Letter(id, cancel) is not { } view)
            return NotFound();
        View = view;
        return Page();
    }

    /// <summary>The letter as the stand-in keeps it: a MIME message.</summary>
    public async Task<IActionResult> OnGetFile(Guid id, CancellationToken cancel) =>
        mail is not null
        && await list.Letter(id, cancel) is { Row.Way: OutboxWays.Mail } view
        && await files.Read(SimulatedMail.FileOf(view.Row.Key), cancel) is { } letter
            ? File(letter, "message/rfc822", "letter.eml")
            : NotFound();

    /// <summary>Answers in the place of who got it, or lets it come back.</summary>
    public async Task<IActionResult> OnPostAnswer(Guid id, string? text, bool bounce, CancellationToken cancel)
    {
        if (await OnGet(id, cancel) is not PageResult || mail is null || !IsSimulated)
            return NotFound();
        if (!bounce && (string.IsNullOrWhiteSpace(text) || text.Length > LongestAnswer))
            return this.Wrong($"Write an answer of up to {LongestAnswer} characters.");
        var says = bounce ? $"There is no mailbox {View.Row.To}." : text!.Trim();
        if (!await mail.Answer(View.Row.Key, says, bounce, cancel))
            return this.Wrong("It has not gone out yet: there is nothing to answer.");
        bell.Ring();
        return Redirect($"/outbox/{id}");
    }
}
