using Microsoft.AspNetCore.Identity;

namespace VividSleuth.Store.Shop;

/// <summary>Someone of the shop who signs in.</summary>
public sealed class Person : IdentityUser;

/// <summary>What a person may do: a lead everything, a mechanic all work on cases, a viewer reads only.</summary>
public static class Roles
{
    public const string Lead = "lead";
    public const string Mechanic = "mechanic";
    public const string Viewer = "viewer";

    public static IReadOnlyList<string> All { get; } = [Lead, Mechanic, Viewer];
}
