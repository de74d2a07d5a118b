using System.Security.Cryptography;
using Mordel.Core.Outside;
using Mordel.Core.Repairs;
using Mordel.Core.Runs;

namespace Mordel.Data.Commands.Repairs;

/// <summary>
/// Keeps a picture of a repair: made anew, in the folder of files, and only then named in the log. One that broke off
/// on its way leaves nothing behind.
/// </summary>
public sealed class KeepPhoto(IFiles files, IPhotoReader reader, TakeRepairEntry take)
{
    /// <summary>Keeps it; the same picture sent twice under its id stands once.</summary>
    /// <param name="repairId">The repair.</param>
    /// <param name="entry">The id that its entry gets.</param>
    /// <param name="of">What it shows.</param>
    /// <param name="file">The file as it was sent.</param>
    /// <param name="at">When it was taken.</param>
    /// <param name="by">Who took it.</param>
    /// <param name="name">Their name.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> Of(
        Guid repairId,
        EntryId entry,
        string of,
        ReadOnlyMemory<byte> file,
        DateTimeOffset at,
        Guid by,
        string name,
        CancellationToken cancel
    )
    {
        if (reader.Read(file, out var why) is not { } photo)
            return Reply<Guid>.Refused(why!);
        var hash = Convert.ToHexStringLower(SHA256.HashData(photo.Jpeg));
        var (large, small) = PhotoNames.Of(hash);
        try
        {
            await files.Keep(large, photo.Jpeg, cancel);
            await files.Keep(small, photo.Thumbnail, cancel);
        }
        catch (IOException)
        {
            return Reply<Guid>.Refused(
                "There is no room for the picture on the server. It is kept on this device; tell the office."
            );
        }

        return await take.Into(repairId, new(entry, at, name, new RepairBody.Pictured(hash, of)), by, cancel);
    }
}
