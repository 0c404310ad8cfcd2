namespace VividSleuth.Core.Knowledge;

/// <summary>How an engine is run in.</summary>
public enum RunningIn
{
    /// <summary>Warm, then under changing load from the first hour, so that the rings seat while the hone is sharp.</summary>
    LoadEarly,

    /// <summary>Light load and changing speed for long, load by steps.</summary>
    Gently,
}
