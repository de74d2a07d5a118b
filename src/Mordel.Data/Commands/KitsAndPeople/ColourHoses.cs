using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>Sets the colours of a kit's hoses as its keeper sees them.</summary>
public sealed class ColourHoses(Store store, ChangeLog log)
{
    /// <summary>The colours there are to choose from.</summary>
    public static readonly string[] Colours = ["red", "blue", "yellow", "green", "black", "white", "grey", "orange"];

    public async Task<Reply<Guid>> Of(
        Guid kitId,
        Guid who,
        bool atTheDesk,
        string? high,
        string? low,
        string? bypass,
        Author author,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var kit = await store.Kits.FirstOrDefaultAsync(k => k.Id == kitId && (atTheDesk || k.KeeperId == who), cancel);
        fields.That("kitId", kit is not null, "There is no such kit of yours.");
        var chosen = string.Join(
            ' ',
            fields.OneOf("high", high, "High hose", Colours),
            fields.OneOf("low", low, "Low hose", Colours),
            fields.OneOf("bypass", bypass, "Bypass hose", Colours)
        );
        if (fields.Any)
            return fields;
        log.Write(author, Things.Kit, kit!.Id, "hoses", kit.HoseColours ?? "", chosen);
        kit.HoseColours = chosen;
        await store.SaveChangesAsync(cancel);
        return kit.Id;
    }
}
