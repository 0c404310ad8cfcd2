using System.Collections;
using System.Collections.Concurrent;
using System.Reflection;
using System.Text.Json;

namespace VividSleuth.Core;

/// <summary>
/// What no field may hold, whatever it is about: characters that no text has, more text than anybody writes, an enumeration that is none, a number
/// that is none, a day that no calendar of a shop knows, a gap in a list, nothing where something must be. One filter for the interface, for files and for the command line.
/// </summary>
public static class InputRules
{
    /// <summary>Characters of a field that is not in the table: a name, a mark, a place.</summary>
    public const int Line = 400;

    /// <summary>Characters of a field that holds an account.</summary>
    public const int Account = 20_000;

    /// <summary>Characters of an earlier state of a record, as JSON.</summary>
    public const int EarlierState = 2_000_000;

    /// <summary>Elements of a list.</summary>
    public const int MostElements = 200_000;

    private const int Deepest = 24;
    private const int MostTold = 20;
    private static readonly DateTimeOffset Earliest = new(1900, 1, 1, 0, 0, 0, TimeSpan.Zero);
    private static readonly DateTimeOffset Latest = new(2200, 1, 1, 0, 0, 0, TimeSpan.Zero);

    /// <summary>Fields that hold more than a line, by their names in any record.</summary>
    private static readonly Dictionary<string, int> Lengths = new(StringComparer.OrdinalIgnoreCase)
    {
        ["complaint"] = Account,
        ["past"] = Account,
        ["note"] = Account,
        ["remarks"] = Account,
        ["reasons"] = Account,
        ["reason"] = Account,
        ["why"] = Account,
        ["withdrawnWhy"] = Account,
        ["text"] = Account,
        ["spot"] = Account,
        ["caption"] = Account,
        ["does"] = Account,
        ["how"] = Account,
        ["says"] = Account,
        ["method"] = Account,
        ["sourceText"] = Account,
        ["provenance"] = Account,
        ["source"] = Account,
        ["places"] = 4 * Account,
        ["zones"] = Account,
        ["before"] = EarlierState,
    };

    private static readonly ConcurrentDictionary<Type, (PropertyInfo Property, bool Needed)[]> Written = new();

    /// <summary>Longest text of a field.</summary>
    public static int LongestOf(string field) => Lengths.GetValueOrDefault(field, Line);

    /// <param name="value">What was sent: a text, a number, a record of the program, or a list of these.</param>
    /// <param name="field">Name of the field that holds it; empty for the whole.</param>
    /// <returns>What is wrong, at most twenty at once; each names its field as the case file does: parts[3].place.</returns>
    public static IReadOnlyList<Problem> Check(object? value, string field = "")
    {
        var problems = new List<Problem>();
        Walk(value, field, field, 0, problems);
        return problems;
    }

    /// <exception cref="ProblemException">Something of it cannot be taken.</exception>
    public static T Checked<T>(T value, string field = "")
    {
        var problems = Check(value, field);
        return problems.Count > 0 ? throw new ProblemException(problems) : value;
    }

    private static void Walk(object? value, string path, string name, int depth, List<Problem> problems)
    {
        if (problems.Count >= MostTold)
        {
            return;
        }

        switch (value)
        {
            case null or byte[] or Guid or bool:
                break;
            case string text:
                CheckText(text, path, name, problems);
                break;
            case Enum choice when !Enum.IsDefined(choice.GetType(), choice):
                problems.Add(Problem.Of(path, "input.no-such-choice", ("value", choice.ToString())));
                break;
            case double number when !double.IsFinite(number):
            case float single when !float.IsFinite(single):
                problems.Add(Problem.Of(path, "input.no-number"));
                break;
            // One that is not set yet is none.
            case DateTimeOffset at when at != default && (at < Earliest || at > Latest):
            case DateOnly day when day < DateOnly.FromDateTime(Earliest.DateTime) || day > DateOnly.FromDateTime(Latest.DateTime):
                problems.Add(Problem.Of(path, "input.no-such-day"));
                break;
            case JsonElement:
                break;
            case IDictionary entries:
                foreach (DictionaryEntry entry in entries)
                {
                    CheckText(entry.Key as string ?? "", path, "", problems);
                    Walk(entry.Value, $"{path}.{entry.Key}", name, depth + 1, problems);
                }

                break;
            case IEnumerable elements:
                Elements(elements, path, name, depth, problems);
                break;
            default:
                if (value.GetType().Namespace?.StartsWith(nameof(VividSleuth), StringComparison.Ordinal) == true)
                {
                    Record(value, path, depth, problems);
                }

                break;
        }
    }

    private static void Elements(IEnumerable elements, string path, string name, int depth, List<Problem> problems)
    {
        var at = 0;
        foreach (var element in elements)
        {
            if (at == MostElements)
            {
                problems.Add(Problem.Of(path, "input.too-many", ("most", MostElements)));
                return;
            }

            if (element is null)
            {
                problems.Add(Problem.Of($"{path}[{at}]", "input.nothing-in-a-list"));
            }

            Walk(element, $"{path}[{at++}]", name, depth + 1, problems);
        }
    }

    private static void Record(object record, string path, int depth, List<Problem> problems)
    {
        if (depth > Deepest)
        {
            problems.Add(Problem.Of(path, "input.too-deep"));
            return;
        }

        // What is worked out of other fields is not walked: of one that is wrong it may not be possible to work it out.
        var properties = Written.GetOrAdd(
            record.GetType(),
            t =>
            {
                var nullable = new NullabilityInfoContext();
                return
                [
                    .. t.GetProperties(BindingFlags.Public | BindingFlags.Instance)
                        .Where(p => p.CanRead && p.CanWrite && p.GetIndexParameters().Length == 0)
                        .Select(p => (p, !p.PropertyType.IsValueType && nullable.Create(p).WriteState == NullabilityState.NotNull)),
                ];
            }
        );
        foreach (var (property, needed) in properties)
        {
            var name = char.ToLowerInvariant(property.Name[0]) + property.Name[1..];
            var at = path.Length == 0 ? name : $"{path}.{name}";
            var held = property.GetValue(record);
            if (held is null && needed)
            {
                // From a stream the reader of JSON lets null through beside the parameters of a constructor.
                problems.Add(Problem.Of(at, "input.missing"));
            }

            Walk(held, at, name, depth + 1, problems);
        }
    }

    private static void CheckText(string text, string path, string name, List<Problem> problems)
    {
        var longest = LongestOf(name);
        if (text.Length > longest)
        {
            problems.Add(Problem.Of(path, "input.text-too-long", ("length", text.Length), ("longest", longest)));
            return;
        }

        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            if (char.IsHighSurrogate(c) && i + 1 < text.Length && char.IsLowSurrogate(text[i + 1]))
            {
                i++;
            }
            else if (char.IsSurrogate(c) || (char.IsControl(c) && c is not ('\n' or '\r' or '\t')))
            {
                problems.Add(Problem.Of(path, "input.no-character", ("code", $"{(int)c:X4}"), ("place", i + 1)));
                return;
            }
        }
    }
}
