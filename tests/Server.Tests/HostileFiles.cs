using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;
using NetVips;

namespace VividSleuth.Server.Tests;

/// <summary>Files that somebody sends as pictures and that are none, or that cost a decoder more than they weigh. The same ones each time.</summary>
internal static class HostileFiles
{
    /// <summary>By name. Those that could be read in bounds are among them: a file is refused or taken in, and costs nothing either way.</summary>
    public static IEnumerable<(string Name, byte[] Data)> All()
    {
        var random = new Random(12);
        var noise = (Image.Gaussnoise(400, 300, seed: 1) + new[] { 90.0, 100, 110 }).Cast(Enums.BandFormat.Uchar);
        (string Kind, byte[] Data)[] sound =
        [
            (".jpg", noise.JpegsaveBuffer()),
            ("-progressive.jpg", noise.JpegsaveBuffer(interlace: true)),
            (".png", noise.PngsaveBuffer()),
            ("-interlaced.png", noise.PngsaveBuffer(interlace: true)),
            (".webp", noise.WebpsaveBuffer()),
            ("-lossless.webp", noise.WebpsaveBuffer(lossless: true)),
            (".avif", noise.HeifsaveBuffer(compression: Enums.ForeignHeifCompression.Av1, effort: 0)),
        ];
        foreach (var (kind, data) in sound)
        {
            for (var i = 0; i < 10; i++)
            {
                yield return ($"cut-{i}{kind}", data[..(data.Length * (i + 1) / 12)]);
                var bent = data.ToArray();
                for (var n = 0; n < 12; n++)
                {
                    bent[random.Next(4, Math.Min(bent.Length, i < 5 ? 120 : bent.Length))] = (byte)random.Next(256);
                }

                yield return ($"bent-{i}{kind}", bent);
            }

            yield return ($"cut-by-one{kind}", data[..^1]);
        }

        foreach (var side in new[] { 7_000, 11_000, 30_000, 65_000, 100_000, int.MaxValue - 1 })
        {
            yield return ($"flat-{side}.png", FlatPng(side, side, depth: 1, colour: 0, interlaced: false));
            yield return ($"flat-interlaced-{side}.png", FlatPng(side, side, depth: 1, colour: 0, interlaced: true));
            yield return ($"deep-interlaced-{side}.png", FlatPng(side, side, depth: 16, colour: 6, interlaced: true));
        }

        foreach (var megapixels in new[] { 20, 39, 110 })
        {
            var side = (int)Math.Sqrt(megapixels * 1e6);
            using var black = Image.Black(side, side, bands: 3);
            yield return ($"flat-{megapixels}.jpg", black.JpegsaveBuffer(q: 1));
            if (megapixels > 40)
            {
                continue;
            }

            var progressive = black.JpegsaveBuffer(q: 1, interlace: true);
            yield return ($"flat-progressive-{megapixels}.jpg", progressive);
            yield return ($"many-scans-{megapixels}.jpg", ManyScans(progressive));
            yield return ($"flat-{megapixels}.webp", black.WebpsaveBuffer(q: 1, effort: 0));
            yield return ($"flat-lossless-{megapixels}.webp", black.WebpsaveBuffer(lossless: true, effort: 0));
        }

        foreach (var side in new[] { 3_600, 4_500 })
        {
            using var small = Image.Black(side, side, bands: 3);
            yield return ($"flat-{side}.avif", small.HeifsaveBuffer(q: 1, compression: Enums.ForeignHeifCompression.Av1, effort: 0));
        }

        var pdf = "%PDF-1.7\n1 0 obj<</Type/Catalog>>endobj\n";
        yield return ("empty.jpg", []);
        yield return ("text.jpg", Encoding.UTF8.GetBytes("not a picture"));
        yield return (
            "script.svg",
            Encoding.UTF8.GetBytes("<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'><script>alert(1)</script></svg>")
        );
        yield return ("entities.svg", Encoding.UTF8.GetBytes("<!DOCTYPE s [<!ENTITY a 'aaaa'><!ENTITY b '&a;&a;'>]><svg>&b;</svg>"));
        yield return ("page.pdf", Encoding.UTF8.GetBytes(pdf));
        yield return ("page.html", Encoding.UTF8.GetBytes("<html><script>alert(1)</script></html>"));
        yield return ("archive.jpg", [0x50, 0x4B, 3, 4, 20, 0, 0, 0, 8, 0]);
        yield return ("program.png", [0x7F, (byte)'E', (byte)'L', (byte)'F', 2, 1, 1, 0]);
        yield return ("picture.gif", (byte[])[.. "GIF89a"u8, 0xFF, 0xFF, 0xFF, 0xFF, 0x80, 0, 0]);
        yield return ("picture.tiff", [0x49, 0x49, 0x2A, 0, 8, 0, 0, 0, 0xFF, 0xFF]);
        yield return ("picture.bmp", (byte[])[.. "BM"u8, .. new byte[60]]);
        yield return ("head-only.jpg", [0xFF, 0xD8, 0xFF, 0xE0, 0, 2]);
        yield return ("two-bytes.jpg", [0xFF, 0xD8]);
        yield return ("signature-only.png", [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A]);
        yield return ("riff-only.webp", (byte[])[.. "RIFF"u8, 0xFF, 0xFF, 0xFF, 0xFF, .. "WEBP"u8]);
        yield return ("box-only.heic", (byte[])[0, 0, 0, 24, .. "ftypheic"u8, .. new byte[16]]);
        for (var i = 0; i < 40; i++)
        {
            var rubbish = new byte[200 + (i * 700)];
            random.NextBytes(rubbish);
            sound[i % sound.Length].Data.AsSpan(0, 12).CopyTo(rubbish);
            yield return ($"rubbish-{i}{sound[i % sound.Length].Kind}", rubbish);
        }
    }

    /// <summary>Rows of noughts, which pack to almost nothing: at most 200 MB of them.</summary>
    private static byte[] FlatPng(int width, int height, byte depth, byte colour, bool interlaced)
    {
        using var file = new MemoryStream();
        file.Write([0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A]);
        var head = new byte[13];
        BinaryPrimitives.WriteInt32BigEndian(head, width);
        BinaryPrimitives.WriteInt32BigEndian(head.AsSpan(4), height);
        (head[8], head[9], head[12]) = (depth, colour, (byte)(interlaced ? 1 : 0));
        Chunk("IHDR"u8, head);
        using var packed = new MemoryStream();
        using (var zlib = new ZLibStream(packed, CompressionLevel.Fastest, leaveOpen: true))
        {
            var noughts = new byte[1 << 20];
            var left = Math.Min(200L << 20, (long)height * (1 + ((long)width * depth * (colour == 6 ? 4 : 1) / 8)));
            for (; left > 0; left -= noughts.Length)
            {
                zlib.Write(noughts, 0, (int)Math.Min(left, noughts.Length));
            }
        }

        Chunk("IDAT"u8, packed.ToArray());
        Chunk("IEND"u8, []);
        return file.ToArray();

        void Chunk(ReadOnlySpan<byte> name, byte[] data)
        {
            Span<byte> number = stackalloc byte[4];
            BinaryPrimitives.WriteInt32BigEndian(number, data.Length);
            file.Write(number);
            byte[] body = [.. name, .. data];
            file.Write(body);
            BinaryPrimitives.WriteUInt32BigEndian(number, Crc(body));
            file.Write(number);
        }
    }

    /// <summary>The last scan of a progressive picture again and again: each is another pass over all of it.</summary>
    private static byte[] ManyScans(byte[] progressive)
    {
        var last = progressive.AsSpan().LastIndexOf<byte>([0xFF, 0xDA]);
        var scan = progressive[last..^2];
        using var file = new MemoryStream();
        file.Write(progressive.AsSpan(0, last));
        for (var i = 0; i < 400; i++)
        {
            file.Write(scan);
        }

        file.Write([0xFF, 0xD9]);
        return file.ToArray();
    }

    private static uint Crc(byte[] data)
    {
        var crc = 0xFFFFFFFFu;
        foreach (var b in data)
        {
            crc ^= b;
            for (var i = 0; i < 8; i++)
            {
                crc = (crc & 1) != 0 ? 0xEDB88320 ^ (crc >> 1) : crc >> 1;
            }
        }

        return ~crc;
    }
}
