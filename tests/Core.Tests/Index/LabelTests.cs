using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Index;

public sealed class LabelTests
{
    private readonly AddressTable _table = Start.Table(Start.InlineSix);

    public static TheoryData<string> Sheets() => [.. LabelPage.All.Select(s => s.Id)];

    [Theory]
    [MemberData(nameof(Sheets))]
    public void No_label_leaves_its_paper_or_lies_on_another(string id)
    {
        var page = LabelPage.Get(id);
        var corners = Enumerable.Range(0, page.PerPage).Select(page.At).ToArray();
        corners.ShouldAllOfSomeBe(c =>
            c.X >= 0 && c.Y >= 0 && c.X + page.Width <= page.PageWidth + 0.01 && c.Y + page.Height <= page.PageHeight + 0.01
        );
        for (var i = 0; i < corners.Length; i++)
        {
            for (var j = i + 1; j < corners.Length; j++)
            {
                var apart = Math.Abs(corners[i].X - corners[j].X) >= page.Width - 0.01 || Math.Abs(corners[i].Y - corners[j].Y) >= page.Height - 0.01;
                apart.ShouldBeTrue($"{i} and {j}");
            }
        }
    }

    [Fact]
    public void Labels_are_asked_for_by_address_or_kind()
    {
        LabelPage.Labels("r4, R4C rod-cap", _table, []).Select(p => p.Code).ShouldBe(["R4", "R4C", "R1C", "R2C", "R3C", "R5C", "R6C"]);
        Should.Throw<ProblemException>(() => LabelPage.Labels(" ", _table, [])).Problems[0].Field.ShouldBe("places");
        Should.Throw<ProblemException>(() => LabelPage.Labels("R4 R77", _table, [])).Problems[0].Text.ShouldContain("R77");
        Should.Throw<ProblemException>(() => LabelPage.Get("a0-1")).Problems[0].Field.ShouldBe("page");
    }

    [Fact]
    public void Ten_thousand_labels_are_refused_before_anything_is_drawn() =>
        Should
            .Throw<ProblemException>(() => LabelPage.Labels(string.Join(' ', Enumerable.Repeat("R4", 10_000)), _table, []))
            .Problems[0]
            .Text.ShouldContain("10,000");

    [Fact]
    public void A_tag_is_read_back_and_one_of_another_case_is_told()
    {
        var (mine, other) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        TagCode.Read(TagCode.Write(mine, "R6L"), mine).ShouldBe("R6L");
        TagCode.Read(" r6l ", mine).ShouldBe("r6l");
        Should.Throw<ProblemException>(() => TagCode.Read(TagCode.Write(other, "R6L"), mine)).Problems[0].Text.ShouldContain("another case");
        Should.Throw<ProblemException>(() => TagCode.Read("https://example.org/whatever", mine)).Problems[0].Text.ShouldContain("no tag of ours");
        Should.Throw<ProblemException>(() => TagCode.Read("vivid-sleuth:zzz:R1", mine)).Problems[0].Remedy.ShouldContain("Type");
        Should.Throw<ProblemException>(() => TagCode.Read("", mine));
        TagCode.Mark("K7", "R6L").ShouldBe("K7-R6L");
        TagCode.Mark("", "R6L").ShouldBe("R6L");
        TagCode.Read("k7-R6L", mine, "K7").ShouldBe("R6L");
        TagCode.Read("R6L", mine, "K7").ShouldBe("R6L");
        Should.Throw<ProblemException>(() => TagCode.Read("K8-R6L", mine, "K7")).Problems[0].Text.ShouldContain("this one’s begin with K7");
        Should.Throw<ProblemException>(() => TagCode.Read("K8-R6L", mine)).Problems[0].Text.ShouldBe("“K8” is the mark of another engine.");
        TagCode.CheckPrefix("").ShouldBeNull();
        TagCode.CheckPrefix("K7").ShouldBeNull();
        TagCode.CheckPrefix("TOO LONG")!.Field.ShouldBe("prefix");
    }
}
