using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

/// <summary>The strip in sections, and what is done at the hold point of each.</summary>
public sealed class HoldSectionTests
{
    private static readonly DateTimeOffset Start = new(2026, 3, 2, 8, 0, 0, TimeSpan.Zero);

    private static StripBook Book(EngineCase c) => new(c.StripLog(), c.Places(), KnowledgeBase.BuiltIn);

    /// <summary>A case with everything of the first section done by one person, its hold point at a known hour.</summary>
    private static (EngineCase Case, StripStep Hold) Done(string by = "nell")
    {
        var c = StripTests.General();
        var section = HoldSections.Of(Book(c))[0];
        foreach (var step in section.Steps)
        {
            c.Steps.Add(
                new StepRecord
                {
                    Id = Guid.CreateVersion7(),
                    Step = step.Id,
                    By = by,
                    At = Start,
                }
            );
        }

        return (c, section.Hold!);
    }

    private static SectionStanding First(EngineCase c) => HoldSections.StandingOf(HoldSections.Of(Book(c))[0], Book(c));

    private static Problem? Act(
        EngineCase c,
        StripStep hold,
        SignOutcome outcome,
        string by,
        int minute,
        bool maySign = false,
        bool secondLook = false,
        string note = ""
    )
    {
        var act = new SignOff
        {
            Id = Guid.CreateVersion7(),
            Step = hold.Id,
            Outcome = outcome,
            By = by,
            At = Start.AddMinutes(minute),
            Note = note,
        };
        var book = Book(c);
        var problem = StepRules.CheckSign(act, book, by, maySign, "teacher", otherEyes: false, secondLook);
        if (problem is null)
        {
            act.Seen = book.Seen(hold.Id);
            c.SignOffs.Add(act);
        }

        return problem;
    }

    [Fact]
    public void Each_section_ends_in_its_hold_point_and_every_step_is_in_one()
    {
        var c = StripTests.General();
        var sections = HoldSections.Of(Book(c));
        sections.SelectMany(s => s.Steps).Select(s => s.Id).ShouldBe(Book(c).Steps.Select(s => s.Id));
        sections.Count(s => s.Hold is not null).ShouldBe(Book(c).Steps.Count(s => s.HoldPoint));
        sections.ShouldAllBe(s => s.Hold == null || (s.Steps[s.Steps.Count - 1] == s.Hold && s.Id == s.Hold.Id));
        sections.Select(s => HoldSections.StandingOf(s, Book(c)).State).Distinct().ShouldBe([SectionState.Ahead]);
    }

    [Fact]
    public void A_section_is_worked_then_waits_since_its_hold_point_was_done_then_is_signed()
    {
        var c = StripTests.General();
        var section = HoldSections.Of(Book(c))[0];
        c.Steps.Add(
            new StepRecord
            {
                Id = Guid.CreateVersion7(),
                Step = section.Steps[0].Id,
                At = Start,
            }
        );
        First(c).State.ShouldBe(SectionState.Working);
        (c, var hold) = Done();
        (First(c).State, First(c).Since).ShouldBe((SectionState.Waiting, Start));
        Act(c, hold, SignOutcome.Signed, "nell", 5)!.Field.ShouldBe("role");
        Act(c, hold, SignOutcome.Signed, "ada", 5, maySign: true).ShouldBeNull();
        (First(c).State, First(c).By, First(c).Since).ShouldBe((SectionState.Signed, "ada", Start.AddMinutes(5)));
    }

    [Fact]
    public void Sent_back_it_is_asked_for_again_before_it_waits_again()
    {
        var (c, hold) = Done();
        Act(c, hold, SignOutcome.Asked, "nell", 1)!.Field.ShouldBe("step");
        Act(c, hold, SignOutcome.SentBack, "nell", 2, note: "no")!.Field.ShouldBe("role");
        Act(c, hold, SignOutcome.SentBack, "ada", 2, maySign: true)!.Field.ShouldBe("note");
        Act(c, hold, SignOutcome.SentBack, "ada", 2, maySign: true, note: "cap 3 has no mark").ShouldBeNull();
        (First(c).State, First(c).Note, First(c).By, First(c).SentBack).ShouldBe((SectionState.SentBack, "cap 3 has no mark", "ada", 1));
        Act(c, hold, SignOutcome.Asked, "nell", 9, note: "marked").ShouldBeNull();
        (First(c).State, First(c).Since, First(c).Note).ShouldBe((SectionState.Waiting, Start.AddMinutes(9), "marked"));
        Act(c, hold, SignOutcome.Signed, "ada", 12, maySign: true).ShouldBeNull();
        First(c).State.ShouldBe(SectionState.Signed);
    }

    [Fact]
    public void What_is_done_again_after_it_was_sent_back_waits_without_asking()
    {
        var (c, hold) = Done();
        Act(c, hold, SignOutcome.SentBack, "ada", 2, maySign: true, note: "again, please").ShouldBeNull();
        c.Steps.Single(s => s.Step == hold.Id).WithdrawnAt = Start.AddMinutes(3);
        First(c).State.ShouldBe(SectionState.Working);
        c.Steps.Add(
            new StepRecord
            {
                Id = Guid.CreateVersion7(),
                Step = hold.Id,
                By = "nell",
                At = Start.AddMinutes(6),
            }
        );
        (First(c).State, First(c).Since).ShouldBe((SectionState.Waiting, Start.AddMinutes(6)));
    }

    [Fact]
    public void A_second_look_is_by_another_than_who_did_it_and_who_signs_and_holds_for_what_was_seen()
    {
        var (c, hold) = Done();
        Act(c, hold, SignOutcome.Signed, "ada", 1, maySign: true, secondLook: true)!.Text.ShouldContain("second pair of eyes");
        Act(c, hold, SignOutcome.Looked, "nell", 2)!.Field.ShouldBe("by");
        Act(c, hold, SignOutcome.Looked, "ada", 2).ShouldBeNull();
        Act(c, hold, SignOutcome.Signed, "ada", 3, maySign: true, secondLook: true)!.Field.ShouldBe("step");
        Act(c, hold, SignOutcome.Looked, "per", 4).ShouldBeNull();
        First(c).LookedBy.ShouldBe("per");

        // Done once more, it is another thing to look at.
        c.Steps.Single(x => x.Step == hold.Id).WithdrawnAt = Start.AddMinutes(5);
        c.Steps.Add(
            new StepRecord
            {
                Id = Guid.CreateVersion7(),
                Step = hold.Id,
                By = "nell",
                At = Start.AddMinutes(5),
            }
        );
        First(c).LookedBy.ShouldBe("");
        Act(c, hold, SignOutcome.Signed, "ada", 6, maySign: true, secondLook: true)!.Field.ShouldBe("step");
        Act(c, hold, SignOutcome.Looked, "per", 6).ShouldBeNull();
        Act(c, hold, SignOutcome.Signed, "ada", 7, maySign: true, secondLook: true).ShouldBeNull();
    }

    [Fact]
    public void A_look_or_a_word_signs_nothing()
    {
        var (c, hold) = Done();
        Act(c, hold, SignOutcome.Looked, "per", 1).ShouldBeNull();
        Act(c, hold, SignOutcome.SentBack, "ada", 2, maySign: true, note: "no").ShouldBeNull();
        Act(c, hold, SignOutcome.Asked, "nell", 3).ShouldBeNull();
        Book(c).SignatureOf(hold.Id).ShouldBeNull();
        var after = HoldSections.Of(Book(c))[1].Steps[0];
        Book(c).Obstacles(after, []).ShouldContain(o => o.Lock == StepLock.HoldPoint && !o.Opens);
    }
}
