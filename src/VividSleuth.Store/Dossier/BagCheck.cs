using System.Security.Cryptography;
using VividSleuth.Core;
using VividSleuth.Core.Dossier;

namespace VividSleuth.Store.Dossier;

/// <summary>What the signature of a bag is worth by itself; whose key it is, another must tell.</summary>
public enum BagSignature
{
    /// <summary>It has none: it is whole, and anyone can have packed it.</summary>
    None,

    /// <summary>It was signed as it stands, with the key that lies in it.</summary>
    Fits,

    /// <summary>It was signed, and was changed after; or the signature is another’s.</summary>
    DoesNotFit,
}

/// <summary>A line of what a bag says of itself.</summary>
public sealed record BagLine(string Label, string Value);

/// <summary>A bag held against its manifests and its signature.</summary>
/// <param name="Info">What it says of itself.</param>
/// <param name="Fingerprint">SHA-256 of the public key in it, in lower-case hexadecimal; empty where it has none.</param>
/// <param name="Problems">All that is wrong with it, each file by name; none where it is sound.</param>
public sealed record BagCheck(
    string Name,
    IReadOnlyList<BagLine> Info,
    int Files,
    long Bytes,
    BagSignature Signature,
    string Fingerprint,
    IReadOnlyList<Problem> Problems
)
{
    private const int MostOfASignature = 1024;

    public bool IsSound => Problems.Count == 0;

    /// <summary>What it says of itself under a label; empty where it says nothing.</summary>
    public string Says(string label) => Info.FirstOrDefault(i => i.Label.Equals(label, StringComparison.OrdinalIgnoreCase))?.Value ?? "";

    /// <summary>Reads every byte of a bag and holds it against what its manifests say (RFC 8493, 3: complete, and valid).</summary>
    /// <exception cref="ProblemException">It is no bag.</exception>
    public static async Task<BagCheck> OfAsync(Bag bag, CancellationToken cancel)
    {
        if (await bag.TextAsync(BagIt.DeclarationFile, cancel) is not { } declaration)
        {
            throw new ProblemException(Problem.Of(BagIt.DeclarationFile, "bag.no-bag"));
        }

        var problems = new List<Problem>();
        if (!BagIt.IsDeclaration(declaration))
        {
            problems.Add(Problem.Of(BagIt.DeclarationFile, "bag.declares-otherwise"));
        }

        if (bag.Entries.ContainsKey(BagIt.FetchFile))
        {
            problems.Add(Problem.Of(BagIt.FetchFile, "bag.wants-to-fetch"));
        }

        var manifests = await ManifestsAsync(bag, problems, cancel);
        if (!manifests.Keys.Any(f => !BagIt.IsTagManifest(f)))
        {
            problems.Add(Problem.Of("", "bag.without-manifest"));
        }

        var isSealed = bag.Entries.ContainsKey(BagSeal.SignatureFile) || bag.Entries.ContainsKey(BagSeal.PublicKeyFile);
        Listed(bag, manifests, isSealed, problems);
        await HashedAsync(bag, manifests, problems, cancel);
        var info = await InfoAsync(bag, problems, cancel);
        var (signature, fingerprint) = isSealed ? await SignedAsync(bag, problems, cancel) : (BagSignature.None, "");
        return new BagCheck(
            bag.Name,
            info,
            bag.Entries.Count,
            bag.Entries.Values.Sum(e => e.Bytes),
            signature,
            fingerprint,
            [.. problems.Distinct()]
        );
    }

    private static async Task<Dictionary<string, IReadOnlyDictionary<string, string>>> ManifestsAsync(
        Bag bag,
        List<Problem> problems,
        CancellationToken cancel
    )
    {
        var read = new Dictionary<string, IReadOnlyDictionary<string, string>>(StringComparer.Ordinal);
        foreach (var file in bag.Entries.Keys.Where(f => BagIt.AlgorithmOf(f) is not null).Order(StringComparer.Ordinal))
        {
            try
            {
                read[file] = BagIt.ReadManifest(file, (await bag.TextAsync(file, cancel))!);
            }
            catch (ProblemException e)
            {
                problems.AddRange(e.Problems);
            }
        }

        return read;
    }

    /// <summary>Every file in every manifest, and in each only what belongs there.</summary>
    private static void Listed(Bag bag, Dictionary<string, IReadOnlyDictionary<string, string>> manifests, bool isSealed, List<Problem> problems)
    {
        bool IsPayload(string path) => path.StartsWith(BagIt.Payload, StringComparison.Ordinal);
        foreach (var (file, listed) in manifests)
        {
            var ofTags = BagIt.IsTagManifest(file);
            problems.AddRange(
                listed
                    .Keys.Where(p => IsPayload(p) == ofTags || (ofTags && BagIt.IsTagManifest(p)))
                    .Select(p => Problem.Of(p, "bag.listed-in-the-wrong-manifest", ("path", p), ("file", file)))
            );
            problems.AddRange(
                listed.Keys.Where(p => !bag.Entries.ContainsKey(p)).Select(p => Problem.Of(p, "bag.file-missing", ("path", p), ("file", file)))
            );
            // What tells of a bag may stand in no manifest, but for the manifests themselves; in one that is sealed nothing may, or it could be changed.
            var must = bag.Entries.Keys.Where(p =>
                ofTags
                    ? !IsPayload(p)
                        && !BagIt.IsTagManifest(p)
                        && (BagIt.AlgorithmOf(p) is not null || (isSealed && p is not (BagSeal.SignatureFile or BagSeal.PublicKeyFile)))
                    : IsPayload(p)
            );
            problems.AddRange(must.Where(p => !listed.ContainsKey(p)).Select(p => Problem.Of(p, "bag.file-not-listed", ("path", p), ("file", file))));
        }

        // Whatever a bag may do without, one that is sealed has a manifest of each kind for each digest.
        problems.AddRange(
            manifests
                .Keys.Where(f => isSealed && !BagIt.IsTagManifest(f))
                .Select(f => BagIt.TagManifestFile(BagIt.AlgorithmOf(f)!))
                .Where(f => !manifests.ContainsKey(f))
                .Select(f => Problem.Of(f, "bag.signature-is-in-part", ("path", f)))
        );
    }

    private static async Task HashedAsync(
        Bag bag,
        Dictionary<string, IReadOnlyDictionary<string, string>> manifests,
        List<Problem> problems,
        CancellationToken cancel
    )
    {
        var buffer = new byte[128 * 1024];
        foreach (var entry in bag.Entries.Values.OrderBy(e => e.Path, StringComparer.Ordinal))
        {
            (string File, string Algorithm, string Digest)[] told =
            [
                .. manifests.Where(m => m.Value.ContainsKey(entry.Path)).Select(m => (m.Key, BagIt.AlgorithmOf(m.Key)!, m.Value[entry.Path])),
            ];
            if (told.Length == 0)
            {
                continue;
            }

            try
            {
                var hashes = told.Select(t => t.Algorithm).Distinct().ToDictionary(a => a, Digest.Of);
                await using var stream = entry.Open();
                long all = 0;
                int read;
                while ((read = await stream.ReadAsync(buffer, cancel)) > 0)
                {
                    all += read;
                    if (all > entry.Bytes)
                    {
                        throw new InvalidDataException();
                    }

                    foreach (var hash in hashes.Values)
                    {
                        hash.AppendData(buffer, 0, read);
                    }
                }

                var digests = hashes.ToDictionary(h => h.Key, h => Convert.ToHexStringLower(h.Value.GetHashAndReset()), StringComparer.Ordinal);
                problems.AddRange(
                    told.Where(t => digests[t.Algorithm] != t.Digest)
                        .Take(1)
                        .Select(t => Problem.Of(entry.Path, "bag.file-differs", ("path", entry.Path), ("file", t.File)))
                );
                foreach (var hash in hashes.Values)
                {
                    hash.Dispose();
                }
            }
            catch (InvalidDataException)
            {
                problems.Add(Problem.Of(entry.Path, "bag.file-damaged", ("path", entry.Path)));
            }
        }
    }

    private static async Task<IReadOnlyList<BagLine>> InfoAsync(Bag bag, List<Problem> problems, CancellationToken cancel)
    {
        try
        {
            if (await bag.TextAsync(BagIt.InfoFile, cancel) is not { } text)
            {
                return [];
            }

            BagLine[] info = [.. BagIt.ReadInfo(text).Select(i => new BagLine(i.Label, i.Value))];
            var payload = bag.Entries.Values.Where(e => e.Path.StartsWith(BagIt.Payload, StringComparison.Ordinal)).ToArray();
            var oxum = BagIt.PayloadOxum(payload.Sum(e => e.Bytes), payload.Length);
            if (info.Any(i => i.Label.Equals("Payload-Oxum", StringComparison.OrdinalIgnoreCase) && i.Value != oxum))
            {
                problems.Add(Problem.Of(BagIt.InfoFile, "bag.other-sum", ("is", oxum)));
            }

            return info;
        }
        catch (ProblemException e)
        {
            problems.AddRange(e.Problems);
            return [];
        }
    }

    private static async Task<(BagSignature Signature, string Fingerprint)> SignedAsync(Bag bag, List<Problem> problems, CancellationToken cancel)
    {
        var missing = new[] { BagSeal.SignatureFile, BagSeal.PublicKeyFile, BagSeal.SignedFile }.Where(f => !bag.Entries.ContainsKey(f)).ToArray();
        if (missing.Length == 0)
        {
            try
            {
                using var key = BagSeal.PublicKeyOf((await bag.TextAsync(BagSeal.PublicKeyFile, cancel))!);
                var signed = System.Text.Encoding.UTF8.GetBytes((await bag.TextAsync(BagSeal.SignedFile, cancel))!);
                var signature = await bag.BytesAsync(BagSeal.SignatureFile, MostOfASignature, cancel);
                var fits = BagSeal.Fits(key, signed, signature);
                if (!fits)
                {
                    problems.Add(Problem.Of(BagSeal.SignatureFile, "bag.signature-does-not-fit"));
                }

                return (fits ? BagSignature.Fits : BagSignature.DoesNotFit, BagSeal.FingerprintOf(key));
            }
            catch (ProblemException e)
            {
                problems.AddRange(e.Problems);
            }
        }

        problems.AddRange(missing.Select(f => Problem.Of(f, "bag.signature-is-in-part", ("path", f))));
        return (BagSignature.DoesNotFit, "");
    }

    private static class Digest
    {
        public static IncrementalHash Of(string algorithm) =>
            IncrementalHash.CreateHash(algorithm == "sha512" ? HashAlgorithmName.SHA512 : HashAlgorithmName.SHA256);
    }
}
