namespace VividSleuth.Store;

/// <summary>Locks of PostgreSQL by number, held by a transaction over all instances.</summary>
public static class Locks
{
    /// <summary>Who belongs to the shop, and who is its first.</summary>
    public const int People = 7100417;

    /// <summary>Numbers of parts on the shelf.</summary>
    public const int Shelf = 7100418;

    /// <summary>The line to the label printer.</summary>
    public const int Printer = 7100419;

    /// <summary>The key with which the shop seals.</summary>
    public const int SealKey = 7100420;
}
