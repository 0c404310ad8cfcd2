namespace VividSleuth.Core.Gauge;

/// <summary>Ids of the characteristics that rules in code speak of; all of them stand in knowledge/characteristics.</summary>
public static class Characteristics
{
    public const string PinDiameter = "crankpin-diameter";
    public const string MainDiameter = "main-journal-diameter";
    public const string HousingBore = "rod-housing-bore";
    public const string ShellWall = "shell-wall";
    public const string ShellInside = "shell-inside-diameter";
    public const string BigEndClearance = "big-end-clearance";
    public const string MainClearance = "main-clearance";
    public const string RoundnessOfPin = "crankpin-out-of-round";
    public const string Compression = "compression";
    public const string CompressionShare = "compression-share";
    public const string BoreDiameter = "bore-diameter";
    public const string RingEndGap = "ring-end-gap";
    public const string PortChord = "port-chord";
    public const string SeatDiameter = "bearing-seat-diameter";
    public const string PartWeight = "part-weight";
    public const string PistonDiameter = "piston-diameter";
    public const string PistonClearance = "piston-clearance";
    public const string DeckFlatness = "deck-flatness";
    public const string HeadThickness = "head-thickness";
    public const string BlockDeck = "block-deck-height";
    public const string ScoreDepth = "score-depth";
    public const string UnwornAtFillet = "unworn-at-fillet";
}
