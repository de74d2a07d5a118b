using Mordel.Core.Rules;

namespace Mordel.Web.Pages.Rules;

// What things are called on the reports.
public sealed partial class ChangeModel
{
    /// <summary>Whether the form has words of its own.</summary>
    public bool HasWords => From.Words != FormWords.None || !ModelState.IsValid;

    /// <summary>What can be called otherwise on the report: outcomes, then the items of these schools.</summary>
    public IReadOnlyList<(string What, string Usual)> Called => CalledIn(From);

    private static IReadOnlyList<(string What, string Usual)> CalledIn(Profile profile) =>
        [
            .. FormWords.Outcomes.Select(o => (o, $"{char.ToUpperInvariant(o[0])}{o[1..].Replace('-', ' ')}")),
            .. profile.Schools.SelectMany(s => s.Items).Select(r => (r.Item.Id, r.Item.Name)).Distinct(),
        ];

    private FormWords Words(Profile source)
    {
        if (Field("w.title") is null)
            return source.Words;
        string? Text(string field, string what, int most)
        {
            var text = (Field(field) ?? "").ReplaceLineEndings(" ").Trim();
            if (text.Length == 0)
                return null;
            var why = FormWords.WhyNot(text, most);
            wanted.That(field, why is null, $"{what}: {why}.");
            return why is null ? text : null;
        }

        return new()
        {
            Title = Text("w.title", "Title of the report", FormWords.LongestTitle),
            Declaration = Text("w.declaration", "Declared with the signature", FormWords.LongestDeclaration),
            Names =
            [
                .. from called in CalledIn(source)
                let name = Text($"w.{called.What}", called.Usual, FormWords.LongestName)
                where name is not null
                select new FormName(called.What, name),
            ],
        };
    }
}
