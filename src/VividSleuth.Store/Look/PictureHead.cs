using System.Buffers.Binary;

namespace VividSleuth.Store.Look;

public enum PictureKind
{
    Jpeg,
    Png,
    Webp,
    Heif,
}

/// <summary>
/// What a picture file says of itself, read without a decoder: what it would cost to decode it, and whether it goes on to its end. A few bytes can
/// claim any number of pixels, so nothing is decoded before this was asked.
/// </summary>
/// <param name="Held">Bytes that a decoder holds at once, at most: rows where it goes line by line, all of the picture where it cannot.</param>
/// <param name="Passes">How often a decoder goes over all pixels.</param>
/// <param name="IsWhole">False where the file is cut off.</param>
public sealed record PictureHead(PictureKind Kind, long Width, long Height, long Held, int Passes, bool IsWhole)
{
    public long Pixels => Width * Height;

    /// <returns>Null where it is no picture of a kind that is taken in, or its head cannot be read.</returns>
    public static PictureHead? Read(ReadOnlySpan<byte> data) =>
        data switch
        {
            [0xFF, 0xD8, 0xFF, ..] => Jpeg(data),
            [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, ..] => Png(data),
            [(byte)'R', (byte)'I', (byte)'F', (byte)'F', _, _, _, _, (byte)'W', (byte)'E', (byte)'B', (byte)'P', ..] => Webp(data),
            [_, _, _, _, (byte)'f', (byte)'t', (byte)'y', (byte)'p', ..] => Heif(data),
            _ => null,
        };

    /// <summary>The media type of a picture file, by what its bytes are.</summary>
    public static string MediaTypeOf(ReadOnlySpan<byte> data) =>
        Read(data)?.Kind switch
        {
            PictureKind.Jpeg => "image/jpeg",
            PictureKind.Png => "image/png",
            PictureKind.Webp => "image/webp",
            PictureKind.Heif => "image/avif",
            _ => "application/octet-stream",
        };

    /// <summary>Source: ITU-T T.81, annex B. A picture in a picture, as cameras put into the head, lies inside a segment and is stepped over.</summary>
    private static PictureHead? Jpeg(ReadOnlySpan<byte> data)
    {
        (long Width, long Height, double Samples, bool Progressive)? frame = null;
        var scans = 0;
        var whole = false;
        for (var i = 2; i + 4 <= data.Length && !whole; )
        {
            if (data[i] != 0xFF)
            {
                // Inside a scan: on to the next marker that is neither a stuffed byte nor a restart.
                var next = data[i..].IndexOf((byte)0xFF);
                if (next < 0)
                {
                    break;
                }

                i += next;
                i += data.Length > i + 1 && data[i + 1] is 0x00 or (>= 0xD0 and <= 0xD7) ? 2 : 0;
                continue;
            }

            var marker = data[i + 1];
            if (marker is 0xFF or 0x00 or 0x01 or (>= 0xD0 and <= 0xD8))
            {
                i += marker == 0xFF ? 1 : 2;
                continue;
            }

            if (marker == 0xD9)
            {
                break;
            }

            var length = BinaryPrimitives.ReadUInt16BigEndian(data[(i + 2)..]);
            if (length < 2)
            {
                return null;
            }

            // Start of frame; C4, C8 and CC are tables.
            if (marker is >= 0xC0 and <= 0xCF and not (0xC4 or 0xC8 or 0xCC) && i + 10 <= data.Length)
            {
                var body = data[(i + 4)..];
                frame = (
                    BinaryPrimitives.ReadUInt16BigEndian(body[3..]),
                    BinaryPrimitives.ReadUInt16BigEndian(body[1..]),
                    Samples(body[5..]),
                    marker is 0xC2 or 0xC6 or 0xCA or 0xCE
                );
            }

            scans += marker == 0xDA ? 1 : 0;
            i += 2 + length;
        }

        // The last two bytes may be followed by what a camera appends.
        whole = frame is not null && scans > 0 && data[2..].LastIndexOf<byte>([0xFF, 0xD9]) > data[2..].LastIndexOf<byte>([0xFF, 0xDA]);
        return frame is not { } f
            ? null
            : new PictureHead(
                PictureKind.Jpeg,
                f.Width,
                f.Height,
                // All coefficients of a progressive one, two bytes each; of another a few rows.
                f.Progressive
                || scans > 1
                    ? (long)(f.Width * f.Height * f.Samples * 2)
                    : f.Width * 64,
                Math.Max(1, scans),
                whole
            );
    }

    /// <summary>Samples to a pixel: colour is mostly kept at half the resolution.</summary>
    /// <param name="components">Their number, and three bytes of each: id, how often across and down, table.</param>
    private static double Samples(ReadOnlySpan<byte> components)
    {
        var (all, across, down) = (0.0, 1, 1);
        for (var c = 0; c < Math.Min(components[0], (byte)4) && 3 + (3 * c) < components.Length; c++)
        {
            var (h, v) = (components[2 + (3 * c)] >> 4, components[2 + (3 * c)] & 15);
            (all, across, down) = (all + (h * v), Math.Max(across, h), Math.Max(down, v));
        }

        return Math.Max(1, all / (across * down));
    }

    /// <summary>Source: W3C, Portable Network Graphics.</summary>
    private static PictureHead? Png(ReadOnlySpan<byte> data)
    {
        if (data.Length < 33 || !data[12..16].SequenceEqual("IHDR"u8))
        {
            return null;
        }

        var (width, height) = ((long)BinaryPrimitives.ReadUInt32BigEndian(data[16..]), (long)BinaryPrimitives.ReadUInt32BigEndian(data[20..]));
        var (depth, colour, interlaced) = (data[24], data[25], data[28] != 0);
        var channels = colour switch
        {
            0 or 3 => 1,
            4 => 2,
            2 => 3,
            _ => 4,
        };
        var whole = false;
        for (long i = 8; i + 12 <= data.Length; )
        {
            var length = BinaryPrimitives.ReadUInt32BigEndian(data[(int)i..]);
            if (data.Slice((int)i + 4, 4).SequenceEqual("IEND"u8))
            {
                whole = true;
                break;
            }

            i += 12L + length;
        }

        var row = width * channels * Math.Max(1, depth / 8);
        return new PictureHead(PictureKind.Png, width, height, interlaced ? Bounded(row, height) : row * 64, interlaced ? 7 : 1, whole);
    }

    /// <summary>Source: RFC 9649.</summary>
    private static PictureHead? Webp(ReadOnlySpan<byte> data)
    {
        if (data.Length < 30)
        {
            return null;
        }

        var size = (long)BinaryPrimitives.ReadUInt32LittleEndian(data[4..]) + 8;
        (long Width, long Height)? of =
            data[12..16].SequenceEqual("VP8X"u8) ? (1 + (data[24] | data[25] << 8 | data[26] << 16), 1 + (data[27] | data[28] << 8 | data[29] << 16))
            : data[12..16].SequenceEqual("VP8L"u8)
                ? (1 + (data[21] | (data[22] & 0x3F) << 8), 1 + (data[22] >> 6 | data[23] << 2 | (data[24] & 0x0F) << 10))
            : data[12..16].SequenceEqual("VP8 "u8) ? ((data[26] | data[27] << 8) & 0x3FFF, (data[28] | data[29] << 8) & 0x3FFF)
            : null;
        return of is { } dimensions
            ? new PictureHead(
                PictureKind.Webp,
                dimensions.Width,
                dimensions.Height,
                Bounded(dimensions.Width * 4, dimensions.Height),
                1,
                size <= data.Length
            )
            : null;
    }

    /// <summary>
    /// Source: ISO/IEC 14496-12 (boxes) and 23008-12 (the property “ispe”). The largest of the sizes that are told counts, wherever it is told.
    /// </summary>
    private static PictureHead? Heif(ReadOnlySpan<byte> data)
    {
        long width = 0,
            height = 0;
        for (var at = 0; data[at..].IndexOf("ispe"u8) is >= 0 and var next && at + next + 16 <= data.Length; at += next + 4)
        {
            var (w, h) = (
                (long)BinaryPrimitives.ReadUInt32BigEndian(data[(at + next + 8)..]),
                (long)BinaryPrimitives.ReadUInt32BigEndian(data[(at + next + 12)..])
            );
            (width, height) = Bounded(w, h) > Bounded(width, height) ? (w, h) : (width, height);
        }

        // The boxes of the file one after the other, each with its length before it; nought goes on to the end.
        long i = 0;
        while (i + 8 <= data.Length)
        {
            long length = BinaryPrimitives.ReadUInt32BigEndian(data[(int)i..]);
            length =
                length == 0 ? data.Length - i
                : length == 1 && i + 16 <= data.Length ? (long)Math.Min(BinaryPrimitives.ReadUInt64BigEndian(data[(int)(i + 8)..]), long.MaxValue / 2)
                : length;
            if (length < 8)
            {
                return null;
            }

            i += length;
        }

        return width > 0 ? new PictureHead(PictureKind.Heif, width, height, Bounded(width * HeifHeld, height), 1, i == data.Length) : null;
    }

    /// <summary>Bytes to a pixel that the decoder of AVIF holds; measured with the one that ships: 530 MB for 36 million pixels.</summary>
    private const int HeifHeld = 15;

    /// <summary>A product that does not overflow, whatever a file claims.</summary>
    private static long Bounded(long a, long b) => (long)Int128.Min((Int128)a * b, long.MaxValue / 4);
}
