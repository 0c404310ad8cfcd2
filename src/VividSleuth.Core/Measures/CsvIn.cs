using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using CsvHelper;
using CsvHelper.Configuration;
using CsvHelper.Delegates;

namespace VividSleuth.Core.Measures;

/// <summary>What is wrong with a cell of a table that was read in.</summary>
/// <param name="Row">Line of the table, the header being 1.</param>
public sealed record RowProblem(int Row, string Column, Fact Text, Fact Remedy);

/// <summary>A table as it was read: good rows, and what is wrong with the others.</summary>
public sealed record CsvRead<T>(IReadOnlyList<T> Good, IReadOnlyList<RowProblem> Problems, int Bad);

/// <summary>
/// Reads tables with a header: comma, semicolon or tab, with or without byte-order mark, decimal point or decimal comma. Each row is read by
/// itself; what is wrong names row and column.
/// </summary>
public static partial class CsvIn
{
    private static readonly string[] Delimiters = [",", ";", "\t"];

    public const int MostRows = 20_000;

    /// <summary>Problems told; the rest are counted.</summary>
    public const int MostTold = 50;

    /// <summary>A row as it stands.</summary>
    /// <param name="table">Follows from the whole table, as it was sent.</param>
    public sealed class Row(Guid table, int number, IReadOnlyDictionary<string, string> cells, bool decimalComma)
    {
        public int Number { get; } = number;

        /// <summary>The same row of the same table has the same id: a table that is sent twice makes no second record.</summary>
        public Guid Id => DerivedId.Of(table, Number.ToString(CultureInfo.InvariantCulture));

        /// <summary>A cell, without the apostrophe that keeps a spreadsheet from taking it for a formula.</summary>
        public string this[string column] =>
            cells.GetValueOrDefault(column, "").Trim() is ['\'', .. var rest] ? rest : cells.GetValueOrDefault(column, "").Trim();

        /// <summary>A cell that holds a figure. In a table parted by semicolons a comma is the decimal comma, whatever stands behind it.</summary>
        public string Digits(string column) => decimalComma ? this[column].Replace(',', '.') : this[column];

        public static ProblemException Refuse(string column, Fact text, Fact remedy) => new(new Problem(column, text, remedy));

        /// <summary>A figure in the base unit; null where the cell is empty.</summary>
        public decimal? Figure(string column, Quantity quantity, string unit)
        {
            if (this[column].Length == 0)
            {
                return null;
            }

            try
            {
                return QuantityParser.Parse(Digits(column), quantity, unit).Value;
            }
            catch (ProblemException e)
            {
                throw new ProblemException(e.Problems[0] with { Field = column });
            }
        }
    }

    /// <param name="needed">Columns that must be there.</param>
    /// <param name="read">Reads a row; what it throws is told with the row's number.</param>
    /// <exception cref="ProblemException">It is no table, lacks a column, or has too many rows.</exception>
    public static CsvRead<T> Read<T>(string text, IReadOnlyList<string> needed, Func<Row, T> read)
    {
        if (text.Contains('\0', StringComparison.Ordinal))
        {
            throw new ProblemException(Problem.Of("file", "gauge.table-text"));
        }

        text = text.TrimStart('\uFEFF');
        // Found in the header alone: a row that lacks cells must not hide the delimiter of all others.
        var header = text.AsSpan().IndexOfAny('\r', '\n') is var end && end >= 0 ? text[..end] : text;
        using var csv = new CsvReader(
            new StringReader(text),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                DetectDelimiter = true,
                DetectDelimiterValues = Delimiters,
                GetDelimiter = detect => ConfigurationFunctions.GetDelimiter(new GetDelimiterArgs(header, detect.Configuration)),
                BadDataFound = null,
                MissingFieldFound = null,
                IgnoreBlankLines = true,
                MaxFieldSize = 4096,
            }
        );
        try
        {
            return Rows(csv, DerivedId.Of(text), needed, read);
        }
        catch (CsvHelperException e)
        {
            throw new ProblemException(Problem.Of("file", "gauge.row-cannot-read-row-table", ("row", e.Context?.Parser?.Row ?? 1)));
        }
    }

    private static CsvRead<T> Rows<T>(CsvReader csv, Guid table, IReadOnlyList<string> needed, Func<Row, T> read)
    {
        if (!csv.Read() || !csv.ReadHeader())
        {
            throw new ProblemException(Problem.Of("file", "gauge.table-empty", ("join", needed)));
        }

        var header = csv.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant()).ToArray();
        if (needed.Except(header, StringComparer.Ordinal).ToArray() is { Length: > 0 } missing)
        {
            throw new ProblemException(Problem.Of("file", "gauge.row-column-missing", ("missing", missing[0]), ("join", needed)));
        }

        var good = new List<T>();
        var problems = new List<RowProblem>();
        var bad = 0;
        var number = 1;
        while (csv.Read())
        {
            number++;
            if (number > MostRows + 1)
            {
                throw new ProblemException(Problem.Of("file", "gauge.row-table-takes-rows-most", ("number", number), ("mostRows", MostRows)));
            }

            var cells = new Dictionary<string, string>(StringComparer.Ordinal);
            for (var i = 0; i < header.Length; i++)
            {
                cells.TryAdd(header[i], csv.GetField(i) ?? "");
            }

            try
            {
                if (csv.Parser.Count > header.Length)
                {
                    throw new ProblemException(Problem.Of("", "gauge.row-cells-header", ("parser", csv.Parser.Count), ("header", header.Length)));
                }

                good.Add(InputRules.Checked(read(new Row(table, number, cells, csv.Parser.Delimiter == ";"))));
            }
            catch (ProblemException e)
            {
                bad++;
                if (problems.Count < MostTold)
                {
                    problems.Add(new RowProblem(number, e.Problems[0].Field, e.Problems[0].Text, e.Problems[0].Remedy));
                }
            }
        }

        return new CsvRead<T>(good, problems, bad);
    }

    /// <summary>Writes a table with commas and decimal points; a cell that a spreadsheet would take for a formula is kept as text.</summary>
    public static string Write(IReadOnlyList<string> header, IEnumerable<IReadOnlyList<string>> rows)
    {
        var text = new StringBuilder();
        using var writer = new StringWriter(text, CultureInfo.InvariantCulture);
        using (var csv = new EscapingWriter(writer))
        {
            foreach (var row in rows.Prepend(header))
            {
                foreach (var cell in row)
                {
                    csv.WriteField(cell);
                }

                csv.NextRecord();
            }
        }

        return text.ToString();
    }

    /// <summary>A figure stays as it is, whatever its sign; words that begin like a formula get an apostrophe before them.</summary>
    private sealed class EscapingWriter(TextWriter writer)
        : CsvWriter(writer, new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\r\n", InjectionOptions = InjectionOptions.Escape })
    {
        protected override string SanitizeForInjection(string? field) =>
            field is null || Figure().IsMatch(field) ? field ?? "" : base.SanitizeForInjection(field) ?? "";
    }

    [GeneratedRegex("^[+-]?[0-9.,/ -]+[a-zµ°%\"³]*$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Figure();
}
