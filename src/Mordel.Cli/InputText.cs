using Mordel.Core.Serialization;

namespace Mordel.Cli;

/// <summary>What was given to a command, and how it is refused.</summary>
public static class InputText
{
    private const long LargestFile = Node.LargestText;

    /// <summary>The text of a file, or of standard input for <c>-</c>.</summary>
    /// <param name="file">Where it is.</param>
    /// <param name="usual">How large such a file usually is, for whoever gives one too large.</param>
    /// <param name="input">Standard input.</param>
    /// <param name="error">Where a refusal is written.</param>
    public static async Task<(string Text, int Code)> Read(
        string file,
        string usual,
        TextReader input,
        TextWriter error
    )
    {
        try
        {
            if (file == "-" || new FileInfo(file) is not { Exists: true, Length: > LargestFile })
                return (
                    file == "-" ? await input.ReadToEndAsync() : await File.ReadAllTextAsync(file),
                    CommandLine.Done
                );
            await error.WriteLineAsync($"{file}: larger than {LargestFile / 1024 / 1024} MiB; {usual}");
            return ("", CommandLine.BadInput);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"{file}: cannot be read: {e.Message}");
            return ("", CommandLine.CouldNot);
        }
    }

    /// <summary>Writes errors, one a line, each with its place.</summary>
    public static async Task<int> Refuse(IEnumerable<InputError> errors, TextWriter error)
    {
        foreach (var wrong in errors)
            await error.WriteLineAsync(wrong.ToString());
        return CommandLine.BadInput;
    }
}
