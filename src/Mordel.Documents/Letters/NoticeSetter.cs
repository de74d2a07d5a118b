using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.RegularExpressions;
using Fluid;
using Fluid.Values;
using Mordel.Core.Notices;

namespace Mordel.Documents.Letters;

/// <summary>
/// Sets notices with the Liquid templates of Fluid. A template sees the words of a notice and nothing else; as HTML
/// every value is escaped, and what looks like an address becomes a link.
/// </summary>
public sealed partial class NoticeSetter : INoticeSetter
{
    // A template is a few lines; more steps, or a longer letter, is a mistake or an attack.
    private const int MostSteps = 20_000,
        LongestLetter = 60_000,
        MostRemembered = 200;

    private static readonly FluidParser Parser = new();
    private readonly ConcurrentDictionary<string, IFluidTemplate> parsed = new();

    /// <inheritdoc/>
    public ImmutableArray<string> Faults(NoticeTemplate template)
    {
        ArgumentNullException.ThrowIfNull(template);
        var faults = ImmutableArray.CreateBuilder<string>();
        if (string.IsNullOrWhiteSpace(template.Subject) || template.Subject.Length > NoticeTemplate.LongestSubject)
            faults.Add($"The subject has from 1 to {NoticeTemplate.LongestSubject} characters.");
        if (template.Subject.Any(char.IsControl))
            faults.Add("The subject is one line.");
        if (string.IsNullOrWhiteSpace(template.Text) || template.Text.Length > NoticeTemplate.LongestText)
            faults.Add($"The letter has from 1 to {NoticeTemplate.LongestText} characters.");
        if (faults.Count > 0)
            return faults.ToImmutable();
        foreach (var (name, source) in new[] { ("subject", template.Subject), ("letter", template.Text) })
        {
            if (!Parser.TryParse(source, out var fluid, out var error))
            {
                faults.Add($"The {name} cannot be read: {error.Trim()}");
                continue;
            }

            var unknown = new UnknownWords();
            unknown.VisitTemplate(fluid);
            faults.AddRange(unknown.Found.Select(w => $"The {name} says \u201c{w}\u201d, and there is no such word."));
            if (unknown.Found.Count > 0)
                continue;
            try
            {
                _ = Render(fluid, NoticeFacts.Example, NullEncoder.Default);
            }
            catch (FormatException e)
            {
                faults.Add($"The {name} cannot be set: {e.Message}");
            }
        }

        return faults.ToImmutable();
    }

    /// <inheritdoc/>
    public SetNotice Set(NoticeTemplate template, NoticeFacts facts)
    {
        ArgumentNullException.ThrowIfNull(template);
        ArgumentNullException.ThrowIfNull(facts);
        var subject = string.Join(
            ' ',
            Render(Parsed(template.Subject), facts, NullEncoder.Default)
                .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
        );
        var text = Tidy(Render(Parsed(template.Text), facts, NullEncoder.Default));
        var html = Tidy(Render(Parsed(template.Text), facts, HtmlEncoder.Default));
        return new(subject, text, Html(html));
    }

    private IFluidTemplate Parsed(string source)
    {
        if (parsed.TryGetValue(source, out var known))
            return known;
        if (!Parser.TryParse(source, out var fluid, out var error))
            throw new FormatException(error);
        if (parsed.Count < MostRemembered)
            parsed[source] = fluid;
        return fluid;
    }

    private static string Render(IFluidTemplate fluid, NoticeFacts facts, TextEncoder encoder)
    {
        var context = new TemplateContext(
            new TemplateOptions { MaxSteps = MostSteps, MemberAccessStrategy = new DefaultMemberAccessStrategy() }
        );
        foreach (var (word, value) in facts.Words)
            context.SetValue(word, Said(value));
        context.SetValue(
            NoticeWords.Assemblies,
            new ArrayValue([
                .. facts.Assemblies.Select(a =>
                    (FluidValue)
                        new DictionaryValue(
                            new FluidValueDictionaryFluidIndexable(a.ToDictionary(w => w.Key, w => Said(w.Value)))
                        )
                ),
            ])
        );
        string letter;
        try
        {
            letter = fluid.Render(context, encoder);
        }
        catch (Exception e) when (e is InvalidOperationException or ArgumentException or ParseException)
        {
            throw new FormatException(e.Message, e);
        }

        return letter.Length <= LongestLetter
            ? letter
            : throw new FormatException($"It becomes longer than {LongestLetter} characters.");
    }

    // What is empty counts as not there: {% if phone %}.
    private static FluidValue Said(string value) => value.Length == 0 ? NilValue.Instance : new StringValue(value);

    // One empty line between paragraphs, none at the ends, no spaces at the end of a line.
    private static string Tidy(string text)
    {
        var lines = text.ReplaceLineEndings("\n").Split('\n').Select(l => l.TrimEnd());
        var tidy = new StringBuilder();
        var empty = true;
        foreach (var line in lines)
        {
            if (line.Length > 0 || !empty)
                tidy.Append(line).Append('\n');
            empty = line.Length == 0;
        }

        return tidy.ToString().Trim('\n');
    }

    private static string Html(string encoded)
    {
        var linked = Address().Replace(encoded, "<a href=\"$0\">$0</a>");
        var paragraphs = linked
            .Split("\n\n")
            .Select(p => $"<p>{p.Replace("\n", "<br>", StringComparison.Ordinal)}</p>");
        return string.Join('\n', paragraphs);
    }

    [GeneratedRegex(@"https?://[^\s<>""']+|\[\[page\]\]", RegexOptions.CultureInvariant)]
    private static partial Regex Address();
}
