using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using VividSleuth.Core.Dossier;
using VividSleuth.Store.Dossier;

namespace VividSleuth.Server.Tests;

/// <summary>A sealed bag that somebody cut, bent, added to or made to do harm. The same ones each time, each by what was done.</summary>
internal static class HostileBags
{
    private const string Top = "bag/";
    private const int Link = 0xA1FF;

    /// <summary>What a bag holds, by path below its folder.</summary>
    public static SortedDictionary<string, byte[]> Unpacked(byte[] zip)
    {
        using var archive = new ZipArchive(new MemoryStream(zip));
        var files = new SortedDictionary<string, byte[]>(StringComparer.Ordinal);
        foreach (var entry in archive.Entries)
        {
            using var stream = entry.Open();
            var data = new byte[entry.Length];
            stream.ReadExactly(data);
            files[entry.FullName[(entry.FullName.IndexOf('/', StringComparison.Ordinal) + 1)..]] = data;
        }

        return files;
    }

    public static byte[] Packed(IEnumerable<(string Name, byte[] Data, int Mode)> files, CompressionLevel level = CompressionLevel.NoCompression)
    {
        var zip = new MemoryStream();
        using (var archive = new ZipArchive(zip, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, data, mode) in files)
            {
                var entry = archive.CreateEntry(name, level);
                entry.ExternalAttributes = mode << 16;
                using var stream = entry.Open();
                stream.Write(data);
            }
        }

        return zip.ToArray();
    }

    public static byte[] Packed(IReadOnlyDictionary<string, byte[]> files) => Packed(Named(files));

    /// <summary>With manifests and a signature that fit what is in it now: somebody else’s, since the shop’s key is not at hand.</summary>
    public static byte[] SealedAnew(IReadOnlyDictionary<string, byte[]> files)
    {
        using var key = BagSeal.NewKey();
        BagFile[] payload =
        [
            .. files
                .Where(f => f.Key.StartsWith(BagIt.Payload, StringComparison.Ordinal))
                .Select(f => new BagFile(
                    f.Key,
                    f.Value.Length,
                    Convert.ToHexStringLower(SHA256.HashData(f.Value)),
                    Convert.ToHexStringLower(SHA512.HashData(f.Value))
                )),
        ];
        var told = BagPacking.Tell(payload, [("Seal-Number", "1")], [], key);
        return Packed([
            .. told.Select(t => (Top + t.Path, t.Data, 0x81A4)),
            .. files.Where(f => f.Key.StartsWith(BagIt.Payload, StringComparison.Ordinal)).Select(f => (Top + f.Key, f.Value, 0x81A4)),
        ]);
    }

    /// <param name="sound">A sealed bag with at least one picture.</param>
    /// <returns>Two hundred and more; none of them may become a case.</returns>
    public static IEnumerable<(string Name, byte[] Zip)> All(byte[] sound)
    {
        var random = new Random(18);
        var files = Unpacked(sound);
        for (var i = 0; i < 40; i++)
        {
            yield return ($"cut-{i}", sound[..(sound.Length * i / 40)]);
        }

        yield return ("cut-by-one", sound[..^1]);
        string[] paths = [.. files.Keys];
        for (var i = 0; i < 60; i++)
        {
            var path = paths[i % paths.Length];
            var bent = files[path].ToArray();
            bent[random.Next(bent.Length)] ^= (byte)(1 << random.Next(8));
            yield return ($"bent-{i}-{path}", Packed(With(files, path, bent)));
        }

        foreach (var path in paths)
        {
            yield return ($"without-{path}", Packed(Without(files, path)));
        }

        foreach (
            var name in new[]
            {
                "../out.txt",
                "bag/../../out.txt",
                "/etc/out.txt",
                "bag/data/../../../out.txt",
                "bag\\data\\out.txt",
                "C:/out.txt",
                "bag/data/con\u202Efdp.exe",
                "bag/data/a\u0001b",
                "bag/data/./a",
                "bag/data//a",
                "~/out.txt",
                "other/data/a.txt",
                "loose.txt",
                "bag/data/nobody-listed-me.txt",
                "bag/nobody-listed-me.txt",
                "bag/seal/second-signature.der",
                "bag/fetch.txt",
                "bag/manifest-md5.txt",
                "bag/tagmanifest-md5.txt",
                "bag/DATA/case.json",
            }
        )
        {
            yield return ($"with-{name}", Packed([.. Named(files), (name, "harm"u8.ToArray(), 0x81A4)]));
            yield return ($"link-{name}", Packed([.. Named(files), (name, "/etc/passwd"u8.ToArray(), Link)]));
        }

        foreach (var path in paths)
        {
            yield return ($"linked-{path}", Packed(Named(files).Select(f => f.Name == Top + path ? (f.Name, "/etc/passwd"u8.ToArray(), Link) : f)));
        }

        yield return ("manifest-of-blanks", Packed(With(files, "manifest-sha256.txt", [.. Enumerable.Repeat((byte)'\n', 17 * 1024 * 1024)])));
        yield return ("twice", Packed([.. Named(files), (Top + "data/case.json", files["data/case.json"], 0x81A4)]));
        yield return ("swells", Packed([.. Named(files), (Top + "data/zeros", new byte[200_000_000], 0x81A4)], CompressionLevel.SmallestSize));
        yield return (
            "ten-thousand-files",
            Packed([.. Named(files), .. Enumerable.Range(0, 10_000).Select(i => ($"{Top}data/{i}", Array.Empty<byte>(), 0x81A4))])
        );
        yield return ("not-a-zip", Encoding.UTF8.GetBytes("BagIt-Version: 1.0\n"));
        yield return ("empty-zip", Packed(Enumerable.Empty<(string, byte[], int)>()));
        foreach (var algorithm in new[] { "sha256", "sha512" })
        {
            var manifest = $"manifest-{algorithm}.txt";
            var text = Encoding.UTF8.GetString(files[manifest]);
            foreach (
                var (what, wrong) in new[]
                {
                    ("empty", ""),
                    ("no-digest", "data/case.json\n" + text),
                    ("leads-out", text + new string('a', algorithm == "sha256" ? 64 : 128) + "  ../../out\n"),
                    ("twice", text + text),
                    ("lists-more", text + new string('a', algorithm == "sha256" ? 64 : 128) + "  data/not-there\n"),
                    ("no-text", "\xFF\xFE"),
                }
            )
            {
                var data = what == "no-text" ? [0xFF, 0xFE, 0x00] : Encoding.UTF8.GetBytes(wrong);
                yield return ($"{manifest}-{what}", Packed(With(files, manifest, data)));
            }
        }

        // What fits together and is signed, by somebody, and is no case that holds together.
        var json = Encoding.UTF8.GetString(files["data/case.json"]);
        string[] ids = [.. System.Text.Json.Nodes.JsonNode.Parse(json)!["case"]!["findings"]!.AsArray().Select(f => f!["id"]!.ToString())];
        foreach (
            var (what, text) in new[]
            {
                ("no-json", "{"),
                ("another-format", json.Replace("vivid-sleuth-case", "something-else", StringComparison.Ordinal)),
                ("of-a-later-version", json.Replace("\"version\": 5", "\"version\": 99", StringComparison.Ordinal)),
                ("id-twice", json.Replace(ids[^1], ids[^2], StringComparison.Ordinal)),
                ("place-nowhere", json.Replace("\"place\": \"P1\"", "\"place\": \"P99\"", StringComparison.Ordinal)),
            }
        )
        {
            yield return ($"case-{what}", SealedAnew(With(files, "data/case.json", Encoding.UTF8.GetBytes(text))));
        }

        yield return ("case-missing", SealedAnew(Without(files, "data/case.json")));
        var picture = paths.First(p => p.StartsWith("data/pictures/", StringComparison.Ordinal));
        yield return ("picture-of-nothing", SealedAnew(With(files, $"data/pictures/P1-{Guid.CreateVersion7()}.jpg", files[picture])));
        yield return (
            "picture-twice",
            SealedAnew(With(files, picture.Replace("/pictures/", "/pictures/X", StringComparison.Ordinal), files[picture]))
        );
        yield return ("picture-is-none", SealedAnew(With(files, picture, "<script>"u8.ToArray())));
        yield return ("picture-cut", SealedAnew(With(files, picture, files[picture][..^40])));
    }

    private static IEnumerable<(string Name, byte[] Data, int Mode)> Named(IReadOnlyDictionary<string, byte[]> files) =>
        files.Select(f => (Top + f.Key, f.Value, 0x81A4));

    private static SortedDictionary<string, byte[]> With(IReadOnlyDictionary<string, byte[]> files, string path, byte[] data) =>
        new(files.ToDictionary(f => f.Key, f => f.Value), StringComparer.Ordinal) { [path] = data };

    private static SortedDictionary<string, byte[]> Without(IReadOnlyDictionary<string, byte[]> files, string path) =>
        new(files.Where(f => f.Key != path).ToDictionary(f => f.Key, f => f.Value), StringComparer.Ordinal);
}
