using System.Security.Cryptography;
using System.Text;

namespace VividSleuth.Core;

/// <summary>
/// Ids that follow from what they stand for: the same file sent twice makes the same records, and is recognised by them. UUID of version 8 (RFC 9562,
/// 5.8) over SHA-256.
/// </summary>
public static class DerivedId
{
    public static Guid Of(ReadOnlySpan<byte> data)
    {
        var bytes = SHA256.HashData(data)[..16];
        bytes[6] = (byte)((bytes[6] & 0x0F) | 0x80);
        bytes[8] = (byte)((bytes[8] & 0x3F) | 0x80);
        return new Guid(bytes, bigEndian: true);
    }

    public static Guid Of(string text) => Of(Encoding.UTF8.GetBytes(text));

    /// <summary>The id that a name has in a space of its own: of one row in two cases two ids.</summary>
    public static Guid Of(Guid space, string name) => Of($"{space}/{name}");
}
