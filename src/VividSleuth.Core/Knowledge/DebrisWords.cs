namespace VividSleuth.Core.Knowledge;

public enum DebrisMaterial
{
    /// <summary>A magnet takes it.</summary>
    MagneticMetal,

    OtherMetal,
    Sealant,
    Plastic,
    Rubber,
    Carbon,
    Fibre,
    Grit,
    Unknown,
}

public enum DebrisColour
{
    Unknown,
    Grey,
    Bright,
    CopperOrBronze,
    Brass,
    Black,
    Rust,
    Clear,
    Coloured,
}

public enum DebrisForm
{
    Unknown,
    Dust,
    Flake,
    Sliver,
    Curl,
    Chip,
    Lump,
    Needle,
    String,
    Bead,
    Paste,
}
