using System.Runtime.InteropServices;

namespace Mordel.Data.Startup;

/// <summary>Whatever this process makes is its owner's alone: customers, keys and reports are in it.</summary>
public static partial class OwnFiles
{
    private const uint NobodyElse = 0b000_111_111;

    /// <summary>From now on files are 0600 and folders 0700; what is there keeps its rights.</summary>
    public static void Alone()
    {
        if (!OperatingSystem.IsWindows())
            _ = Umask(NobodyElse);
    }

    [LibraryImport("libc", EntryPoint = "umask")]
    private static partial uint Umask(uint mask);
}
