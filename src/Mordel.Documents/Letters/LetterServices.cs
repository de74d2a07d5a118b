using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Notices;
using Mordel.Core.Outside;
using Mordel.Documents.Interchange;

namespace Mordel.Documents.Letters;

/// <summary>What whoever hosts letters can ask for.</summary>
public static class LetterServices
{
    /// <summary>Adds the setting of notices, tables as files, and MIME letters of a sender.</summary>
    public static IServiceCollection AddLetters(this IServiceCollection services, LetterSender sender) =>
        services
            .AddSingleton<INoticeSetter, NoticeSetter>()
            .AddSingleton<ICsvWriter, CsvFile>()
            .AddSingleton(sender)
            .AddSingleton<MimeLetters>()
            .AddSingleton<IMimeLetters>(all => all.GetRequiredService<MimeLetters>());
}
