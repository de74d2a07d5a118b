using System.Diagnostics;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Data.Files;

namespace Mordel.Cli;

/// <summary>Diagnoses, and what they compare with.</summary>
public static class DiagnosisCommands
{
    /// <summary>Diagnoses evidence.</summary>
    public static async Task<int> Diagnose(string file, TextReader input, TextWriter output, TextWriter error)
    {
        var (text, code) = await InputText.Read(file, "evidence is a few hundred bytes", input, error);
        if (code != CommandLine.Done)
            return code;
        if (EvidenceFormat.Read(text, out var errors) is not { } evidence)
            return await InputText.Refuse(errors, error);
        try
        {
            var diagnosed = Diagnosing.Of(new AtlasShelf().Of(evidence.Body), evidence);
            await output.WriteLineAsync(DiagnosisFormat.Write(diagnosed));
            return CommandLine.Done;
        }
        catch (FormatException e)
        {
            await error.WriteLineAsync(e.Message);
            return CommandLine.CouldNot;
        }
    }

    // Cases between two times that the unfinished atlas is put down.
    private const int Batch = 64;

    /// <summary>
    /// Makes atlases. What was put down by one that was broken off is gone on with, when the model is still the same.
    /// </summary>
    /// <param name="type">A type, or a body as <c>RP/three-tap</c>; null for all.</param>
    /// <param name="into">The folder.</param>
    /// <param name="error">Where progress is told.</param>
    public static async Task<int> MakeAtlas(string? type, string into, TextWriter error)
    {
        var bodies = Bodies
            .All.Where(b =>
                type is null
                || string.Equals(b.Type.Name, type, StringComparison.OrdinalIgnoreCase)
                || string.Equals(Atlas.NameOf(b), type, StringComparison.OrdinalIgnoreCase)
            )
            .ToList();
        if (bodies.Count == 0)
        {
            await error.WriteLineAsync(
                $"\"{type}\" is not a type; {string.Join(", ", Bodies.All.Select(Atlas.NameOf))}"
            );
            return CommandLine.BadInput;
        }

        try
        {
            Directory.CreateDirectory(into);
            foreach (var body in bodies)
                await Make(body, into, error);
            return CommandLine.Done;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"{into}: cannot be written: {e.Message}");
            return CommandLine.CouldNot;
        }
    }

    private static async Task Make(AssemblyBody body, string into, TextWriter error)
    {
        var maker = new AtlasMaker(body);
        var model = maker.Model();
        var file = Path.Combine(into, Atlas.FileOf(body));
        var part = $"{file}.part";
        var rows = GoOnFrom(part, model);
        var clock = Stopwatch.StartNew();
        for (var (at, began) = (rows.Count, rows.Count); at < maker.Cases.Length; at = rows.Count)
        {
            var made = new AtlasRow[Math.Min(Batch, maker.Cases.Length - at)];
            Parallel.For(0, made.Length, i => made[i] = maker.Row(at + i));
            rows.AddRange(made);
            await File.WriteAllBytesAsync(part, AtlasFormat.Write(maker.Bind(model, [.. rows])));
            var left = clock.Elapsed * ((double)(maker.Cases.Length - rows.Count) / (rows.Count - began));
            await error.WriteLineAsync(
                FormattableString.Invariant(
                    $"{Atlas.NameOf(body)}: {rows.Count} of {maker.Cases.Length} cases, about {left:mm\\:ss} to go"
                )
            );
        }

        var bytes = AtlasFormat.Write(maker.Bind(model, [.. rows]));
        await File.WriteAllBytesAsync(part, bytes);
        File.Move(part, file, overwrite: true);
        await error.WriteLineAsync(
            FormattableString.Invariant($"{Atlas.NameOf(body)} {model}: {rows.Count} cases, {bytes.Length / 1024} KB")
        );
    }

    private static List<AtlasRow> GoOnFrom(string part, string model)
    {
        try
        {
            if (File.Exists(part) && AtlasFormat.Read(File.ReadAllBytes(part)) is { } begun && begun.Model == model)
                return [.. begun.Rows];
        }
        catch (FormatException)
        {
            // Broken off while it was written: from the beginning.
        }

        return [];
    }
}
