namespace Mordel.Core.Outside;

/// <summary>A picture as it is kept: made anew from what was sent, with nothing of the sent file in it.</summary>
/// <param name="Jpeg">The picture.</param>
/// <param name="Thumbnail">A small one, for lists.</param>
public sealed record KeptPhoto(byte[] Jpeg, byte[] Thumbnail);

/// <summary>Where a picture lies among the files.</summary>
public static class PhotoNames
{
    /// <summary>The picture, and the small one, by the SHA-256 of what is in it.</summary>
    public static (string Large, string Small) Of(string photo) => ($"photos/{photo}.jpg", $"photos/{photo}-s.jpg");
}

/// <summary>
/// Makes pictures that can be kept out of files that anybody may have made: decoded, turned upright, shrunk and
/// encoded anew, so that places, names and whatever else stood in the file stay behind.
/// </summary>
public interface IPhotoReader
{
    /// <summary>The largest file that is read, in bytes.</summary>
    const int LargestFile = 12 * 1024 * 1024;

    /// <summary>The longer edge of what is kept, in pixels.</summary>
    const int LongEdge = 1600;

    /// <summary>Reads a file; null, with a sentence for the person, where it is no picture that can be kept.</summary>
    KeptPhoto? Read(ReadOnlyMemory<byte> file, out string? why);
}
