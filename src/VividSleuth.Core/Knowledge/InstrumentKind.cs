namespace VividSleuth.Core.Knowledge;

public enum InstrumentKind
{
    OutsideMicrometer,
    BallMicrometer,
    InsideMicrometer,
    BoreGauge,
    DepthMicrometer,
    Caliper,
    FeelerGauge,
    PlasticStrip,
    DialIndicator,
    Scales,
    PressureGauge,
    Manometer,
    Protractor,
    Burette,
    SpringTester,
    Thermometer,
    StraightEdge,
    Rule,
    Tachometer,

    /// <summary>A method of the shop's own, such as a bar and feelers, with a uncertainty of its own.</summary>
    HomeMade,

    Other,

    RoughnessTester,

    HardnessTester,

    TorqueWrench,
}
