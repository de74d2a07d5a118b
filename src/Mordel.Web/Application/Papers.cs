using Mordel.Data.Commands.KitsAndPeople;

namespace Mordel.Web.Application;

/// <summary>Files of a form as papers.</summary>
public static class Papers
{
    /// <summary>The paper that was chosen; null where none was.</summary>
    public static async Task<HandedPaper?> AsPaper(this IFormFile? file, CancellationToken cancel)
    {
        if (file is null || file.Length == 0)
            return null;
        using var copy = new MemoryStream();
        await file.CopyToAsync(copy, cancel);
        return new(file.FileName, copy.ToArray());
    }
}
