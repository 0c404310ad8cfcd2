using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using NetVips;
using VividSleuth.Core;
using VividSleuth.Core.Measures;

namespace VividSleuth.Store.Look;

/// <summary>A picture taken in: upright, without metadata, in two sizes, with proof of the file it came from.</summary>
public sealed record TakenIn(string Sha256, string Sha512, int Width, int Height, byte[] Original, PhotoContent Content);

/// <summary>Takes pictures in with libvips.</summary>
public static class PhotoIntake
{
    public const long MostBytes = 40L * 1024 * 1024;

    /// <summary>Pixels of the largest picture of a camera, decoded line by line and shrunk on the way.</summary>
    private const long MostPixels = 120_000_000;

    /// <summary>Pixels of one that a decoder goes over in full size.</summary>
    private const long MostPixelsInFull = 40_000_000;

    /// <summary>Bytes that a decoder may hold at once.</summary>
    private const long MostHeld = 200L * 1024 * 1024;

    /// <summary>Pixels times passes: a progressive picture has some ten, and a hostile one as many as it has bytes.</summary>
    private const long MostWork = 900_000_000;

    /// <summary>Up to here a picture is an ordinary one, which waits for no other kind.</summary>
    private const long OrdinaryHeld = 64L * 1024 * 1024;

    /// <summary>An ordinary picture takes a tenth of a second.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(15);

    private const int ViewSize = 1600;
    private const int ThumbSize = 320;
    private const int Quality = 82;

    static PhotoIntake()
    {
        // Every picture is read once, so remembered results gain nothing. A buffer's address may be used again; that an earlier
        // picture came back was never seen, and is not risked.
        Cache.Max = 0;

        // What is wrong with a file is told to whoever sent it; the log is not filled by strangers.
        Log.SetLogHandler("VIPS", Enums.LogLevelFlags.Warning, (_, _, _) => { });

        // Else the allocator learns from the first large picture to keep such blocks for itself, and holds the sum of all peaks.
        NativeMemory.GiveBackFrom(256 * 1024);
    }

    // Pictures taken in at one time; more wait, so that memory stays bounded however many are sent at once. What is slow waits for its like only.
    private static readonly SemaphoreSlim Ordinary = new(2);
    private static readonly SemaphoreSlim Heavy = new(1);
    private static readonly SemaphoreSlim Hands = new(8);
    private const int MostHeavyWaiting = 3;
    private static int _heavyWaiting;
    private static int _waiting;

    /// <summary>Pictures that have come and wait to be taken in.</summary>
    public static int Waiting => Volatile.Read(ref _waiting);

    /// <summary>Stores the original, unless the same file is there already, and the sizes made of it.</summary>
    public static async Task StoreAsync(this SleuthDb db, TakenIn taken, CancellationToken cancel)
    {
        await db.StoreOriginalAsync(taken.Sha256, taken.Sha512, taken.Original, cancel);
        db.PhotoContents.Add(taken.Content);
    }

    /// <summary>The same of a picture as it comes in, of which only so many are held at once.</summary>
    public static async Task<TakenIn> TakeAsync(Guid photoId, string fileName, Stream stream, long length, CancellationToken cancel)
    {
        await Hands.WaitAsync(cancel);
        try
        {
            var data = new byte[length];
            await stream.ReadExactlyAsync(data, cancel);
            return await TakeAsync(photoId, fileName, data, cancel);
        }
        finally
        {
            Hands.Release();
        }
    }

    /// <summary>Takes a picture in, within bounds of memory and time that are known before anything is decoded.</summary>
    /// <exception cref="BusyException">Too many costly ones are waiting already.</exception>
    /// <exception cref="ProblemException">The file is no picture that can be read, or one too costly to read; the problem names it.</exception>
    public static async Task<TakenIn> TakeAsync(Guid photoId, string fileName, byte[] data, CancellationToken cancel)
    {
        var head = Weigh(fileName, data);
        var isOrdinary = head.Held <= OrdinaryHeld && head.Passes < 16;
        if (!isOrdinary && Interlocked.Increment(ref _heavyWaiting) > MostHeavyWaiting)
        {
            Interlocked.Decrement(ref _heavyWaiting);
            throw new BusyException();
        }

        var lane = isOrdinary ? Ordinary : Heavy;
        Interlocked.Increment(ref _waiting);
        try
        {
            await lane.WaitAsync(cancel);
        }
        finally
        {
            Interlocked.Decrement(ref _waiting);
            _ = isOrdinary ? 0 : Interlocked.Decrement(ref _heavyWaiting);
        }

        // It goes on where the one who waits has gone, or has waited long enough: its place is free only when it has ended.
        var taking = Task.Run(
            () =>
            {
                try
                {
                    return Take(photoId, fileName, data);
                }
                finally
                {
                    lane.Release();
                }
            },
            CancellationToken.None
        );
        try
        {
            return await taking.WaitAsync(Longest + Longest, cancel);
        }
        catch (TimeoutException)
        {
            throw Refuse(fileName, "server.picture-takes-too-long");
        }
    }

    /// <summary>What it would cost to decode the file.</summary>
    /// <exception cref="ProblemException">It is none, is cut off, or would cost too much.</exception>
    private static PictureHead Weigh(string fileName, byte[] data)
    {
        if (data.Length == 0)
        {
            throw Refuse(fileName, "server.picture-empty");
        }

        if (data.Length > MostBytes)
        {
            throw Refuse(fileName, "server.picture-too-large", ("most", MostBytes / 1024 / 1024));
        }

        var head = PictureHead.Read(data) ?? throw Refuse(fileName, "server.no-picture");
        // The decoder that ships knows AVIF and not HEVC, in which phones keep pictures to themselves.
        if (head.Kind == PictureKind.Heif && data.AsSpan(8, Math.Min(40, data.Length - 8)).IndexOf("avif"u8) < 0)
        {
            throw Refuse(fileName, "server.picture-of-a-phone-only");
        }

        var most = head.Kind == PictureKind.Jpeg && head.Passes == 1 ? MostPixels : MostPixelsInFull;
        if (head.Width is 0 or > 100_000 || head.Height is 0 or > 100_000 || head.Pixels > most)
        {
            throw Refuse(fileName, "server.picture-of-too-many-pixels", ("width", head.Width), ("height", head.Height), ("most", most / 1_000_000));
        }

        if (head.Held > MostHeld || head.Pixels * head.Passes > MostWork)
        {
            throw Refuse(fileName, "server.picture-takes-too-long");
        }

        return head.IsWhole ? head : throw Refuse(fileName, "server.picture-damaged");
    }

    private static TakenIn Take(Guid photoId, string fileName, byte[] data)
    {
        using var slow = new CancellationTokenSource(Longest);
        try
        {
            // Shrinks while it decodes and turns the picture upright; the thumbnail is made of the view, not decoded again.
            using var view = NetVips.Image.ThumbnailBuffer(data, ViewSize, height: ViewSize, size: Enums.Size.Down, failOn: Enums.FailOn.Truncated);
            using var flat = view.HasAlpha() ? view.Flatten(background: [255]) : view.Copy();
            flat.SetProgress(progress: null, slow.Token);
            using var memory = flat.CopyMemory();
            using var thumb = memory.ThumbnailImage(ThumbSize, height: ThumbSize, size: Enums.Size.Down);
            var sha256 = Convert.ToHexStringLower(SHA256.HashData(data));
            var content = new PhotoContent
            {
                PhotoId = photoId,
                Sha256 = sha256,
                View = Jpeg(memory),
                Thumb = Jpeg(thumb),
            };
            return new TakenIn(sha256, Convert.ToHexStringLower(SHA512.HashData(data)), memory.Width, memory.Height, data, content);
        }
        catch (VipsException)
        {
            throw Refuse(fileName, slow.IsCancellationRequested ? "server.picture-takes-too-long" : "server.picture-damaged");
        }
    }

    private static byte[] Jpeg(NetVips.Image image) => image.JpegsaveBuffer(q: Quality, keep: Enums.ForeignKeep.None);

    private static ProblemException Refuse(string fileName, string code, params IReadOnlyList<(string Name, object? Value)> with) =>
        new(Problem.Of("file", code, [("file", fileName), .. with]));
}
