namespace VividSleuth.Core.Pictures;

/// <summary>A dot of the card.</summary>
/// <param name="Column">From the left, from 0.</param>
/// <param name="Row">From above, from 0.</param>
/// <param name="Hollow">A ring and no full disc.</param>
/// <param name="At">Its middle, in millimetres from that of the upper left one.</param>
public sealed record CardDot(int Column, int Row, bool Hollow, Spot At);

/// <summary>
/// The card that is laid beside a part: dots at known places, of which some are hollow and so tell its number and which way up it lies. The upper left one is hollow and the other three corners are
/// full; of those between, row by row, the first twelve are the number, its highest bit first, and eight a check of it.
/// </summary>
public static class ScaleCard
{
    public const int Columns = 6;
    public const int Rows = 4;

    /// <summary>From dot to dot, in millimetres.</summary>
    public const double Pitch = 10;

    /// <summary>Across a dot, in millimetres.</summary>
    public const double Across = 5;

    /// <summary>Across the hole of a hollow one, in millimetres.</summary>
    public const double Hole = 2.4;

    /// <summary>Paper about the dots that stays white, in millimetres from the middles of the outer ones.</summary>
    public const double Margin = 7;

    public const int Most = 4095;

    private const int NumberBits = 12;

    private const int CheckBits = 8;

    /// <param name="number">From 1 to <see cref="Most"/>.</param>
    public static IReadOnlyList<CardDot> Dots(int number)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(number, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(number, Most);
        var word = (number << CheckBits) | Check(number);
        return
        [
            .. Places()
                .Select(p => new CardDot(
                    p.Column,
                    p.Row,
                    p.Bit < 0 ? p.First : ((word >> p.Bit) & 1) == 1,
                    new Spot(p.Column * Pitch, p.Row * Pitch)
                )),
        ];
    }

    /// <summary>The number that hollow dots tell; null where it is none, or where the corners say that it lies another way up.</summary>
    /// <param name="hollow">By column and row; null of a dot that was not seen.</param>
    public static int? Number(Func<int, int, bool?> hollow)
    {
        var (word, unknown) = (0, new List<int>());
        foreach (var (column, row, bit, first) in Places())
        {
            var seen = hollow(column, row);
            if (bit < 0)
            {
                if (seen is { } corner && corner != first)
                {
                    return null;
                }
            }
            else if (seen is null)
            {
                unknown.Add(bit);
            }
            else if (seen == true)
            {
                word |= 1 << bit;
            }
        }

        // What is covered by a finger may be either; if it can be but one number with its check, it is that one.
        int[] words =
        [
            .. Enumerable
                .Range(0, 1 << Math.Min(unknown.Count, MostUnseen))
                .Select(w => unknown.Select((bit, n) => ((w >> n) & 1) << bit).Aggregate(word, (a, b) => a | b)),
        ];
        int[] whole = [.. words.Where(w => w >> CheckBits > 0 && Check(w >> CheckBits) == (w & ((1 << CheckBits) - 1)))];
        return unknown.Count > MostUnseen || whole.Length != 1 ? null : whole[0] >> CheckBits;
    }

    /// <summary>So many dots may be covered.</summary>
    public const int MostUnseen = 4;

    /// <summary>The check of a number: CRC-8 with the polynomial x⁸ + x² + x + 1 over its two bytes, begun with 0.</summary>
    internal static int Check(int number) => Crc8([(byte)(number >> 8), (byte)number]);

    /// <summary>CRC-8, polynomial x⁸ + x² + x + 1, begun with 0, bits as they come.</summary>
    public static int Crc8(ReadOnlySpan<byte> bytes)
    {
        var crc = 0;
        foreach (var b in bytes)
        {
            crc ^= b;
            for (var bit = 0; bit < 8; bit++)
            {
                crc = ((crc & 0x80) != 0 ? (crc << 1) ^ 0x07 : crc << 1) & 0xFF;
            }
        }

        return crc;
    }

    /// <returns>Of each dot its bit in the word, highest first, or -1 of a corner, and whether that corner is hollow.</returns>
    private static IEnumerable<(int Column, int Row, int Bit, bool First)> Places()
    {
        var bit = NumberBits + CheckBits;
        for (var row = 0; row < Rows; row++)
        {
            for (var column = 0; column < Columns; column++)
            {
                var corner = (row is 0 or Rows - 1) && (column is 0 or Columns - 1);
                yield return (column, row, corner ? -1 : --bit, corner && row == 0 && column == 0);
            }
        }
    }
}
