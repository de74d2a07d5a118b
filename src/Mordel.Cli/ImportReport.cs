using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using Mordel.Core.Register;

namespace Mordel.Cli;

/// <summary>What became of a file: collects what a person should see, and writes it behind the counts.</summary>
internal sealed class ImportReport(TextWriter output)
{
    private static readonly JsonWriterOptions Form = new()
    {
        Indented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private readonly List<(int Line, LineState State, LineRemark Remark)> lines = [];

    public string? What { get; init; }

    public void Line(int number, LineState state, IEnumerable<LineRemark> remarks)
    {
        if (state is LineState.Wrong or LineState.Doubtful)
            lines.AddRange(remarks.Select(r => (number, state, r)));
    }

    private static string Name(LineState state) => state.ToString().ToLower(CultureInfo.InvariantCulture);

    public async Task End(Func<LineState, int> count)
    {
        using var all = new MemoryStream();
        await using (var json = new Utf8JsonWriter(all, Form))
        {
            json.WriteStartObject();
            json.WriteString("format", "mordel.import/1");
            if (What is { } what)
                json.WriteString("what", what);
            foreach (var state in Enum.GetValues<LineState>())
                json.WriteNumber(Name(state), count(state));
            json.WriteStartArray("lines");
            foreach (var (number, state, remark) in lines.OrderBy(l => l.Line))
            {
                json.WriteStartObject();
                json.WriteNumber("line", number);
                json.WriteString("state", Name(state));
                json.WriteString("column", remark.Column);
                json.WriteString("says", remark.Says);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteEndObject();
        }

        await output.WriteLineAsync(System.Text.Encoding.UTF8.GetString(all.ToArray()));
    }
}
