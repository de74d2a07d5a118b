using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Catalogue;
using Mordel.Data.Commands.Assemblies;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Register;

/// <summary>Adds an assembly to the register.</summary>
[Authorize(Policy = Policies.Desk)]
public sealed class NewModel(AddAssembly add) : PageModel
{
    public NewAssembly Entered { get; private set; } = new();

    /// <summary>The types that come in more than one form.</summary>
    public static IEnumerable<TypeFacts> WithBodies => AssemblyTypes.All.Where(t => t.HasChoiceOfBodies);

    public string[] Profiles { get; private set; } = [];

    public async Task OnGet(CancellationToken cancel) => Profiles = await add.Profiles(cancel);

    public async Task<IActionResult> OnPost(NewAssembly assembly, CancellationToken cancel)
    {
        Entered = assembly;
        return await this.Answer(await add.With(assembly, cancel), id => $"/register/{id}", () => OnGet(cancel));
    }
}
