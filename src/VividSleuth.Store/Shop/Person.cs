using Microsoft.AspNetCore.Identity;

namespace VividSleuth.Store.Shop;

/// <summary>Someone of the shop who signs in.</summary>
public sealed class Person : IdentityUser
{
    /// <summary>Since when this person may not sign in; null where they may.</summary>
    public DateTimeOffset? ShutOutAt { get; set; }

    /// <summary>Under this id the list of changes knows the person.</summary>
    public Guid RecordId => Guid.Parse(Id);
}

/// <summary>What a person may do: a lead everything, a mechanic all work on cases, a viewer reads only, a student works on the case of his own bench.</summary>
public static class Roles
{
    public const string Lead = "lead";
    public const string Mechanic = "mechanic";
    public const string Viewer = "viewer";

    public const string Student = "student";

    public static IReadOnlyList<string> All { get; } = [Lead, Mechanic, Viewer, Student];
}

/// <summary>
/// A person signed in on one device. The cookie holds only the key of this row, so that taking the row away ends it at once, wherever the cookie is.
/// </summary>
public sealed class Session
{
    /// <summary>SHA-256 of the key in the cookie, in hexadecimal: who reads the table cannot sign in with it.</summary>
    public required string KeyHash { get; set; }

    public string PersonId { get; set; } = "";

    /// <summary>Who it is and what they may do, sealed with the keys of the shop.</summary>
    public required byte[] Ticket { get; set; }

    /// <summary>Browser and system, as the browser calls itself.</summary>
    public string Device { get; set; } = "";

    public DateTimeOffset From { get; set; }

    public DateTimeOffset SeenAt { get; set; }

    public DateTimeOffset Until { get; set; }
}

/// <summary>A link that lets somebody in once: a new person, or one who sets a new password.</summary>
public sealed class Invitation
{
    public Guid Id { get; set; }

    /// <summary>SHA-256 of the code in the link, in hexadecimal.</summary>
    public string CodeHash { get; set; } = "";

    /// <summary>Role of a new person.</summary>
    public string Role { get; set; } = "";

    /// <summary>Who sets a new password with it; null where it lets a new person in.</summary>
    public string? PersonId { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset Until { get; set; }

    public DateTimeOffset? UsedAt { get; set; }
}

/// <summary>How full a bucket of tries to sign in is; it drains with time.</summary>
public sealed class SignInTries
{
    /// <summary>Whose tries: of one address, of one name, or of one name from one device or address.</summary>
    public required string Key { get; set; }

    public double Level { get; set; }

    public DateTimeOffset At { get; set; }
}
