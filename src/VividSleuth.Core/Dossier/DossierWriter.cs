using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Dossier;

/// <summary>
/// Writes the kinds of dossier from one record. What stands in each differs; what a thing is called, which figure counts and who said it do not.
/// </summary>
public sealed partial class DossierWriter
{
    private readonly DossierMatter _of;
    private readonly DossierWish _wish;
    private readonly List<DossierBlock> _blocks = [];
    private readonly IReadOnlyDictionary<string, PartVerdict> _verdicts;
    private readonly Finding[] _seen;
    private readonly Finding[] _absent;
    private readonly Conclusion? _own;
    private readonly Dictionary<string, string> _people = new(StringComparer.Ordinal);

    private DossierWriter(DossierMatter of, DossierWish wish)
    {
        (_of, _wish) = (of, wish);
        _verdicts = PartVerdict.Latest(of.Verdicts);
        Finding[] standing = [.. of.Findings.Where(f => f.Stands() && !Address.IsCandidate(f.Place))];
        _seen =
        [
            .. standing
                .Where(f => f.Seen == Seen.Present)
                .OrderByDescending(f => f.Level)
                .ThenBy(f => f.Place, StringComparer.Ordinal)
                .ThenBy(f => f.Sign, StringComparer.Ordinal)
                .ThenBy(f => f.Id),
        ];
        _absent =
        [
            .. standing.Where(f => f.Seen == Seen.Absent).OrderBy(f => f.Sign, StringComparer.Ordinal).ThenBy(f => f.Place, StringComparer.Ordinal),
        ];
        _own = of.Conclusions.Where(c => c.Stands()).OrderBy(c => c.At).ThenBy(c => c.Id).LastOrDefault();
    }

    /// <summary>Writes it. The same record, wish and day give the same paper.</summary>
    /// <exception cref="ProblemException">A picture that is asked for is not there.</exception>
    public static DossierPaper Write(DossierMatter of, DossierWish wish)
    {
        var writer = new DossierWriter(of, wish);
        switch (wish.Kind)
        {
            case DossierKind.Customer:
                writer.ForTheCustomer();
                break;
            case DossierKind.Examiner:
                writer.ForTheExaminer();
                break;
            case DossierKind.Own:
                writer.ForTheNextOne();
                break;
            case DossierKind.Class:
                writer.ForTheClass();
                break;
            default:
                throw new ArgumentOutOfRangeException(nameof(wish), wish.Kind, null);
        }

        if (wish.LeaveOutNames)
        {
            writer.Text("dossier.names-left-out");
        }

        writer.Text(wish.Kind == DossierKind.Customer ? "dossier.close-customer" : "dossier.close");
        return new DossierPaper(
            wish.Kind,
            Fact.Of($"dossier.title.{wish.Kind.ToString().ToLowerInvariant()}"),
            Fact.Of("dossier.under", ("title", of.Engine.Title), ("engine", of.Engine.Name), ("serial", of.Engine.Serial), ("day", of.Today)),
            of.Today,
            writer._blocks
        );
    }

    private void Chapter(string code) => _blocks.Add(new DossierHeading(1, Fact.Of(code)));

    private void Section(Fact text) => _blocks.Add(new DossierHeading(2, text));

    private void Text(string code, params IReadOnlyList<(string, object?)> with) => _blocks.Add(new DossierText(Fact.Of(code, with)));

    private void Table(IReadOnlyList<DossierColumn> columns, IEnumerable<DossierRow> rows)
    {
        DossierRow[] all = [.. rows];
        if (all.Length > 0)
        {
            _blocks.Add(new DossierTable(columns, all));
        }
        else
        {
            Text("dossier.nothing");
        }
    }

    private static DossierColumn Column(string code, double width, bool figures = false) => new(Fact.Of($"dossier.column.{code}"), width, figures);

    private static DossierRow Row(params IReadOnlyList<Fact?> cells) => new([.. cells.Select(c => c ?? Fact.None)]);

    /// <summary>A part by its address and in words.</summary>
    private Fact PartOf(string place) =>
        _of.Table.Find(place) is { } at ? Fact.Of("dossier.part", ("place", at.Code), ("words", at.Words)) : Fact.Text(place);

    /// <summary>A part in words alone, as a customer knows it.</summary>
    private Fact InWords(string place) => _of.Table.Find(place)?.Words ?? Fact.Text(place);

    private string SignName(string id) => _of.Knowledge.Sign(id)?.Name ?? id;

    /// <summary>Who wrote a record: by name, by a letter where names are left out, and as another shop’s where it came with a file.</summary>
    private Fact By(CaseRecord record) => By(record.By, record.Imported);

    private Fact By(string name, bool imported)
    {
        var told = name;
        if (_wish.LeaveOutNames && name.Length > 0)
        {
            if (!_people.TryGetValue(name, out var letter))
            {
                _people[name] = letter = Letter(_people.Count);
            }

            told = letter;
        }

        return imported ? Fact.Of("dossier.by-another-shop", ("by", told)) : Fact.Text(told);
    }

    /// <summary>A to Z, then A1 to Z1 and so on.</summary>
    private static string Letter(int n)
    {
        const int Letters = 26;
        return n < Letters ? $"{(char)('A' + n)}" : FormattableString.Invariant($"{(char)('A' + (n % Letters))}{n / Letters}");
    }

    private static Fact Day(DateTimeOffset at) => Fact.Of("dossier.day", ("day", DateOnly.FromDateTime(at.UtcDateTime)));

    /// <summary>Places behind the point for a figure with its doubt: two digits of the doubt (GUM 7.2.6), and no more than an instrument of the bench can show.</summary>
    private static int Digits(double expanded)
    {
        const int Most = 4;
        return expanded > 0 ? Math.Clamp(1 - (int)Math.Floor(Math.Log10(expanded)), 0, Most) : Most - 1;
    }

    private static Fact Value(SheetFigure f) => Fact.Of("dossier.value", ("value", new Amount(f.Value, f.Quantity, Digits(f.Expanded))));

    private static Fact Doubt(SheetFigure f) => Fact.Of("dossier.doubt", ("doubt", new Amount(f.Expanded, f.Quantity, Digits(f.Expanded))));

    private static Fact? LimitOf(SheetFigure f)
    {
        Amount? Bound(double? bound) => bound is { } b ? new Amount(b, f.Quantity, PlacesOf(b)) : null;
        return f.Limit is not { } limit || (limit.Least ?? limit.Most ?? limit.Wear) is null
            ? null
            : Fact.Of(
                limit.IsRuleOfThumb ? "dossier.thumb" : "dossier.limit",
                ("range", Range(Bound(limit.Least), Bound(limit.Most))),
                ("wear", Bound(limit.Wear)),
                ("source", limit.SourceText)
            );
    }

    /// <summary>As many places as a bound was given with.</summary>
    private static int PlacesOf(double bound)
    {
        const int Most = 4;
        const double Same = 1e-9;
        return Enumerable.Range(0, Most).FirstOrDefault(d => Math.Abs(Math.Round(bound, d) - bound) < Same, Most);
    }

    private static Fact? Range(Amount? least, Amount? most) =>
        (least, most) switch
        {
            (null, null) => null,
            (null, _) => Fact.Of("dossier.at-most", ("most", most)),
            (_, null) => Fact.Of("dossier.at-least", ("least", least)),
            _ => Fact.Of("dossier.from-to", ("least", least), ("most", most)),
        };

    private Fact? CauseOf(Conclusion own) => own.Cause.Length == 0 ? null : Fact.Text(_of.Knowledge.Cause(own.Cause)?.Name ?? own.Cause);

    private Fact CourseOf(PartVerdict verdict) =>
        _of.Knowledge.Course(verdict.Course) is { } course ? Fact.Text(course.Name) : Fact.Of("dossier.action", ("action", verdict.Action));

    private static bool GoesBack(VerdictAction action) => action is VerdictAction.Reuse or VerdictAction.CleanAndReuse;

    /// <summary>What becomes of parts, those of one kind and course together; what goes back as it is comes last.</summary>
    private IEnumerable<(VerdictAction Action, Fact Course, IReadOnlyList<Address> Parts)> Decided() =>
        _verdicts
            .Values.Where(v => !Address.IsCandidate(v.Place))
            .Select(v => (Verdict: v, At: _of.Table.Find(v.Place)))
            .Where(x => x.At is not null)
            .GroupBy(x => (x.Verdict.Action, Course: x.Verdict.Course.Length > 0 ? x.Verdict.Course : $"{x.Verdict.Action}", x.At!.Kind.Id))
            .OrderBy(g => GoesBack(g.Key.Action))
            .ThenBy(g => g.Key.Id, StringComparer.Ordinal)
            .Select(g =>
                (
                    g.Key.Action,
                    CourseOf(g.First().Verdict),
                    (IReadOnlyList<Address>)[.. g.Select(x => x.At!).OrderBy(a => a.Station).ThenBy(a => a.Code, StringComparer.Ordinal)]
                )
            );

    /// <summary>Photographs that are wished for; else those that show most: marked, of the place that failed, of the worst of what was found.</summary>
    private IReadOnlyList<DossierPicture> Pictures(int most)
    {
        var standing = _of.Photos.Where(p => p.Stands()).ToDictionary(p => p.Id);
        var marks = _of.Marks.Where(m => m.Stands()).ToLookup(m => m.Photo);
        if (_wish.Pictures is { } wished)
        {
            return
            [
                .. wished.Select(id =>
                    standing.TryGetValue(id, out var photo)
                        ? Picture(photo)
                        : throw new ProblemException(Problem.Of("pictures", "dossier.no-such-picture", ("id", id.ToString())))
                ),
            ];
        }

        var worst = _seen.Where(f => f.IsEvidence).GroupBy(f => f.Place, StringComparer.Ordinal).ToDictionary(g => g.Key, g => g.Max(f => f.Level));
        return
        [
            .. standing
                .Values.OrderByDescending(p => p.Place == _own?.Place)
                .ThenByDescending(p => marks[p.Id].Any())
                .ThenByDescending(p => worst.GetValueOrDefault(p.Place))
                .ThenBy(p => p.At)
                .ThenBy(p => p.Id)
                .Take(most)
                .Select(Picture),
        ];

        DossierPicture Picture(Photo photo) =>
            new(
                photo,
                [.. marks[photo.Id].OrderBy(m => m.At).ThenBy(m => m.Id)],
                photo.Caption.Length > 0 ? Fact.Of("dossier.caption", ("place", photo.Place), ("caption", photo.Caption)) : PartOf(photo.Place),
                Fact.Of(
                    "dossier.picture-shows",
                    ("part", InWords(photo.Place)),
                    (
                        "signs",
                        _seen.Where(f => f.Place == photo.Place).Select(f => SignName(f.Sign)).Distinct(StringComparer.Ordinal).Take(Told).ToArray()
                    )
                )
            );
    }

    private void Photographs(int most)
    {
        var pictures = Pictures(most);
        if (pictures.Count > 0)
        {
            _blocks.Add(new DossierPictures(pictures));
        }
    }

    private const int Told = 3;
}
