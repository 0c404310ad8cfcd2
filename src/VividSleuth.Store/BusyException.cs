namespace VividSleuth.Store;

/// <summary>More is asked for at this moment than can be done at once; later it can.</summary>
public sealed class BusyException : Exception;
