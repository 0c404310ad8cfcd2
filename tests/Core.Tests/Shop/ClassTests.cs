using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Tests.Strip;

namespace VividSleuth.Core.Tests.Shop;

/// <summary>A class, the case with which a bench begins, and the board.</summary>
public sealed class ClassTests
{
    private static readonly DateTimeOffset Now = new(2026, 3, 2, 10, 0, 0, TimeSpan.Zero);

    private static CaseReader Read(EngineCase c) => new(c, KnowledgeBase.BuiltIn, [], DateOnly.FromDateTime(Now.Date));

    private static SchoolClass Class(string mark) =>
        new()
        {
            Name = "Lifeboats",
            Mark = mark,
            Teachers = [Guid.NewGuid()],
        };

    [Theory]
    [InlineData("L", true)]
    [InlineData("LB", true)]
    [InlineData("", false)]
    [InlineData("LBX", false)]
    [InlineData("l", false)]
    [InlineData("O", false)]
    [InlineData("I", false)]
    [InlineData("7", false)]
    public void A_mark_is_one_or_two_letters_that_are_no_digits(string mark, bool good)
    {
        Class(mark).Check().Any().ShouldBe(!good);
        if (good)
        {
            Core.Index.TagCode.CheckPrefix(Class(mark).PrefixOf(SchoolClass.MostBenches)).ShouldBeNull();
        }
    }

    [Fact]
    public void A_class_has_a_name_a_teacher_and_minutes_after_which_it_worries()
    {
        var c = new SchoolClass { Mark = "L", StuckAfter = 0 };
        c.Check().Select(p => p.Field).ShouldBe(["name", "teachers", "stuckAfter"]);
    }

    [Fact]
    public void A_bench_begins_with_what_is_of_the_kind_and_with_nothing_of_the_engine()
    {
        var c = StripTests.Upto("head");
        c.Complaint = "knocks";
        c.Findings.Add(Start.Saw("P1", "skirt-scuff-thrust", 2));
        c.Limits.Add(
            new Core.Gauge.Limit
            {
                Id = Guid.NewGuid(),
                Characteristic = "crankpin-diameter",
                Nominal = 60,
                Least = 59.98m,
                Most = 60,
                Unit = "mm",
                Source = Core.Gauge.LimitSource.MakersManual,
                SourceText = "page 12",
            }
        );
        c.Serial = "17";
        var own = Bench.CaseLike(Read(c), "Lifeboats L3", "L3");
        (own.Title, own.Prefix, own.EngineName, own.Complaint, own.Serial).ShouldBe(("Lifeboats L3", "L3", c.EngineName, "knocks", ""));
        own.Layout.ShouldBe(c.Layout);
        own.Script.ShouldBe(Read(c).Book.Script.Id);
        own.Limits.ShouldHaveSingleItem().SourceText.ShouldBe("page 12");
        own.Records().Count().ShouldBe(1);
    }

    [Fact]
    public void The_board_counts_what_is_done_by_the_minutes_it_takes()
    {
        var empty = ClassBoard.Of(Read(StripTests.General()));
        (empty.Marks.Share, empty.Marks.Steps, empty.Marks.Signed).ShouldBe((0, 0, 0));
        empty.At.ShouldBe(empty.Sections[0].Id);
        empty.Marks.ToSign.ShouldBe(empty.Sections.Count(s => s.Id != HoldSections.Rest));

        var some = ClassBoard.Of(Read(StripTests.Upto("head")));
        some.Marks.Share.ShouldBeInRange(0.01, 0.99);
        some.Marks.Steps.ShouldBe(some.Sections.Sum(s => s.Done));
        some.Marks.StepsInAll.ShouldBe(empty.Marks.StepsInAll);

        var all = ClassBoard.Of(Read(StripTests.Upto("")));
        all.Marks.Share.ShouldBe(1, 1e-9);
        all.At.ShouldBe("");
        all.Marks.Signed.ShouldBe(all.Marks.ToSign);
    }

    [Fact]
    public void A_bench_is_stuck_when_it_rests_while_others_work_and_not_while_it_waits()
    {
        var working = ClassBoard.Of(Read(StripTests.Upto("head")));
        DateTimeOffset At(int minutesAgo) => Now.AddMinutes(-minutesAgo);
        DateTimeOffset? Stuck(BenchStanding bench, int own, params int[] others) =>
            ClassBoard.StuckSince(bench, At(own), [At(own), .. others.Select(o => (DateTimeOffset?)At(o))], after: 20, Now);

        Stuck(working, 25, 3).ShouldBe(At(25));
        Stuck(working, 15, 3).ShouldBeNull();
        Stuck(working, 25, 30).ShouldBeNull("after hours nobody is stuck");
        ClassBoard.StuckSince(working, null, [At(3)], 20, Now).ShouldBeNull("it has not begun");

        var c = StripTests.Upto("head");
        c.Steps.Add(StripTests.Record("head"));
        var waiting = ClassBoard.Of(Read(c));
        waiting.Sections.Single(s => s.Id == waiting.At).State.ShouldBe(SectionState.Waiting);
        Stuck(waiting, 25, 3).ShouldBeNull("it waits for the teacher");
    }

    [Fact]
    public void Evidence_of_a_section_is_what_was_done_found_and_measured_until_it_was_signed()
    {
        var c = StripTests.Upto("head");
        var section = ClassBoard.Of(Read(c)).At;
        var steps = HoldSections.Of(Read(c).Book).Single(s => s.Id == section).Steps;
        var step = steps.First(s => Read(c).Book.Standing(s.Id).Records.Count > 0);
        c.Steps.Single(s => s.Step == step.Id).By = "nell";
        var found = Start.Saw("P1", "skirt-scuff-thrust", 2);
        found.At = DateTimeOffset.UtcNow.AddMinutes(2);
        c.Findings.Add(found);
        c.Photos.Add(
            new Photo
            {
                Id = Guid.NewGuid(),
                Place = "P1",
                Step = step.Id,
            }
        );
        var evidence = SectionEvidence.Of(Read(c), section)!;
        evidence.Steps.Single(s => s.Id == step.Id).Records.ShouldHaveSingleItem().By.ShouldBe("nell");
        evidence.Steps.Single(s => s.Id == step.Id).Photos.ShouldHaveSingleItem();
        evidence.Found.ShouldHaveSingleItem().Place.ShouldBe("P1");

        // Signed before it was found: it belongs to the next.
        c.Steps.Add(StripTests.Record(section));
        var sign = StripTests.Sign(section);
        c.SignOffs.Add(sign);
        SectionEvidence.Of(Read(c), section)!.Found.ShouldBeEmpty();
        SectionEvidence.Of(Read(c), ClassBoard.Of(Read(c)).At)!.Found.ShouldHaveSingleItem();
        SectionEvidence.Of(Read(c), "no such").ShouldBeNull();
    }
}
