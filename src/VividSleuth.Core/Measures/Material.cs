namespace VividSleuth.Core.Measures;

/// <summary>Materials with their thermal expansion in 1/K near 20 °C. Handbook values from memory, good to about a twentieth.</summary>
public sealed record Material(string Id, double Expansion)
{
    public Fact Name => Fact.Of($"material.{Id}");

    public static Material Steel { get; } = new("steel", 11.5e-6);

    public static Material CastIron { get; } = new("cast-iron", 10.5e-6);

    public static Material Aluminium { get; } = new("aluminium", 22e-6);

    public static Material Bronze { get; } = new("bronze", 18e-6);

    public static IReadOnlyList<Material> All { get; } = [Steel, CastIron, Aluminium, Bronze];
}
