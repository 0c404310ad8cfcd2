namespace VividSleuth.Core.Knowledge;

/// <summary>How something is spread over places of one kind.</summary>
public enum PatternShape
{
    OneAlone,
    Neighbours,
    TowardOneEnd,
    AlongTheOil,
    OneBank,
    Companions,
    AllAlike,
    Outlier,
}
