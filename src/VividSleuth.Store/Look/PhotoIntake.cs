using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using NetVips;
using VividSleuth.Core;
using VividSleuth.Core.Measures;

namespace VividSleuth.Store.Look;

/// <summary>A picture taken in: upright, without metadata, in two sizes, with proof of the file it came from.</summary>
public sealed record TakenIn(string Sha256, int Width, int Height, byte[] Original, PhotoContent Content);

/// <summary>Takes pictures in with libvips.</summary>
public static class PhotoIntake
{
    public const long MostBytes = 40L * 1024 * 1024;
    private const long MostPixels = 120_000_000;
    private const int ViewSize = 1600;
    private const int ThumbSize = 320;
    private const int Quality = 82;

    // libvips names the loader by what the bytes are; whatever is not on this list, SVG and PDF among it, never reaches a decoder.
    private static readonly string[] Loaders =
    [
        "VipsForeignLoadJpegBuffer",
        "VipsForeignLoadPngBuffer",
        "VipsForeignLoadWebpBuffer",
        "VipsForeignLoadHeifBuffer",
    ];

    static PhotoIntake()
    {
        // Every picture is read once, so remembered results gain nothing. A buffer's address may be used again; that an earlier
        // picture came back was never seen, and is not risked.
        Cache.Max = 0;
    }

    /// <summary>Pictures taken in at one time; more wait, so that memory stays bounded however many are sent at once.</summary>
    public static SemaphoreSlim Gate { get; } = new(2);

    /// <summary>Stores the original, unless the same file is there already, and the sizes made of it.</summary>
    public static async Task StoreAsync(this SleuthDb db, TakenIn taken, CancellationToken cancel)
    {
        await db.Database.ExecuteSqlAsync(
            $"""insert into photo_originals ("Sha256", "Data") values ({taken.Sha256}, {taken.Original}) on conflict do nothing""",
            cancel
        );
        db.PhotoContents.Add(taken.Content);
    }

    /// <exception cref="ProblemException">The file is no picture that can be read; the problem names it.</exception>
    public static TakenIn Take(Guid photoId, string fileName, byte[] data)
    {
        if (data.Length == 0)
        {
            throw Refuse(fileName, "server.picture-empty");
        }

        if (data.Length > MostBytes)
        {
            throw Refuse(fileName, "server.picture-too-large", ("most", MostBytes / 1024 / 1024));
        }

        var loader = NetVips.Image.FindLoadBuffer(data);
        if (!Loaders.Contains(loader, StringComparer.Ordinal))
        {
            throw Refuse(fileName, "server.no-picture");
        }

        // The decoder fills what is missing with grey and does not always say so.
        if (loader == Loaders[0] && !IsWholeJpeg(data))
        {
            throw Refuse(fileName, "server.picture-damaged");
        }

        try
        {
            using (var head = NetVips.Image.NewFromBuffer(data, access: Enums.Access.Sequential))
            {
                if ((long)head.Width * head.Height > MostPixels)
                {
                    throw Refuse(
                        fileName,
                        "server.picture-of-too-many-pixels",
                        ("width", head.Width),
                        ("height", head.Height),
                        ("most", MostPixels / 1_000_000)
                    );
                }
            }

            // Shrinks while it decodes and turns the picture upright; the thumbnail is made of the view, not decoded again.
            using var view = NetVips.Image.ThumbnailBuffer(data, ViewSize, height: ViewSize, size: Enums.Size.Down, failOn: Enums.FailOn.Truncated);
            using var flat = view.HasAlpha() ? view.Flatten(background: [255]) : view.Copy();
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
            return new TakenIn(sha256, memory.Width, memory.Height, data, content);
        }
        catch (VipsException)
        {
            throw Refuse(fileName, "server.picture-damaged");
        }
    }

    /// <summary>
    /// Whether a JPEG goes on to its end: past the header's segments, in which a small picture with an end of its own may lie, the
    /// scan must meet an end-of-image marker. Source: ITU-T T.81, annex B.
    /// </summary>
    private static bool IsWholeJpeg(ReadOnlySpan<byte> data)
    {
        const byte StartOfScan = 0xDA;
        for (var i = 2; i + 4 <= data.Length && data[i] == 0xFF; )
        {
            var marker = data[i + 1];
            if (marker == StartOfScan)
            {
                return data[i..].IndexOf<byte>([0xFF, 0xD9]) >= 0;
            }

            // Fill bytes and markers without a length stand alone.
            i +=
                marker == 0xFF ? 1
                : marker is 0x01 or (>= 0xD0 and <= 0xD8) ? 2
                : 2 + (data[i + 2] << 8 | data[i + 3]);
        }

        return false;
    }

    private static byte[] Jpeg(NetVips.Image image) => image.JpegsaveBuffer(q: Quality, keep: Enums.ForeignKeep.None);

    private static ProblemException Refuse(string fileName, string code, params IReadOnlyList<(string Name, object? Value)> with) =>
        new(Problem.Of("file", code, [("file", fileName), .. with]));
}
