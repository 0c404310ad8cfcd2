using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.WebUtilities;

namespace VividSleuth.Server.Shop;

/// <summary>Ids in addresses that nobody can guess: whoever has the address has the key.</summary>
internal static class AddressKeys
{
    /// <param name="of">What the address opens; a key of one thing opens no other.</param>
    public static string KeyOf(this IDataProtectionProvider protection, string of, Guid id) =>
        WebEncoders.Base64UrlEncode(protection.CreateProtector(of).Protect(id.ToByteArray()));

    /// <returns>Null where it is no key of this shop.</returns>
    public static Guid? IdOf(this IDataProtectionProvider protection, string of, string key)
    {
        try
        {
            return new Guid(protection.CreateProtector(of).Unprotect(WebEncoders.Base64UrlDecode(key)));
        }
        catch (Exception e) when (e is CryptographicException or FormatException or ArgumentException)
        {
            return null;
        }
    }
}
