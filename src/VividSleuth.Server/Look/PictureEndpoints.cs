using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Pictures;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Index;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Look;
using VividSleuth.Words;
using Spot = VividSleuth.Core.Pictures.Spot;

namespace VividSleuth.Server.Look;

/// <summary>What is to be measured in a picture.</summary>
/// <param name="Points">Across and down in turn, as shares of the picture’s width and height.</param>
/// <param name="Scale">Both ends of a length that is known; empty or null where the card gives the plane.</param>
/// <param name="Above">How far it lies above the card, in mm.</param>
/// <param name="Face">Of a patch in a face: which of the part’s faces it is, for its place on the map; null where that is not asked.</param>
/// <param name="Facing">Column of the map that faces the camera, or points up.</param>
public sealed record PictureAsk(
    PictureTask Task,
    IReadOnlyList<double> Points,
    IReadOnlyList<double>? Scale = null,
    decimal? ScaleLength = null,
    decimal Above = 0,
    string? Face = null,
    double? Facing = null
);

/// <summary>A face of a part that a patch can be laid on from a photograph.</summary>
/// <param name="Facing">What may face the camera or point up; empty where it needs not be told.</param>
public sealed record LaidFace(string Id, Fact Name, IReadOnlyList<Fact> Facing);

/// <summary>A reading that is to be made of what was measured.</summary>
public sealed record PictureReading(
    Guid Id,
    string Characteristic,
    Phase Phase,
    string? Station = null,
    string? Direction = null,
    bool Confirmed = false
);

public sealed record PictureMeasureEntry(Guid Id, Guid Photo, PictureAsk Ask, PictureReading? Reading = null);

/// <summary>The card in a picture, or what keeps it from being measured by one.</summary>
/// <param name="Dots">Where its dots are seen, as shares, across and down in turn.</param>
/// <param name="Says">What to do; nothing where all is well.</param>
public sealed record CardView(int? Number, double? Residual, double? Tilt, double Soft, IReadOnlyList<double> Dots, IReadOnlyList<Fact> Says);

/// <summary>A figure beside the one that was asked for.</summary>
public sealed record PictureBeside(Fact Name, double Value, double Standard, Quantity Quantity);

/// <summary>A class of sizes with its particles.</summary>
/// <param name="To">In µm; null in the last.</param>
public sealed record SizeCount(string Letter, double From, double? To, int Count);

/// <summary>What was measured, before anything is written.</summary>
/// <param name="Influences">Of the standard uncertainty, each with its share of the variance.</param>
/// <param name="Found">Points that the program found, as shares, across and down in turn.</param>
/// <param name="Classes">Of particles; else empty.</param>
/// <param name="Faces">Faces of the part on whose map a patch can be laid; empty of all but patches.</param>
/// <param name="Zones">Where on the map it lies, on the face that was asked for.</param>
public sealed record PictureAnswer(
    double Value,
    double Standard,
    double Expanded,
    Quantity Quantity,
    IReadOnlyList<BudgetPart> Influences,
    IReadOnlyList<PictureBeside> Beside,
    IReadOnlyList<double> Found,
    IReadOnlyList<Fact> Notes,
    int? Card,
    double? Residual,
    double? Tilt,
    IReadOnlyList<SizeCount> Classes,
    int Shiny,
    IReadOnlyList<LaidFace> Faces,
    IReadOnlyList<PatchZone> Zones
);

/// <summary>An influence and its share of the variance, 0–1.</summary>
public sealed record BudgetPart(Fact Name, double Standard, double Share);

/// <summary>One picture over another.</summary>
/// <param name="Matrix">a, b, c, d, e, f: a point (x, y) of the first, in pixels of its view, lies at (a x + c y + e, b x + d y + f) in the second’s.</param>
/// <param name="Changes">Left, top, right, bottom as shares of the first, and by how many deviations of the noise it changed.</param>
public sealed record OverlayView(
    IReadOnlyList<double> Matrix,
    double Turn,
    double Larger,
    double Alike,
    IReadOnlyList<IReadOnlyList<double>> Changes
);

/// <summary>What a frame of the camera shows, before the shutter.</summary>
public sealed record CardHint(bool Good, int? Number, double? Tilt, Fact Says);

public sealed record PictureMeasured(PictureMeasure Measure, Reading? Reading);

/// <summary>Pictures that measure: the card, figures before they are written, measures and their readings, and one picture over another.</summary>
public static class PictureEndpoints
{
    private const int MostFrameBytes = 600_000;

    public static void MapPictures(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}").WithTags("pictures").RequireAuthorization(Policies.Write);
        group.MapGet("/photos/{id:guid}/card", CardAsync).ProducesProblem(StatusCodes.Status404NotFound);
        group.MapPost("/photos/{id:guid}/measure", TryAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/photos/{id:guid}/over/{other:guid}", OverAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/picture-measures", AddAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/picture-measures/{id:guid}/withdraw", WithdrawAsync).ProducesProblem(StatusCodes.Status409Conflict);
        api.MapPost("/pictures/hint", HintAsync)
            .WithTags("pictures")
            .RequireAuthorization(Policies.Write)
            // Whatever it is called: who it is from is asked before what it is.
            .WithMetadata(new RequestSizeLimitAttribute(MostFrameBytes));
        api.MapGet("/pictures/card.pdf", CardPdf).WithTags("pictures").Produces<byte[]>(contentType: "application/pdf");
    }

    private static IResult CardPdf(int? number, Sentences sentences)
    {
        var of = number ?? 1;
        return of is < 1 or > ScaleCard.Most
            ? throw new ProblemException(Problem.Of("number", "server.no-such-card", ("number", of), ("most", ScaleCard.Most)))
            : Results.File(CardPaper.Draw(of, sentences), "application/pdf", $"scale-card-{of}.pdf");
    }

    private static async Task<CardView> CardAsync(Guid caseId, Guid id, SleuthDb db, CancellationToken cancel)
    {
        var (_, file) = await LookEndpoints.OriginalOfAsync(caseId, id, db, cancel);
        return await PictureRaster.ReckonAsync([file], r => View(r[0]), cancel);
    }

    private static CardView View(Raster picture)
    {
        var cards = CardFinder.Find(picture);
        if (cards is not [var card])
        {
            return new CardView(null, null, null, 0, [], [Fact.Of(cards.Count == 0 ? "pictures.no-card" : "pictures.two-cards")]);
        }

        var plane = PicturePlane.Of(card, picture.Width, picture.Height);
        var says = new List<Fact>();
        if (card.Soft > PictureReckoner.MostSoft)
        {
            says.Add(Fact.Of("pictures.blurred"));
        }

        if (plane.Tilt > PictureReckoner.MostTilt)
        {
            says.Add(Fact.Of("pictures.too-slanted", ("tilt", Math.Round(plane.Tilt.Value)), ("most", PictureReckoner.MostTilt)));
        }

        return new CardView(card.Number, plane.Residual, plane.Tilt, card.Soft, Shares([.. card.Dots.Select(d => d.Seen)], picture), says);
    }

    private static async Task<PictureAnswer> TryAsync(Guid caseId, Guid id, PictureAsk ask, CaseDesk desk, SleuthDb db, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var (photo, file) = await LookEndpoints.OriginalOfAsync(caseId, id, db, cancel);
        var place = reader.Table.Find(photo.Place);
        var answer = await PictureRaster.ReckonAsync(
            [file],
            r => Answer(r[0], ask, photo.Id, place is null ? null : ZoneMaps.Of(place, reader.Table.Engine)),
            cancel
        );
        return ask.Task == PictureTask.Length && place?.Kind.ReadAs == PartKinds.Bore && reader.Gauge.Measurable.Contains(Characteristics.PortChord)
            ? answer with
            {
                Beside = [.. answer.Beside, .. OfBore(answer, reader.Gauge.Figures.FirstOrDefault(f => IsBoreOf(f, place.Code)))],
            }
            : answer;
    }

    private static bool IsBoreOf(SheetFigure figure, string place) => figure.Characteristic == Characteristics.BoreDiameter && figure.Place == place;

    /// <summary>The share of the bore that a port takes whose width was measured as a chord, where the bore is known.</summary>
    private static IEnumerable<PictureBeside> OfBore(PictureAnswer chord, SheetFigure? bore)
    {
        if (bore is not null && chord.Value <= bore.Value)
        {
            var share = Formulas.PortShare.Of(bore.Value, chord.Value);
            var relative = double.Hypot(chord.Standard / chord.Value, (bore.Estimate?.Standard ?? bore.Expanded / 2) / bore.Value);
            yield return new PictureBeside(Formulas.PortShare.Name, share, share * relative, Quantity.Share);
        }
    }

    internal static PictureAnswer Answer(Raster picture, PictureAsk ask, Guid photo, ZoneMap? map)
    {
        var (figure, plane) = Measure(picture, ask, photo);
        var e = figure.Figure;
        var variance = e.Standard * e.Standard;
        var laid = map?.Faces.Where(f => PatchOnMap.CanLay(map.Kind, f, ask.Task)).ToArray() ?? [];
        return new PictureAnswer(
            e.Value,
            e.Standard,
            e.Expanded,
            figure.Quantity,
            [
                .. e
                    .Influences.OrderByDescending(i => Math.Abs(i.Standard))
                    .Select(i => new BudgetPart(i.Name, Math.Abs(i.Standard), variance > 0 ? i.Standard * i.Standard / variance : 0)),
            ],
            [.. figure.Beside.Select(b => new PictureBeside(b.Name, b.Figure.Value, b.Figure.Standard, b.Quantity))],
            Shares(figure.Found, picture),
            figure.Notes,
            plane.Card?.Number,
            plane.Residual,
            plane.Tilt,
            figure.Count is { } count
                ?
                [
                    .. count.Classes.Select(c => new SizeCount(
                        c.Class.Letter,
                        c.Class.From,
                        double.IsFinite(c.Class.To) ? c.Class.To : null,
                        c.Count
                    )),
                ]
                : [],
            figure.Count?.All.Count(p => p.Shiny) ?? 0,
            [.. laid.Select(f => new LaidFace(f.Id, f.Name, PatchOnMap.AsksFacing(map!.Kind, f) ? f.ColumnWords : []))],
            laid.FirstOrDefault(f => f.Id == ask.Face) is { } face
                ? PatchOnMap.Zones(map!.Kind, face, ask.Facing ?? 12, FacePatch.Of(picture, plane, ask.Task, Spots(ask.Points, picture, "points")))
                : []
        );
    }

    private static (PictureFigure Figure, PicturePlane Plane) Measure(Raster picture, PictureAsk ask, Guid photo)
    {
        var plane = PlaneOf(picture, ask);
        return (PictureReckoner.Measure(picture, plane, ask.Task, Spots(ask.Points, picture, "points"), (double)ask.Above, photo.ToString()), plane);
    }

    private static PicturePlane PlaneOf(Raster picture, PictureAsk ask)
    {
        if (ask.Above is < -200 or > 200)
        {
            throw new ProblemException(Problem.Of("above", "pictures.above-cannot-be", ("above", ask.Above)));
        }

        if (ask.Scale is { Count: > 0 } marks)
        {
            var ends = Spots(marks, picture, "scale");
            return ends.Length == 2 && ask.ScaleLength is > 0 and < 10_000
                ? PicturePlane.Of(ends[0], ends[1], (double)ask.ScaleLength, picture.Width, picture.Height)
                    ?? throw new ProblemException(Problem.Of("scale", "pictures.points-are-one"))
                : throw new ProblemException(Problem.Of("scaleLength", "pictures.length-not-told"));
        }

        return CardFinder.Find(picture) switch
        {
            [var card] => PicturePlane.Of(card, picture.Width, picture.Height),
            [] => PicturePlane.Unscaled(picture.Width, picture.Height),
            _ => throw new ProblemException(Problem.Of("photo", "pictures.two-cards")),
        };
    }

    private static async Task<PictureMeasured> AddAsync(
        Guid caseId,
        PictureMeasureEntry entry,
        Recorder recorder,
        CaseDesk desk,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var db = recorder.Db;
        var reader = await desk.OpenAsync(caseId, cancel);
        if (reader.Case.PictureMeasures.Find(m => m.Id == entry.Id) is { } recorded)
        {
            return new PictureMeasured(recorded, reader.Case.Readings.Find(r => r.Picture == recorded.Id));
        }

        var (photo, file) = await LookEndpoints.OriginalOfAsync(caseId, entry.Photo, db, cancel);
        var (figure, plane) = await PictureRaster.ReckonAsync([file], r => Measure(r[0], entry.Ask, entry.Photo), cancel);
        var measure = new PictureMeasure
        {
            Id = entry.Id,
            Photo = photo.Id,
            Task = entry.Ask.Task,
            Points = [.. entry.Ask.Points],
            Scale = [.. entry.Ask.Scale ?? []],
            ScaleLength = entry.Ask.Scale is { Count: > 0 } ? entry.Ask.ScaleLength : null,
            Card = plane.Card?.Number,
            Above = entry.Ask.Above,
            Value = Rounded(figure.Figure.Value),
            Standard = Rounded(figure.Figure.Standard),
            Residual = plane.Residual,
            Tilt = plane.Tilt,
            Classes = figure.Count is { } count ? [.. SizeClass.All.Select(c => count.All.Count(p => SizeClass.Of(p.Longest) == c))] : [],
            Longest = figure.Count is { All: [var longest, ..] } ? Rounded(longest.Longest / 1000) : null,
            Shiny = figure.Count?.All.Count(p => p.Shiny),
        };
        var reading = entry.Reading is { } wanted ? ReadingOf(wanted, measure, photo, figure, reader, knowledge) : null;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.LockAsync(caseId, cancel);
        var added = await recorder.AddAsync(caseId, measure, cancel);
        var read = reading is null ? null : await recorder.AddAsync(caseId, reading, cancel);
        await transaction.CommitAsync(cancel);
        return new PictureMeasured(added, read);
    }

    private static Reading ReadingOf(
        PictureReading wanted,
        PictureMeasure measure,
        Photo photo,
        PictureFigure figure,
        CaseReader reader,
        KnowledgeBase knowledge
    )
    {
        var characteristic = knowledge.Characteristic(wanted.Characteristic);
        if (characteristic is not null && !characteristic.InPicture.Contains(measure.Task))
        {
            throw new ProblemException(Problem.Of("characteristic", "pictures.another-way", ("characteristic", characteristic.Name)));
        }

        var unit = PictureReckoner.QuantityOf(measure.Task) switch
        {
            Quantity.Angle => "deg",
            Quantity.Share => "%",
            Quantity.Ratio => "x",
            _ => "mm",
        };
        // No digit that the uncertainty makes meaningless.
        var places = Math.Clamp(1 - (int)Math.Floor(Math.Log10(Math.Max(1e-6, figure.Figure.Standard))), 0, 5);
        var typed = Math.Round(measure.Value, places).ToString(CultureInfo.InvariantCulture);
        var place = reader.Table.Find(photo.Place);
        var (nominal, median) = GaugeEntries.Expected(
            reader.Case.Readings,
            [.. reader.Case.Limits.Where(l => l.Characteristic == wanted.Characteristic)],
            reader.Table,
            wanted.Characteristic,
            place?.Kind.ReadAs ?? "",
            wanted.Phase
        );
        var reading = GaugeEntries.Read(
            new ReadingEntry(
                wanted.Id,
                photo.Place,
                wanted.Characteristic,
                typed,
                unit,
                "",
                null,
                null,
                wanted.Confirmed,
                wanted.Station,
                wanted.Direction,
                wanted.Phase
            ),
            reader.Table,
            knowledge,
            nominal,
            median
        );
        (reading.Picture, reading.Standard) = (measure.Id, measure.Standard);
        return reading;
    }

    /// <summary>Takes a measure back, and with it the reading that was made of it.</summary>
    private static async Task<PictureMeasure> WithdrawAsync(Guid caseId, Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel)
    {
        var db = recorder.Db;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.LockAsync(caseId, cancel);
        var measure = await recorder.WithdrawAsync<PictureMeasure>(caseId, id, withdrawal, cancel);
        foreach (
            var reading in await db.Set<Reading>()
                .AsNoTracking()
                .Where(r => r.CaseId == caseId && r.Picture == id && r.WithdrawnAt == null)
                .ToListAsync(cancel)
        )
        {
            await recorder.WithdrawAsync<Reading>(caseId, reading.Id, withdrawal with { Version = reading.Version }, cancel);
        }

        await transaction.CommitAsync(cancel);
        return measure;
    }

    private static async Task<OverlayView> OverAsync(Guid caseId, Guid id, Guid other, SleuthDb db, CancellationToken cancel)
    {
        // The views suffice: what is laid over each other is looked at on a screen.
        var (one, two) = (await ViewAsync(caseId, id, db, cancel), await ViewAsync(caseId, other, db, cancel));
        return await PictureRaster.ReckonAsync(
            [one, two],
            r =>
            {
                if (Overlay.Of(r[0], r[1]) is not { } over)
                {
                    throw new ProblemException(Problem.Of("other", "pictures.not-alike"));
                }

                var (cos, sin) = (over.Scale * Math.Cos(over.Turn * Math.PI / 180), over.Scale * Math.Sin(over.Turn * Math.PI / 180));
                return new OverlayView(
                    [cos, sin, -sin, cos, over.Shift.X, over.Shift.Y],
                    over.Turn,
                    over.Scale,
                    over.Alike,
                    [
                        .. over.Changes.Select(c =>
                            (IReadOnlyList<double>)[c.Left / r[0].Width, c.Top / r[0].Height, c.Right / r[0].Width, c.Bottom / r[0].Height, c.By]
                        ),
                    ]
                );
            },
            cancel
        );
    }

    private static async Task<CardHint> HintAsync(HttpRequest request, CancellationToken cancel)
    {
        using var body = new MemoryStream();
        await request.Body.CopyToAsync(body, cancel);
        if (PictureRaster.Frame(body.ToArray()) is not { } frame)
        {
            throw new ProblemException(Problem.Of("file", "pictures.no-frame"));
        }

        var cards = CardFinder.Find(frame);
        if (cards is not [var card])
        {
            return new CardHint(false, null, null, Fact.Of(cards.Count == 0 ? "pictures.hint-no-card" : "pictures.two-cards"));
        }

        var plane = PicturePlane.Of(card, frame.Width, frame.Height);
        return plane.Tilt > PictureReckoner.MostTilt ? new CardHint(false, card.Number, plane.Tilt, Fact.Of("pictures.hint-slanted"))
            // A frame is small: what is blurred by a pixel or two there is by many in the picture.
            : card.Soft > 3.5 ? new CardHint(false, card.Number, plane.Tilt, Fact.Of("pictures.blurred"))
            : new CardHint(true, card.Number, plane.Tilt, Fact.Of("pictures.hint-good"));
    }

    private static decimal Rounded(double value) => (decimal)Math.Round(value, 6);

    private static List<double> Shares(IReadOnlyList<Spot> of, Raster picture) =>
        [.. of.SelectMany(s => new[] { (s.X + 0.5) / picture.Width, (s.Y + 0.5) / picture.Height })];

    private static Spot[] Spots(IReadOnlyList<double> shares, Raster picture, string field)
    {
        if (shares.Count % 2 != 0 || shares.Any(s => !double.IsFinite(s) || s < 0 || s > 1))
        {
            throw new ProblemException(Problem.Of(field, "pictures.point-outside"));
        }

        return
        [
            .. shares
                .Chunk(2)
                .Select(p => new Spot(
                    Math.Clamp((p[0] * picture.Width) - 0.5, 0, picture.Width - 1),
                    Math.Clamp((p[1] * picture.Height) - 0.5, 0, picture.Height - 1)
                )),
        ];
    }

    private static async Task<byte[]> ViewAsync(Guid caseId, Guid id, SleuthDb db, CancellationToken cancel) =>
        await db
            .PhotoContents.Where(c => c.PhotoId == id && db.Set<Photo>().Any(p => p.Id == id && p.CaseId == caseId))
            .Select(c => c.View)
            .SingleOrDefaultAsync(cancel)
        ?? throw Problems.NotHere("picture");
}
