using VividSleuth.Core.Build;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Tests.Strip;

namespace VividSleuth.Core.Tests.Dossier;

public sealed class OpenedLocksTests
{
    [Fact]
    public void Every_lock_that_was_opened_is_told_with_its_own_reason_until_the_step_is_taken_back()
    {
        var c = Start.Case();
        var pan = StripTests.Record("pan");
        pan.By = "tomas";
        pan.Overrides =
        [
            new StepOverride { Lock = StepLock.Order, Reason = "it lay open on arrival" },
            new StepOverride { Lock = StepLock.FastenersOut, Reason = "one was missing" },
        ];
        c.Steps.AddRange([StripTests.Record("record"), pan]);
        var opened = OpenedLocks.Of(c.Steps, c.BackActs, StripTests.Plan(c));
        opened
            .Select(o => (o.Step, o.Lock, o.Reason, o.By))
            .ShouldBe([
                ("Oil pan off", StepLock.Order, "it lay open on arrival", "tomas"),
                ("Oil pan off", StepLock.FastenersOut, "one was missing", "tomas"),
            ]);
        c.BackActs.Add(
            new BackAct
            {
                Step = "back/pan",
                Kind = BackActKind.Passed,
                Of = "figure/crank-end-float/TH/",
                Why = "felt by hand",
                By = "ines",
            }
        );
        var passed = OpenedLocks.Of(c.Steps, c.BackActs, StripTests.Plan(c))[^1];
        (passed.Step, passed.Lock, passed.Reason, passed.By).ShouldBe(("Oil pan off", StepLock.Assembly, "felt by hand", "ines"));
        c.BackActs.Clear();
        pan.WithdrawnAt = DateTimeOffset.UtcNow;
        OpenedLocks.Of(c.Steps, c.BackActs, StripTests.Plan(c)).ShouldBeEmpty();
    }
}
