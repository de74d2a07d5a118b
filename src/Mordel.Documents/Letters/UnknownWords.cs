using Fluid.Ast;
using Mordel.Core.Notices;

namespace Mordel.Documents.Letters;

/// <summary>Walks a template and finds what it says that no notice knows.</summary>
internal sealed class UnknownWords : AstVisitor
{
    private readonly HashSet<string> letter =
    [
        .. NoticeWords.OfLetter.Select(w => w.Name),
        NoticeWords.Assemblies,
        "forloop",
    ];

    private readonly HashSet<string> assembly = [.. NoticeWords.OfAssembly.Select(w => w.Name)];
    private readonly HashSet<string> loops = [];

    /// <summary>What was found.</summary>
    public SortedSet<string> Found { get; } = new(StringComparer.Ordinal);

    /// <inheritdoc/>
    protected override Statement VisitForStatement(ForStatement forStatement)
    {
        loops.Add(forStatement.Identifier);
        return base.VisitForStatement(forStatement);
    }

    /// <inheritdoc/>
    protected override Expression VisitMemberExpression(MemberExpression memberExpression)
    {
        var names = memberExpression.Segments.OfType<IdentifierSegment>().Select(s => s.Identifier).ToList();
        if (names is [var first, ..])
        {
            if (!letter.Contains(first) && !loops.Contains(first))
                Found.Add(first);
            else if (loops.Contains(first) && names.Count > 1 && !assembly.Contains(names[1]))
                Found.Add($"{first}.{names[1]}");
        }

        return base.VisitMemberExpression(memberExpression);
    }
}
