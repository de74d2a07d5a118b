using System.Collections.Frozen;

namespace Mordel.Core.Notices;

/// <summary>The notices that come with Mordel; an office can have its own in their place.</summary>
public static partial class BuiltInNotices
{
    private static readonly FrozenDictionary<string, FrozenDictionary<NoticeKind, NoticeTemplate>> ByLanguage =
        new Dictionary<string, FrozenDictionary<NoticeKind, NoticeTemplate>>
        {
            [NoticeLanguages.English.Tag] = InEnglish(),
            [NoticeLanguages.German.Tag] = InGerman(),
        }.ToFrozenDictionary();

    /// <summary>The notice of a kind, in a language; in English where there is none in it.</summary>
    public static NoticeTemplate Of(NoticeKind kind, string? language) =>
        ByLanguage[NoticeLanguages.Of(language).Tag][kind];

    private static FrozenDictionary<NoticeKind, NoticeTemplate> All(
        string each,
        string foot,
        params (NoticeKind Kind, string Subject, string Text)[] notices
    ) =>
        notices.ToFrozenDictionary(
            n => n.Kind,
            n => new NoticeTemplate(n.Subject, $"{n.Text.Replace("<EACH>", each, StringComparison.Ordinal)}\n\n{foot}")
        );
}
