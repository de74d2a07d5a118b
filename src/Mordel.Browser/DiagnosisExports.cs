using System.Runtime.InteropServices.JavaScript;
using System.Runtime.Versioning;
using Mordel.Core.Diagnosis;
using Mordel.Core.Serialization;

namespace Mordel.Browser;

/// <summary>The diagnosis as a page's script sees it: one atlas at a time.</summary>
[SupportedOSPlatform("browser")]
public static partial class DiagnosisExports
{
    private static Atlas? atlas;

    /// <summary>Takes an atlas; answers nothing, or why it cannot be used.</summary>
    [JSExport]
    public static string Open(byte[] file)
    {
        try
        {
            atlas = AtlasFormat.Read(file);
            return "";
        }
        catch (FormatException e)
        {
            return e.Message;
        }
    }

    /// <summary><c>mordel.evidence/1</c> in, <c>mordel.diagnosis/1</c> out, as the server answers it.</summary>
    [JSExport]
    public static string Diagnose(string evidence) =>
        EvidenceFormat.Read(evidence, out var errors) is not { } read ? PageExports.Wrong(errors)
        : atlas is null || Atlas.FileOf(atlas.Body) != Atlas.FileOf(read.Body)
            ? PageExports.Wrong([new("", $"the atlas {Atlas.FileOf(read.Body)} is not open")])
        : DiagnosisFormat.Write(Diagnosing.Of(atlas, read));

    /// <summary>The board of a log, in words; empty where the log is not of this release or no atlas is open.</summary>
    [JSExport]
    public static string Board(string log)
    {
        try
        {
            return atlas is null ? "" : BoardFormat.Answer(atlas, log);
        }
        catch (FormatException)
        {
            return "";
        }
    }
}
