using System.Globalization;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

public enum GaugeLineKind
{
    /// <summary>Who speaks and in which unit.</summary>
    Hello,

    /// <summary>A reading that was taken.</summary>
    Reading,

    /// <summary>A reading of the setting standard, with the standard's own size: tells drift.</summary>
    Check,

    /// <summary>Still there.</summary>
    Alive,

    /// <summary>Signs off.</summary>
    Bye,

    /// <summary>Not understood.</summary>
    Unknown,
}

/// <summary>One line of the gauge protocol of docs/gauge-protocol.md, understood.</summary>
/// <param name="Number">Running number of readings and checks, from 1; a gap in it is a reading that was lost.</param>
/// <param name="Figure">The figure as it was sent.</param>
/// <param name="Nominal">Of a check: size of the standard, as sent.</param>
public sealed record GaugeLine(GaugeLineKind Kind, int Number, string Figure, string Unit, string Nominal, string Name, string Text)
{
    public const int Longest = 200;

    /// <summary>Reads a line. It never fails: what cannot be read is of kind Unknown and keeps its text.</summary>
    public static GaugeLine Parse(string line)
    {
        var text = line.Length > Longest ? line[..Longest] : line.TrimEnd('\r', '\n');
        GaugeLine Unknown() => new(GaugeLineKind.Unknown, 0, "", "", "", "", text);
        if (line.Length > Longest)
        {
            return Unknown();
        }

        var words = text.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return words switch
        {
            ["gauge", "1", var unit, .. var name] when IsUnit(unit) => new(GaugeLineKind.Hello, 0, "", unit, "", string.Join(' ', name), text),
            ["read", var n, var figure, var unit] when Count(n) is { } at && IsFigure(figure) && IsUnit(unit) => new(
                GaugeLineKind.Reading,
                at,
                figure,
                unit,
                "",
                "",
                text
            ),
            ["check", var n, var figure, "of", var nominal, var unit]
                when Count(n) is { } at && IsFigure(figure) && IsFigure(nominal) && IsUnit(unit) => new(
                GaugeLineKind.Check,
                at,
                figure,
                unit,
                nominal,
                "",
                text
            ),
            ["alive"] => new(GaugeLineKind.Alive, 0, "", "", "", "", text),
            ["bye"] => new(GaugeLineKind.Bye, 0, "", "", "", "", text),
            _ => Unknown(),
        };
    }

    private static int? Count(string word) => int.TryParse(word, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n > 0 ? n : null;

    private static bool IsFigure(string word) =>
        word.Length <= 16
        && decimal.TryParse(word, NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out _);

    private static bool IsUnit(string word) => Enum.GetValues<Quantity>().Any(q => QuantityParser.IsUnit(word, q));
}

/// <summary>What a listener makes of a line, to be shown at the bench.</summary>
/// <param name="Kind">reading, trouble, note or gone.</param>
/// <param name="Typed">Of a reading: what goes into the entry, with its unit.</param>
/// <param name="From">Name by which the gauge introduced itself; empty where it did not.</param>
public sealed record GaugeNews(string Kind, string Typed, Fact Words, string From = "");

/// <summary>Follows a gauge line by line: counts readings, notices lost ones, another unit than announced, and drift on the standard.</summary>
public sealed class GaugeListener
{
    /// <summary>Drift on the standard above which the gauge is to be set again, mm; the length of two steps of a good gauge. Common practice.</summary>
    private const decimal Drift = 0.003m;

    private int _last;
    private string _unit = "";
    private string _name = "";
    private bool _greeted;
    private bool _toldStranger;

    /// <summary>The line broke: whatever answers next has to introduce itself anew.</summary>
    public void Broken() => (_greeted, _toldStranger) = (false, false);

    public GaugeNews? Take(GaugeLine line)
    {
        if (line.Kind != GaugeLineKind.Hello && !_greeted)
        {
            // Whatever answers there is no gauge as far as one knows: nothing of what it says is shown.
            if (_toldStranger)
            {
                return null;
            }

            _toldStranger = true;
            return new GaugeNews("trouble", "", Fact.Of("gauge.no-gauge-answers"));
        }

        switch (line.Kind)
        {
            case GaugeLineKind.Hello:
                _greeted = true;
                _unit = line.Unit;
                _name = line.Name;
                _last = 0;
                return new GaugeNews("note", "", Fact.Of("gauge.listening", ("gauge", line.Name), ("unit", line.Unit)));
            case GaugeLineKind.Reading:
                var lost = _last > 0 && line.Number > _last + 1;
                var before = _last;
                if (line.Number <= _last)
                {
                    return new GaugeNews("trouble", "", Fact.Of("gauge.reading-came-twice-not-taken", ("number", line.Number)));
                }

                _last = line.Number;
                var typed = $"{line.Figure} {line.Unit}";
                var words =
                    lost ? Fact.Of("gauge.reading-lost", ("first", before + 1), ("last", line.Number - before > 2 ? line.Number - 1 : null))
                    : _unit.Length > 0 && line.Unit != _unit
                        ? Fact.Of("gauge.another-unit-than-announced", ("announced", _unit), ("sends", line.Unit))
                    : Fact.None;
                return new GaugeNews("reading", typed, words, _name);
            case GaugeLineKind.Check:
                _last = line.Number;
                if (!QuantityParser.IsUnit(line.Unit, Quantity.Length))
                {
                    return null;
                }

                var off =
                    QuantityParser.Parse(line.Figure, Quantity.Length, line.Unit).Value
                    - QuantityParser.Parse(line.Nominal, Quantity.Length, line.Unit).Value;
                return Math.Abs(off) > Drift
                    ? new GaugeNews(
                        "trouble",
                        "",
                        Fact.Of(
                            "gauge.off-on-its-standard",
                            ("nominal", line.Nominal),
                            ("unit", line.Unit),
                            ("by", Amount.Length(Math.Abs(off))),
                            ("way", Fact.Of(off > 0 ? "gauge.too-much" : "gauge.too-little"))
                        )
                    )
                    : new GaugeNews("note", "", Fact.Of("gauge.right-on-its-standard", ("off", Amount.Length(off))));
            case GaugeLineKind.Bye:
                return new GaugeNews("gone", "", Fact.Of("gauge.gauge-signed-off"));
            case GaugeLineKind.Alive:
                return null;
            default:
                return new GaugeNews("trouble", "", Fact.Of("gauge.gauge-sent-something-cannot-read", ("text", line.Text)));
        }
    }
}
