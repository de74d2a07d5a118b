using Mordel.Data.Startup;

namespace Mordel.Data.Backups;

/// <summary>Why a backup could not be made or put back.</summary>
public static class BackupTrouble
{
    /// <summary>In a sentence; null for what nobody has foreseen.</summary>
    public static string? Says(Exception e) =>
        StoreTrouble.Says(e)
        ?? (e is StartRefusedException or IOException or UnauthorizedAccessException ? e.Message : null);
}
