using System.Text.RegularExpressions;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;
using VividSleuth.Words;

namespace VividSleuth.Core.Tests.Dossier;

/// <summary>What stands in each kind of dossier, of the engines that ship.</summary>
public sealed partial class DossierWriterTests
{
    private static readonly Dictionary<string, CaseFile> Files = Directory
        .GetFiles(Path.Combine(Start.Root(), "demo/cases"), "*.case.json")
        .ToDictionary(f => Path.GetFileName(f)[..^".case.json".Length], f => CaseFile.FromJson(File.ReadAllText(f)));

    private static readonly Dictionary<Guid, IReadOnlyList<PartStay>> NoStays = [];

    private static readonly DateTimeOffset Noon = new(2026, 11, 24, 12, 0, 0, TimeSpan.Zero);

    private static DossierPaper Write(CaseFile file, DossierWish wish, params IReadOnlyList<string> lessons) =>
        DossierWriter.Write(
            new CaseReader(file.Case, KnowledgeBase.BuiltIn, file.Instruments, Start.Today).DossierMatter(lessons, NoStays, [], null, Start.Today),
            wish
        );

    /// <summary>All that it says, block by block.</summary>
    private static IEnumerable<string> Said(DossierPaper paper) =>
        paper
            .Blocks.SelectMany<DossierBlock, Fact>(b =>
                b switch
                {
                    DossierHeading h => [h.Text],
                    DossierText t => [t.Text],
                    DossierList l => l.Items,
                    DossierTable t => t.Columns.Select(c => c.Name).Concat(t.Rows.SelectMany(r => r.Cells)),
                    DossierDrawings d => d.Drawings.SelectMany(x => new[] { x.Title, x.Alternative }).Prepend(d.Caption),
                    DossierPictures p => p.Pictures.SelectMany(x => new[] { x.Caption, x.Alternative }),
                    _ => throw new ArgumentOutOfRangeException(nameof(paper)),
                }
            )
            .Prepend(paper.Under)
            .Prepend(paper.Title)
            .Select(Sentences.English.Say);

    public static TheoryData<string, DossierKind> All()
    {
        var all = new TheoryData<string, DossierKind>();
        foreach (var file in Files.Keys)
        {
            foreach (var kind in Enum.GetValues<DossierKind>())
            {
                all.Add(file, kind);
            }
        }

        return all;
    }

    [Theory]
    [MemberData(nameof(All))]
    public void Every_kind_is_written_of_every_engine_in_whole_sentences_and_tables(string file, DossierKind kind)
    {
        var paper = Write(Files[file], new DossierWish(kind));
        Said(paper).ShouldAllBe(s => !s.Contains('{') && !s.Contains('['));
        paper.Blocks.OfType<DossierHeading>().ShouldNotBeEmpty();
        foreach (var table in paper.Blocks.OfType<DossierTable>())
        {
            table.Columns.Sum(c => c.Width).ShouldBe(1, 1e-9);
            table.Rows.ShouldAllBe(r => r.Cells.Count == table.Columns.Count);
        }

        // Who reads it finds what it points to, and each mark once.
        var rows = paper.Blocks.OfType<DossierTable>().SelectMany(t => t.Rows).ToArray();
        var marks = rows.Select(r => r.Mark).Where(m => m.Length > 0).ToArray();
        marks.ShouldBeUnique();
        rows.Where(r => r.To.Length > 0).Select(r => r.To).ShouldAllBe(to => marks.Contains(to));
        Write(Files[file], new DossierWish(kind)).Blocks.Count.ShouldBe(paper.Blocks.Count);
    }

    [GeneratedRegex(@"\b(R\d[A-Z]?|K\d|M\d[A-Z]?|P\d[A-Z]?)\b")]
    private static partial Regex AnAddress();

    [Fact]
    public void The_letter_tells_what_failed_in_plain_words_and_is_short()
    {
        var paper = Write(Files["biogas-six"], new DossierWish(DossierKind.Customer));
        var said = string.Join('\n', Said(paper));
        var own = Files["biogas-six"].Case.Conclusions.Last(c => c.Stands());
        said.ShouldContain(KnowledgeBase.BuiltIn.Cause(own.Cause)!.Name);
        said.ShouldContain(own.Reasons);
        // A customer knows no addresses; what a person wrote stands as it is.
        var ours = paper.Blocks.OfType<DossierList>().SelectMany(l => l.Items).Select(Sentences.English.Say).ToArray();
        ours.ShouldAllBe(s => !AnAddress().IsMatch(s));
        ours.Length.ShouldBeLessThanOrEqualTo(6 + 12);
        paper.Blocks.OfType<DossierPictures>().Single().Pictures.Count.ShouldBe(3);
        paper.Blocks.OfType<DossierTable>().ShouldBeEmpty();
        // Nothing decided is not told as decided.
        var bare = new CaseFile
        {
            Case = Start.Case(),
            Changes = [],
            Instruments = [],
        };
        Said(Write(bare, new DossierWish(DossierKind.Customer)))
            .ShouldContain("We have not decided on a cause yet; what follows is what was found so far.");
    }

    [Fact]
    public void The_report_has_every_finding_every_figure_and_every_reading_behind_it()
    {
        var file = Files["biogas-six"];
        var paper = Write(file, new DossierWish(DossierKind.Examiner));
        var said = Said(paper).ToHashSet();
        var reader = new CaseReader(file.Case, KnowledgeBase.BuiltIn, file.Instruments, Start.Today);
        foreach (var f in file.Case.Findings.Where(f => f.Stands() && f.Seen == Seen.Present && !Core.Engines.Address.IsCandidate(f.Place)))
        {
            said.ShouldContain($"{f.Place}, {Sentences.English.Say(reader.Table.Find(f.Place)!.Words)}");
            said.ShouldContain(KnowledgeBase.BuiltIn.Sign(f.Sign)!.Name);
        }

        var figures = reader.Gauge.Figures.Where(f => !Core.Engines.Address.IsCandidate(f.Place)).ToArray();
        var rows = paper.Blocks.OfType<DossierTable>().SelectMany(t => t.Rows).ToArray();
        rows.Count(r => r.Mark.StartsWith('F')).ShouldBe(figures.Length);
        var annex = paper.Blocks.OfType<DossierTable>().Single(t => t.Rows.Any(r => r.Mark.StartsWith("R-", StringComparison.Ordinal)));
        var told = figures.Select(f => (f.Place, f.Characteristic, f.Phase)).ToHashSet();
        annex
            .Rows.Count(r => r.Mark.Length == 0)
            .ShouldBe(GaugeLog.Active(file.Case.Readings).Count(r => told.Contains((r.Place, r.Characteristic, r.Phase))));
        foreach (var photo in file.Case.Photos.Where(p => p.Stands()))
        {
            said.ShouldContain(photo.Sha256);
        }

        foreach (var sound in file.Case.Sounds.Where(s => s.Stands()))
        {
            said.ShouldContain(sound.Sha256);
        }

        // What no instrument gave is told by what it came from.
        said.ShouldContain("in picture hatch-c2.jpg, by card 42");
        said.ShouldContain("near the engine, 1500 rpm, pulling, warm, cylinder 3 cut out, clamp on cylinder 1");
    }

    [Fact]
    public void Where_names_are_left_out_no_name_stands_and_a_letter_is_the_same_person_throughout()
    {
        var file = Files["biogas-six"];
        string[] people = ["tomas", "ines", "marta"];
        var named = Said(Write(file, new DossierWish(DossierKind.Examiner))).ToArray();
        var unnamed = Said(Write(file, new DossierWish(DossierKind.Examiner, LeaveOutNames: true))).ToArray();
        people.Count(p => named.Any(s => s.StartsWith($"{p}, ", StringComparison.Ordinal))).ShouldBeGreaterThan(1);
        unnamed.ShouldAllBe(s => people.All(p => !s.StartsWith($"{p}, ", StringComparison.Ordinal)));
        unnamed.ShouldContain("Names are left out for privacy: a letter stands for the same person throughout.");
        var letters = named.Zip(unnamed).Where(x => x.First != x.Second && x.First.Contains(", ", StringComparison.Ordinal)).ToArray();
        letters.ShouldNotBeEmpty();
        foreach (var person in people)
        {
            letters
                .Where(x => x.First.StartsWith($"{person}, ", StringComparison.Ordinal))
                .Select(x => x.Second[..x.Second.IndexOf(',', StringComparison.Ordinal)])
                .Distinct()
                .Count()
                .ShouldBeLessThanOrEqualTo(1, person);
        }
    }

    [Fact]
    public void Pictures_stand_in_the_order_in_which_they_are_wished_for_and_one_that_is_not_there_is_told()
    {
        var file = Files["biogas-six"];
        var two = file.Case.Photos.Where(p => p.Stands()).Take(2).Select(p => p.Id).Reverse().ToArray();
        Write(file, new DossierWish(DossierKind.Own, two)).Blocks.OfType<DossierPictures>().Single().Pictures.Select(p => p.Photo.Id).ShouldBe(two);
        Write(file, new DossierWish(DossierKind.Own, [])).Blocks.OfType<DossierPictures>().ShouldBeEmpty();
        Should.Throw<ProblemException>(() => Write(file, new DossierWish(DossierKind.Own, [Guid.NewGuid()]))).Problems[0].Field.ShouldBe("pictures");
    }

    [Fact]
    public void What_the_shop_learned_stands_in_its_own_record_and_in_no_letter()
    {
        const string Lesson = "The plug behind the flywheel is left-hand.";
        Said(Write(Files["pump-together"], new DossierWish(DossierKind.Own), Lesson)).ShouldContain(Lesson);
        Said(Write(Files["pump-together"], new DossierWish(DossierKind.Customer), Lesson)).ShouldNotContain(Lesson);
    }

    /// <summary>A part that goes back counts as such, cleaned or not; what is renewed is never among them.</summary>
    [Fact]
    public void What_is_done_is_told_by_kind_and_what_goes_back_is_counted()
    {
        var c = Start.Case();
        foreach (
            var (place, action) in new[]
            {
                ("K1", VerdictAction.Machine),
                ("K2", VerdictAction.Machine),
                ("P1", VerdictAction.Reuse),
                ("P2", VerdictAction.CleanAndReuse),
                ("R1U", VerdictAction.Replace),
            }
        )
        {
            c.Verdicts.Add(
                new PartVerdict
                {
                    Id = Guid.CreateVersion7(),
                    Place = place,
                    Action = action,
                }
            );
        }

        c.Conclusions.Add(
            new Conclusion
            {
                Id = Guid.CreateVersion7(),
                Confidence = Confidence.Possible,
                Reasons = "by its look",
            }
        );
        var said = Said(
                Write(
                    new CaseFile
                    {
                        Case = c,
                        Changes = [],
                        Instruments = [],
                    },
                    new DossierWish(DossierKind.Customer)
                )
            )
            .ToArray();
        said.ShouldContain("2 parts go back as they are.");
        said.Count(s => s.Contains("(2): machined.", StringComparison.Ordinal)).ShouldBe(1);
        said.Count(s => s.Contains("(1): replaced.", StringComparison.Ordinal)).ShouldBe(1);
        said.ShouldContain(s => s.StartsWith("Possible: a cause that is not among those known here", StringComparison.Ordinal));
    }

    [Fact]
    public void What_was_taken_again_stands_beside_how_it_was_with_whether_it_is_really_another()
    {
        var c = Start.Case();
        foreach (var (phase, place, kpa) in new[] { (Phase.AsFound, "C1", 640m), (Phase.AfterRun, "C1", 1180m), (Phase.AsFound, "C2", 1150m) })
        {
            var read = Start.Read(place, "compression", kpa, "Bourdon gauge");
            (read.Phase, read.Unit) = (phase, "kPa");
            c.Readings.Add(read);
        }

        var file = new CaseFile { Case = c };
        var report = Write(file, new DossierWish(DossierKind.Examiner));
        Said(report).ShouldContain("Before and after");
        var row = report
            .Blocks.OfType<DossierTable>()
            .Single(t => Sentences.English.Say(t.Columns[^1].Name) == "Changed")
            .Rows.ShouldHaveSingleItem();
        string[] cells = [.. row.Cells.Select(Sentences.English.Say)];
        cells[0].ShouldBe("C1");
        cells[2].ShouldStartWith("640 ±");
        cells[3].ShouldBeEmpty();
        cells[4].ShouldStartWith("1180 ±");
        cells[5].ShouldStartWith("really better, by 540");
        Said(Write(file, new DossierWish(DossierKind.Customer)))
            .ShouldContain(s => s.StartsWith("Compression, ", StringComparison.Ordinal) && s.Contains("640 kPa before, 1180 kPa now; really better"));
        c.Readings.RemoveAt(1);
        Said(Write(file, new DossierWish(DossierKind.Examiner))).ShouldNotContain("Before and after");
    }

    [Fact]
    public void Bores_are_drawn_to_one_scale_with_the_states_of_a_part_side_by_side()
    {
        var c = Start.Case();
        void Bore(string place, Phase phase, decimal top, decimal foot)
        {
            foreach (
                var (station, direction, mm) in new[]
                {
                    ("top of ring travel", "along the crank", top),
                    ("below the rings", "along the crank", foot),
                    ("top of ring travel", "across", top),
                    ("below the rings", "across", foot),
                }
            )
            {
                var read = Start.Read(place, "bore-diameter", mm, "Bore gauge");
                (read.Phase, read.Station, read.Direction) = (phase, station, direction);
                c.Readings.Add(read);
            }
        }

        Bore("C1", Phase.AsFound, 100.10m, 100.00m);
        Bore("C1", Phase.AfterWork, 100.05m, 100.05m);
        Bore("C2", Phase.AsFound, 100.02m, 100.00m);
        var report = Write(new CaseFile { Case = c }, new DossierWish(DossierKind.Examiner));
        var drawings = report.Blocks.OfType<DossierDrawings>().First().Drawings;
        drawings.Select(d => Sentences.English.Say(d.Title)).ShouldBe(["C1", "C1, after work", "C2"]);
        Sentences.English.Say(drawings[0].Alternative).ShouldContain("taper 0.100 mm");
        double Bulge(DossierDrawing d) => d.Lines.Where(l => l.Pen == DossierPen.Part).SelectMany(l => l.Points).Max(p => p.X);
        double Grey(DossierDrawing d) => d.Lines.Where(l => l.Pen == DossierPen.Guide).SelectMany(l => l.Points).Max(p => p.X);
        // One scale: half the wear is drawn half as far, and a fifth a fifth.
        var most = Bulge(drawings[0]) - Grey(drawings[0]);
        (Bulge(drawings[1]) - Grey(drawings[1])).ShouldBe(most / 2, 1e-6);
        (Bulge(drawings[2]) - Grey(drawings[2])).ShouldBe(most / 5, 1e-6);
        drawings.ShouldAllBe(d =>
            d.Lines.SelectMany(l => l.Points).All(p => p.X >= 0 && p.X <= DossierDrawings.Size && p.Y >= 0 && p.Y <= DossierDrawings.Size)
        );
    }

    [Fact]
    public void A_ring_clock_marks_where_a_gap_was_put_and_dots_where_it_was_found()
    {
        var report = Write(Files["biogas-six"], new DossierWish(DossierKind.Examiner));
        var clock = report.Blocks.OfType<DossierDrawings>().First(d => d.Caption.Code == "dossier.drawn.clocks").Drawings[0];
        var dot = clock.Lines.Where(l => l.Points.Count == 1).Select(l => l.Points[0]).ToArray();
        dot.ShouldNotBeEmpty();
        var rings = new CaseReader(Files["biogas-six"].Case, KnowledgeBase.BuiltIn, Files["biogas-six"].Instruments, Start.Today)
            .Gauge
            .Rings[0]
            .Rings;
        // Clockwise from the free end, which is up.
        var angle = Math.Atan2(dot[0].X - 50, 50 - dot[0].Y) * 180 / Math.PI;
        ((angle + 360) % 360).ShouldBe(rings.First(r => r.Found is not null).Found!.Value, 1e-6);
    }

    [Fact]
    public void Clearances_are_drawn_to_one_scale_with_the_most_that_each_may_be()
    {
        var report = Write(Files["biogas-six"], new DossierWish(DossierKind.Examiner));
        var drawn = report.Blocks.OfType<DossierDrawings>().First(d => d.Caption.Code == "dossier.drawn.clearances").Drawings;
        var figures = new CaseReader(Files["biogas-six"].Case, KnowledgeBase.BuiltIn, Files["biogas-six"].Instruments, Start.Today)
            .Gauge.Figures.Where(f => f.Characteristic == "big-end-clearance" && f.Place.Length == 2)
            .OrderBy(f => f.Place, StringComparer.Ordinal)
            .ThenBy(f => f.Phase)
            .ToArray();
        drawn.Count.ShouldBe(figures.Length);
        // Number four as it came and after its work, side by side.
        drawn.Count(d => Sentences.English.Say(d.Title).StartsWith("R4", StringComparison.Ordinal)).ShouldBe(2);
        var scales = drawn
            .Zip(figures)
            .Select(x =>
            {
                double[] y = [.. x.First.Lines.Where(l => l.Pen == DossierPen.Part).Select(l => l.Points[0].Y)];
                var most = x.First.Lines.Single(l => l.Pen == DossierPen.Other).Points[0].Y;
                (most < y[2]).ShouldBe(x.Second.Value > (x.Second.Limit!.Wear ?? x.Second.Limit.Most)!.Value);
                return (y[2] - y[1]) / x.Second.Value;
            })
            .ToArray();
        scales.ShouldAllBe(s => Math.Abs((s / scales[0]) - 1) < 1e-9);
    }

    [Fact]
    public void A_stack_is_drawn_in_the_order_in_which_it_came_off_and_told_by_number()
    {
        var c = Start.Case();
        c.Stows.Add(
            new Stow
            {
                Id = Guid.CreateVersion7(),
                Code = "STACK1",
                Kind = StowKind.Stack,
                Name = "under the pump",
                Items =
                [
                    new StowItem { What = "gasket" },
                    new StowItem
                    {
                        What = "shim 0.2",
                        Count = 3,
                        Face = "word up",
                    },
                    new StowItem { Place = "P1" },
                ],
            }
        );
        c.Stows.Add(new Stow { Code = "BAG1", Items = [new StowItem { What = "bolts" }] });
        var report = Write(new CaseFile { Case = c }, new DossierWish(DossierKind.Examiner));
        var stack = report.Blocks.OfType<DossierDrawings>().ShouldHaveSingleItem().Drawings.ShouldHaveSingleItem();
        Sentences.English.Say(stack.Alternative).ShouldBe("3 layers upon one another, under the pump: see the table below.");
        stack.Numbers.Select(n => n.Number).ShouldBe([1, 2, 3]);
        stack.Numbers.Select(n => n.At.Y).ShouldBeInOrder(SortDirection.Ascending);
        static (double Top, double Foot) Of(DossierLine line) => (line.Points.Min(p => p.Y), line.Points.Max(p => p.Y));
        (double Top, double Foot)[] layers = [.. stack.Lines.Where(l => l.Pen == DossierPen.Part).Select(Of)];
        layers.Zip(stack.Numbers).ShouldAllBe(x => x.First.Top < x.Second.At.Y && x.Second.At.Y < x.First.Foot);
        layers.Zip(layers.Skip(1)).ShouldAllBe(x => x.First.Foot < x.Second.Top);
        // Three shims are drawn as three sheets of one layer.
        stack.Lines.Where(l => l.Pen == DossierPen.Guide).Select(Of).Count(s => s.Top > layers[1].Top && s.Foot < layers[1].Foot).ShouldBe(2);
        var table = report.Blocks.OfType<DossierTable>().Single(t => Sentences.English.Say(t.Columns[^1].Name) == "Face outward");
        table
            .Rows.Select(r => string.Join("; ", r.Cells.Select(Sentences.English.Say)))
            .ShouldBe(["STACK1, under the pump; 1; gasket; 1; ", "; 2; shim 0.2; 3; word up", "; 3; P1, piston 1; 1; "]);
    }

    [Fact]
    public void An_earlier_case_of_the_engine_tells_its_cause_and_how_fast_a_figure_has_moved_since()
    {
        EngineCase At(decimal hours, decimal bore)
        {
            var c = Start.Case();
            c.Hours = hours;
            foreach (var station in new[] { "top of ring travel", "below the rings" })
            {
                var read = Start.Read("C1", "bore-diameter", bore, "Bore gauge");
                (read.Station, read.Direction) = (station, "across");
                c.Readings.Add(read);
            }

            return c;
        }

        var before = At(1_000, 100.00m);
        before.Conclusions.Add(
            new Conclusion
            {
                Id = Guid.CreateVersion7(),
                Cause = "wrong-size-shell",
                Place = "R4U",
                Confidence = Confidence.Proven,
            }
        );
        var earlier = new CaseReader(before, KnowledgeBase.BuiltIn, [], Start.Today).AsEarlier(sameEngine: true);
        var now = new CaseReader(At(3_000, 100.20m), KnowledgeBase.BuiltIn, [], Start.Today);
        var trend = FigureTrend.Of([earlier], now.Gauge, now.Case.Hours).First(t => t.Now.Characteristic == "bore-diameter");
        trend.Change.Change.ShouldBe(0.2, 1e-9);
        trend.PerThousandHours!.Value.Value.ShouldBe(0.1, 1e-9);
        trend.PerThousandHours.Value.Doubt.ShouldBe(trend.Change.Doubt / 2, 1e-9);
        FigureTrend.Of([earlier], now.Gauge, hours: null).ShouldAllBe(t => t.PerThousandHours == null);
        FigureTrend.Of([earlier with { SameEngine = false }], now.Gauge, now.Case.Hours).ShouldBeEmpty();

        var report = DossierWriter.Write(now.DossierMatter([], NoStays, [earlier], null, Start.Today), new DossierWish(DossierKind.Examiner));
        Said(report).ShouldContain("This engine and its kind before");
        Said(report).ShouldContain(s => s.StartsWith("Proven: ", StringComparison.Ordinal) && s.EndsWith(", at R4U", StringComparison.Ordinal));
    }

    [Fact]
    public void A_part_that_went_away_and_came_back_has_its_custody_told_hand_by_hand()
    {
        var c = Start.Case();
        Part At(Custody custody, string where, int day) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                Place = "CR",
                Custody = custody,
                Where = where,
                By = "ines",
                At = Noon.AddDays(day),
            };
        Part[] states =
        [
            At(Custody.Bench, "row 2", 0),
            At(Custody.MachineShop, "the grinder", 1),
            At(Custody.MachineShop, "the grinder", 2),
            At(Custody.Bench, "row 2", 5),
        ];
        var stays = PartStay.Of(states);
        stays.Select(s => s.Custody).ShouldBe([Custody.Bench, Custody.MachineShop, Custody.Bench]);
        stays[1].At.ShouldBe(Noon.AddDays(1));
        c.Parts.Add(states[^1]);
        var matter = new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).DossierMatter(
            [],
            new Dictionary<Guid, IReadOnlyList<PartStay>> { [states[^1].Id] = stays },
            [],
            null,
            Start.Today
        );
        var chain = DossierWriter
            .Write(matter, new DossierWish(DossierKind.Examiner))
            .Blocks.OfType<DossierTable>()
            .Single(t => t.Rows.Count == 3 && t.Columns.Count == 4 && Sentences.English.Say(t.Columns[1].Name) == "From");
        chain
            .Rows.Select(r => Sentences.English.Say(r.Cells[2]))
            .ShouldBe(["on the bench, row 2", "at the machine shop, the grinder", "on the bench, row 2"]);
    }
}
