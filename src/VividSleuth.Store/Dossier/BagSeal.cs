using System.Security.Cryptography;
using VividSleuth.Core;

namespace VividSleuth.Store.Dossier;

/// <summary>
/// The signature of a bag: ECDSA over P-256 with SHA-256 (FIPS 186-5), in the form that openssl reads. It signs the manifest of all that tells of the bag, and
/// that holds the digests of the manifests of all that it carries.
/// </summary>
public static class BagSeal
{
    public const string SignedFile = "tagmanifest-sha512.txt";
    public const string SignatureFile = "seal/signature.der";
    public const string PublicKeyFile = "seal/public-key.pem";

    public static ECDsa NewKey() => ECDsa.Create(ECCurve.NamedCurves.nistP256);

    public static byte[] Sign(ECDsa key, ReadOnlySpan<byte> signed) =>
        key.SignData(signed, HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence);

    public static bool Fits(ECDsa key, ReadOnlySpan<byte> signed, ReadOnlySpan<byte> signature)
    {
        try
        {
            return key.VerifyData(signed, signature, HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence);
        }
        catch (CryptographicException)
        {
            return false;
        }
    }

    /// <summary>SHA-256 of the key as it is told (SubjectPublicKeyInfo, DER), in lower-case hexadecimal.</summary>
    public static string FingerprintOf(ECDsa key) => Convert.ToHexStringLower(SHA256.HashData(key.ExportSubjectPublicKeyInfo()));

    /// <exception cref="ProblemException">It is none, or of another kind.</exception>
    public static ECDsa PublicKeyOf(string pem)
    {
        var key = ECDsa.Create();
        try
        {
            if (!pem.Contains("PRIVATE", StringComparison.Ordinal))
            {
                key.ImportFromPem(pem);
                if (key.KeySize == 256)
                {
                    return key;
                }
            }
        }
        catch (Exception e) when (e is CryptographicException or ArgumentException)
        {
            // Told below.
        }

        key.Dispose();
        throw new ProblemException(Problem.Of(PublicKeyFile, "bag.no-public-key"));
    }
}
