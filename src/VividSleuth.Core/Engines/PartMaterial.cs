using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Engines;

/// <summary>Of what parts are made.</summary>
public static class PartMaterial
{
    /// <summary>What a kind of part is usually made of. Common practice, no source; a budget names what was taken.</summary>
    public static Material Of(string kind, EngineLayout layout) =>
        kind switch
        {
            "piston" or "oil-pump" or "inlet-manifold" => Material.Aluminium,
            "head" or "crankcase" or "case-half" or "cam-cap" => layout.Cooling == Cooling.Air || layout.Case == CaseBuild.Split
                ? Material.Aluminium
                : Material.CastIron,
            "bore" or "liner" or "barrel" => Of(layout.BoreMetal),
            var ring when PartKinds.Rings.Contains(ring) => Of(layout.RingMetal),
            "camshaft" or "lobe-inlet" or "lobe-exhaust" or "flywheel" => Material.CastIron,
            "small-end" or "guide-inlet" or "guide-exhaust" => Material.Bronze,
            _ => Material.Steel,
        };

    /// <summary>Cast iron where nobody told: so were most bores and rings. Common practice, no source.</summary>
    private static Material Of(Metal? told) =>
        told switch
        {
            Metal.Steel => Material.Steel,
            Metal.Aluminium => Material.Aluminium,
            _ => Material.CastIron,
        };
}
