using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Account;

/// <summary>Makes the owner of a fresh installation; closed as soon as anybody exists.</summary>
[EnableRateLimiting(Limits.SignIn)]
public sealed class FirstAccountModel(UserManager<Data.Rows.Account> users, SignInManager<Data.Rows.Account> signIn) : PageModel
{
    public IReadOnlyList<string> Problems { get; private set; } = [];
    public string? FullName { get; private set; }
    public string? UserName { get; private set; }

    public async Task<IActionResult> OnGet(CancellationToken cancel) => await Closed(cancel) ? Redirect("/sign-in") : Page();

    public async Task<IActionResult> OnPost(string? fullName, string? userName, string? password, CancellationToken cancel)
    {
        if (await Closed(cancel)) return Redirect("/sign-in");
        (FullName, UserName) = (fullName, userName);
        if (string.IsNullOrWhiteSpace(fullName) || fullName.Length > 120)
        {
            Problems = ["Give the full name; reports carry it."];
            return Page();
        }

        var account = new Data.Rows.Account { Id = Guid.CreateVersion7(), UserName = userName, FullName = fullName.Trim() };
        var made = await users.CreateAsync(account, password ?? "");
        if (!made.Succeeded)
        {
            Problems = [.. made.Errors.Select(e => e.Description)];
            return Page();
        }

        await users.AddToRolesAsync(account, [Roles.Owner, Roles.Tester]);
        await signIn.SignInAsync(account, isPersistent: true);
        return Redirect("/");
    }

    private async Task<bool> Closed(CancellationToken cancel) => await users.Users.AnyAsync(cancel);
}
