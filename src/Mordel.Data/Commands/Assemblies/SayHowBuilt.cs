using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Data.Lists;

namespace Mordel.Data.Commands.Assemblies;

/// <summary>Says how a make and model is built: for every assembly of it.</summary>
public sealed class SayHowBuilt(Store store, TimeProvider clock)
{
    /// <summary>Says it.</summary>
    /// <param name="assemblyId">One of them.</param>
    /// <param name="family">The family of its checks or inlet; empty for "not known".</param>
    /// <param name="relief">The family of its relief valve; empty for "not known" or none.</param>
    /// <param name="by">Who says it.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> Of(
        Guid assemblyId,
        string? family,
        string? relief,
        string by,
        CancellationToken cancel
    )
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Assemblies.FirstOrDefaultAsync(a => a.Id == assemblyId, cancel) is not { } assembly)
            return Reply<Guid>.NotFound("There is no such assembly.");
        var type = AssemblyTypes.Parse(assembly.Type);
        if (!IsOne(family, ModelBuilds.Inside(type)) || !IsOne(relief, ModelBuilds.Reliefs(type)))
            return Reply<Guid>.Refused($"No {assembly.Type} is built like that. Choose one of those shown.");
        var row = await store.ModelBuilds.FirstOrDefaultAsync(
            b => b.Make == assembly.Make && b.Model == assembly.Model,
            cancel
        );
        if (row is null)
            store.ModelBuilds.Add(
                row = new()
                {
                    Make = assembly.Make,
                    Model = assembly.Model,
                    SaidBy = by,
                }
            );
        (row.Family, row.Relief) = (Named(family), Named(relief));
        (row.SaidAt, row.SaidBy) = (clock.Now(), by);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return assemblyId;
    }

    private static bool IsOne(string? id, IEnumerable<ConstructionFamily> of) =>
        Named(id) is null || of.Any(f => f.Id == id);

    private static string? Named(string? id) => string.IsNullOrEmpty(id) ? null : id;
}
