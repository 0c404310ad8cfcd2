using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Shop;

namespace VividSleuth.Core.Tests.Shop;

public sealed class KindTests
{
    private static readonly KnowledgeBase Knowledge = KnowledgeBase.BuiltIn;

    private static KindSheet Sheet() =>
        new()
        {
            Name = "Brindle CT-4",
            Layout = new EngineLayout
            {
                Arrangement = Arrangement.Inline,
                Cylinders = 4,
                Cycle = WorkingCycle.FourStroke,
                Bearings = BearingType.Plain,
                FiringOrder = [1, 3, 4, 2],
                // Another than the usual ones: what a file leaves out is read back as the usual.
                BankAOnTheLeft = false,
                RingsPerPiston = 4,
                Numbering = NumberingScheme.AlongTheCrank,
            },
            Stroke = 88,
            Limits =
            [
                new Limit
                {
                    Characteristic = Characteristics.PinDiameter,
                    Nominal = 52m,
                    Least = 51.98m,
                    Most = 52m,
                    Wear = 51.95m,
                    Unit = "mm",
                    SourceText = "maker’s manual, page 31",
                },
            ],
            Sizes =
            [
                new ServiceSizes
                {
                    Kind = PartKinds.Crankpin,
                    Steps = [0.25m, 0.5m],
                    SourceText = "maker’s list, page 4",
                },
            ],
            Notes =
            [
                new KindNote
                {
                    Title = "Front cover",
                    Text = "Two of its bolts are longer.",
                    Page = "drawing 7",
                },
            ],
            Services =
            [
                new KindService
                {
                    Id = "valves",
                    What = "Set the valves",
                    Ordinary = 500,
                    Standby = 250,
                    Months = 24,
                    SourceText = "maker’s manual, page 12",
                },
            ],
        };

    private static CaseReader Case(Action<EngineCase>? change = null)
    {
        var sheet = Sheet();
        var engineCase = new EngineCase
        {
            Id = Guid.NewGuid(),
            Layout = sheet.Layout,
            EngineName = "Brindle CT-4, 2.1 l",
        };
        change?.Invoke(engineCase);
        return new CaseReader(engineCase, Knowledge, [], new DateOnly(2026, 11, 29));
    }

    [Fact]
    public void A_case_that_begins_with_a_kind_says_what_the_kind_says()
    {
        var kind = new EngineKind
        {
            Id = Guid.NewGuid(),
            Version = 3,
            Sheet = Sheet(),
        };
        var reader = Case(c => KindItems.Begin(c, kind));
        reader.Case.KindVersion.ShouldBe(3);
        KindComparison.Of(kind.Sheet, kind.Sheet, reader).ShouldAllBe(r => r.State == KindRowState.Same);
        reader.Case.Limits.ShouldAllBe(l => l.Id != Guid.Empty && l.CaseId == reader.Case.Id);
        // Begun again it has the same ids: the request that is sent twice makes one case.
        var again = Case(c =>
        {
            c.Id = reader.Case.Id;
            KindItems.Begin(c, kind);
        });
        again.Case.Limits.Select(l => l.Id).ShouldBe(reader.Case.Limits.Select(l => l.Id));
    }

    [Fact]
    public void Each_side_is_offered_what_the_other_says()
    {
        var judgedBy = Sheet();
        var now = Sheet();
        now.Limits[0].Most = 52.01m;
        now.Sizes.Clear();
        var reader = Case(c =>
        {
            c.Stroke = 88;
            c.Limits = [.. judgedBy.Limits.Select(l => (Limit)KindItems.Bare(l))];
            c.Sizes = [.. judgedBy.Sizes.Select(s => (ServiceSizes)KindItems.Bare(s))];
            c.Limits.Add(
                new Limit
                {
                    Characteristic = Characteristics.BigEndClearance,
                    Most = 0.08m,
                    SourceText = "maker’s manual, page 33",
                }
            );
        });
        var states = KindComparison.Of(now, judgedBy, reader).ToDictionary(r => r.Key, r => r.State);
        states["stroke"].ShouldBe(KindRowState.Same);
        states[$"limit/{Characteristics.PinDiameter}//MakersManual"].ShouldBe(KindRowState.Differs);
        states[$"limit/{Characteristics.BigEndClearance}//MakersManual"].ShouldBe(KindRowState.OnlyCase);
        states["sizes/crankpin"].ShouldBe(KindRowState.Dropped);
        // What the case never had from it is not told as dropped.
        KindComparison.Of(now, null, reader).Single(r => r.Key == "sizes/crankpin").State.ShouldBe(KindRowState.OnlyCase);

        var taught = KindComparison.With(now, reader, [$"limit/{Characteristics.BigEndClearance}//MakersManual"]);
        taught.Limits.Select(l => l.Most).ShouldBe([52.01m, 0.08m]);
        KindComparison.With(now, reader, [$"limit/{Characteristics.PinDiameter}//MakersManual"]).Limits.Single().Most.ShouldBe(52m);
    }

    [Fact]
    public void Of_two_limits_that_stand_in_a_case_the_one_that_counts_is_compared()
    {
        var reader = Case(c =>
            c.Limits = [
                new Limit
                {
                    Id = Guid.NewGuid(),
                    Characteristic = Characteristics.PinDiameter,
                    Most = 1,
                    SourceText = "old",
                    At = DateTimeOffset.UnixEpoch,
                },
                new Limit
                {
                    Id = Guid.NewGuid(),
                    Characteristic = Characteristics.PinDiameter,
                    Most = 2,
                    SourceText = "new",
                    At = DateTimeOffset.UnixEpoch.AddDays(1),
                },
            ]
        );
        var item = KindItems.Of(reader).ShouldHaveSingleItem();
        ((Limit)item.Record!).Most.ShouldBe(2);
    }

    [Fact]
    public void A_file_is_read_back_as_it_was_written()
    {
        var file = new KindFile
        {
            Format = KindFile.FormatName,
            Version = 1,
            From = "The next valley’s shop",
            Kind = Sheet(),
            Script = Knowledge.StripScripts[0],
            Lessons = [new KindLesson { Step = "crank-out", Text = "Flange off first: \"two bolts\" hide behind it" }],
        };
        file.Kind.Tightenings.Add(
            new Tightening
            {
                Step = "head",
                Set = "head",
                Passes = [new TighteningPass(40, null, false), new TighteningPass(null, 90, false)],
                Source = LimitSource.MakersManual,
                SourceText = "maker’s manual",
                Page = "31",
            }
        );
        var text = file.Write();
        text.ShouldNotContain("caseId");
        text.ShouldNotContain("withdrawn");
        var back = KindFile.Read("file", text);
        System.Text.Json.JsonSerializer.Serialize(back, CaseFile.Json).ShouldBe(System.Text.Json.JsonSerializer.Serialize(file, CaseFile.Json));
    }

    /// <summary>What stands at nought or no, where the usual is another, was once left out of the file and came back as the usual.</summary>
    [Fact]
    public void A_script_is_read_back_as_it_was_written()
    {
        foreach (var script in Knowledge.StripScripts)
        {
            var copy = System.Text.Json.JsonSerializer.Deserialize<StripScript>(
                System.Text.Json.JsonSerializer.Serialize(script, CaseFile.Json),
                CaseFile.Json
            )!;
            copy.Steps[0].Minutes = 0;
            var back = ScriptFile.Read("file", ScriptFile.Write([copy])).ShouldHaveSingleItem();
            System.Text.Json.JsonSerializer.Serialize(back, CaseFile.Json).ShouldBe(System.Text.Json.JsonSerializer.Serialize(copy, CaseFile.Json));
        }
    }

    [Fact]
    public void Schema_is_the_one_in_the_documents()
    {
        var schema = KindFile.Schema();
        schema.ShouldNotContain("withdrawn");
        File.ReadAllText(Path.Combine(Start.Root(), "docs/kind-file.schema.json"))
            .ShouldBe(schema, "Run: sleuth schema --kind > docs/kind-file.schema.json");
    }

    public static TheoryData<string> DemoKinds() =>
        [.. Directory.GetFiles(Path.Combine(Start.Root(), "demo/kinds"), "*.yaml").Select(f => Path.GetFileName(f))];

    [Theory]
    [MemberData(nameof(DemoKinds))]
    public void Kinds_of_the_demo_stand(string name)
    {
        var file = KindFile.Read(name, File.ReadAllText(Path.Combine(Start.Root(), "demo/kinds", name)));
        KindCheck.Of(file.Kind, Knowledge).ShouldBeEmpty();
        file.Lessons.ShouldAllBe(l => KindCheck.Reader(file.Kind, Knowledge).Book.Step(l.Step) != null);
    }

    [Theory]
    [InlineData("", "shop.no-kind-file")]
    [InlineData("format: somebody-elses\nversion: 1", "shop.no-kind-file")]
    [InlineData("format: vivid-sleuth-kind\nversion: 2", "shop.kind-file-is-newer")]
    [InlineData(
        "format: vivid-sleuth-kind\nversion: 1\nkind:\n  limits:\n  - caseId: 0f8fad5b-d9cb-469f-a165-70867728950e",
        "knowledge.line-cannot-read"
    )]
    [InlineData("format: vivid-sleuth-kind\nversion: 1\nkind:\n  limits:\n  - by: ines", "knowledge.line-cannot-read")]
    [InlineData("format: vivid-sleuth-kind\nversion: 1\nkind:\n  limits:\n  - nominal: 1e400", "knowledge.line-cannot-read")]
    [InlineData("format: vivid-sleuth-kind\nversion: 1\nkind: [[[[[[", "knowledge.line-cannot-read")]
    [InlineData("format: vivid-sleuth-kind\nversion: 1\nkind: !!System.Diagnostics.Process {}", "knowledge.line-cannot-read")]
    [InlineData("format: vivid-sleuth-kind\nversion: 1\nkind:\n  name: a\n  name: b", "knowledge.line-cannot-read")]
    public void What_is_no_file_of_a_kind_says_what_to_do(string text, string code) =>
        Should.Throw<ProblemException>(() => KindFile.Read("file", text)).Problems[0].Text.Code.ShouldBe(code);

    [Theory]
    [InlineData("kind:\n  limits:\n  -")]
    [InlineData("kind:\n  limits:")]
    [InlineData("kind:\n  notes: [{title: null}]")]
    [InlineData("lessons:")]
    public void A_gap_in_a_file_is_told(string text) =>
        Should.Throw<ProblemException>(() => KindFile.Read("file", "format: vivid-sleuth-kind\nversion: 1\n" + text)).Problems.ShouldNotBeEmpty();

    [Fact]
    public void Aliases_that_would_swell_are_bounded()
    {
        // Ten levels of ten references each: a billion entries if each were laid out.
        var levels = string.Join(
            '\n',
            Enumerable.Range(1, 9).Select(i => $"  x{i}: &x{i} [{string.Join(", ", Enumerable.Repeat($"*x{i - 1}", 10))}]")
        );
        var text = $"format: vivid-sleuth-kind\nversion: 1\nkind:\n  x0: &x0 [a, a]\n{levels}";
        Should.Throw<ProblemException>(() => KindFile.Read("file", text));
        Should
            .Throw<ProblemException>(() => KindFile.Read("file", new string('a', KindFile.Most + 1)))
            .Problems[0]
            .Text.Code.ShouldBe("shop.kind-file-too-long");
    }

    [Fact]
    public void Of_a_half_wrong_sheet_the_good_half_stays_and_the_other_is_told()
    {
        var sheet = Sheet();
        sheet.Limits.Add(
            new Limit
            {
                Characteristic = "moon-phase",
                Most = 1,
                SourceText = "page 1",
            }
        );
        sheet.Limits.Add(
            new Limit
            {
                Characteristic = Characteristics.PinDiameter,
                Most = 9,
                SourceText = "page 2",
            }
        );
        sheet.Limits.Add(new Limit { Characteristic = Characteristics.BigEndClearance, Most = 0.08m });
        sheet.Sizes.Add(
            new ServiceSizes
            {
                Kind = PartKinds.Bore,
                Steps = [0.5m, 0.25m],
                SourceText = "page 3",
            }
        );
        sheet.Tightenings.Add(
            new Tightening
            {
                Step = "no-such-step",
                Set = "x",
                SourceText = "page 4",
            }
        );
        sheet.Services.Add(
            new KindService
            {
                Id = "oil",
                What = "Change the oil",
                SourceText = "page 5",
            }
        );
        sheet.Notes.Add(new KindNote { Title = "Nothing" });
        var (good, problems) = KindCheck.Sift(sheet, Knowledge);
        problems
            .Select(p => p.Field)
            .ShouldBe([
                "limits[1].characteristic",
                "limits[2].",
                "limits[3].sourceText",
                "sizes[1].steps",
                "tightenings[0].set",
                "notes[1].text",
                "services[1].ordinary",
            ]);
        KindCheck.Of(good!, Knowledge).ShouldBeEmpty();
        good!.Limits.Count.ShouldBe(1);
        good.Services.Count.ShouldBe(1);
    }

    [Theory]
    [InlineData("", "shop.kind-needs-name")]
    [InlineData("Brindle CT-4, 2.1 l", "shop.kind-name-has-comma")]
    public void A_kind_is_called_as_its_engines_begin(string name, string code)
    {
        var sheet = Sheet();
        sheet.Name = name;
        KindCheck.Sift(sheet, Knowledge).Good.ShouldBeNull();
        KindCheck.Of(sheet, Knowledge).ShouldContain(p => p.Text.Code == code);
    }

    [Fact]
    public void Broken_bolts_become_a_trap_for_the_next_one()
    {
        var step = Case().Book.Steps.First(s => s.Fasteners.Count > 0);
        var reader = Case(c =>
            c.FastenerMoves = [
                new VividSleuth.Core.Strip.FastenerMove
                {
                    Id = Guid.NewGuid(),
                    Step = step.Id,
                    Set = step.Fasteners[0].Id,
                    State = VividSleuth.Core.Strip.FastenerState.Broken,
                    Count = 1,
                },
            ]
        );
        var trap = KindTraps.Of(reader).ShouldHaveSingleItem();
        trap.Step.ShouldBe(step.Id);
        trap.Says["broke"].ShouldBe(1);
        KindTraps.Of(Case()).ShouldBeEmpty();
    }
}
