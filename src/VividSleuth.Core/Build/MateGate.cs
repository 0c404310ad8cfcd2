using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Build;

/// <summary>
/// What stops a part that is about to go in: the wrong one, the wrong way round, of the other bank, one that is to be replaced, or one that came and
/// nobody let in. None of these is opened by a sentence: the record is put right, or another part is taken.
/// </summary>
public static class MateGate
{
    /// <summary>Parts of the kind can be taken for each other, and each has a place of its own.</summary>
    public static bool MayBeMistaken(PartKind kind, AddressTable table) =>
        !kind.Interchangeable && kind.OneTime is null && table.OfKind(kind.Id).Skip(1).Any();

    /// <summary>Parts of the kind may stand in for each other in this shop.</summary>
    public static bool MayBeSwapped(PartKind kind, Mixing mixing) => kind.Interchangeable && mixing == Mixing.AlikeMayMix;

    /// <summary>What is wrong with a part going in; nothing of one that may.</summary>
    /// <param name="goes">Places of the parts that the step puts in.</param>
    public static IEnumerable<Problem> Check(BackAct act, IReadOnlyList<BackPart> goes, BackBook book, AddressTable table)
    {
        if (table.Find(act.Of) is not { } place || goes.All(g => g.Place != act.Of))
        {
            return [Problem.Of("of", "build.fit.not-of-this-step", ("place", act.Of))];
        }

        if (book.In(place.Code) is { } already && already.Id != act.Id)
        {
            return [Problem.Of("of", "build.fit.in-already", ("place", place.Code), ("by", already.By))];
        }

        return act.IsNew ? OfNew(act, place, book) : OfOwn(act, place, book, table);
    }

    private static IEnumerable<Problem> OfNew(BackAct act, Address place, BackBook book)
    {
        var lines = book.NewFor(place.Code).ToArray();
        if (act.Line is not { } id)
        {
            if (lines.Length > 0)
            {
                yield return Problem.Of("line", "build.fit.which-line", ("place", place.Code), ("lines", lines.Select(l => l.What).ToArray()));
            }
            else if (act.Why.Length == 0)
            {
                yield return Problem.Of("why", "build.fit.where-from", ("place", place.Code));
            }

            yield break;
        }

        if (Array.Find(lines, l => l.Id == id) is not { } line)
        {
            yield return Problem.Of("line", "build.fit.line-of-another", ("place", place.Code));
            yield break;
        }

        if (!BackBook.LetIn(book.Line(id)))
        {
            yield return Problem.Of("line", "build.fit.unchecked", ("what", line.What), ("stage", book.Line(id)!.Stage));
        }
        else if (book.FittedOf(id) >= book.EnoughFor(line))
        {
            yield return Problem.Of(
                "line",
                "build.fit.more-than-came",
                ("what", line.What),
                ("enough", book.EnoughFor(line)),
                ("places", line.Places.Count)
            );
        }
    }

    private static IEnumerable<Problem> OfOwn(BackAct act, Address place, BackBook book, AddressTable table)
    {
        if (act.Tag.Length == 0)
        {
            yield return Problem.Of("tag", "build.fit.scan-it", ("place", place.Code));
            yield break;
        }

        if (table.Find(act.Tag) is not { } tag)
        {
            yield return Problem.Of("tag", "casebook.no-address", ("place", act.Tag));
            yield break;
        }

        if (tag.Kind.Id != place.Kind.Id)
        {
            yield return Problem.Of(
                "tag",
                "build.fit.another-kind",
                ("tag", tag.Code),
                ("is", tag.Kind.Name),
                ("place", place.Code),
                ("wants", place.Kind.Name)
            );
            yield break;
        }

        if (tag.Code != place.Code && !MayBeSwapped(place.Kind, book.Mixing))
        {
            var (mine, its) = (Along.BankOf(place, table.Engine), Along.BankOf(tag, table.Engine));
            yield return mine != its
                ? Problem.Of("tag", "build.fit.other-bank", ("tag", tag.Code), ("bank", its), ("place", place.Code), ("other", mine))
                : Problem.Of(
                    "tag",
                    "build.fit.not-its-place",
                    ("tag", tag.Code),
                    ("place", place.Code),
                    ("harm", place.Kind.MixedHarm ?? Fact.Of("index.mixed-pair-loses-clearance"))
                );
            yield break;
        }

        if (book.RenewedAs(tag) is { } why)
        {
            yield return Problem.Of("tag", "build.fit.condemned", ("tag", tag.Code), ("why", why));
        }

        if (book.AwayOn(tag.Code) is { } line)
        {
            yield return Problem.Of("tag", "build.fit.unchecked", ("what", line.What), ("stage", book.Line(line.Id)!.Stage));
        }

        if (book.Tags.GetValueOrDefault(tag.Code) is not { } part)
        {
            yield break;
        }

        if (part.Custody == Custody.Scrapped || part.Custody.IsOut())
        {
            yield return Problem.Of("tag", "build.fit.not-here", ("tag", tag.Code), ("custody", part.Custody), ("where", part.Where));
        }

        if (part.MarkedAs.Length > 0 && part.MarkedAs != tag.Code && table.Find(part.MarkedAs) is not null)
        {
            yield return Problem.Of("tag", "build.fit.old-mark", ("tag", tag.Code), ("marked", part.MarkedAs));
        }

        if (part.Facing != Facing.Unknown && act.Facing == Facing.Unknown)
        {
            yield return Problem.Of("facing", "build.fit.which-way", ("tag", tag.Code), ("mark", part.Mark), ("faces", part.Facing));
        }
        else if (part.Facing != Facing.Unknown && act.Facing != part.Facing)
        {
            yield return Problem.Of("facing", "build.fit.wrong-way-round", ("tag", tag.Code), ("faces", part.Facing), ("now", act.Facing));
        }

        if (part.SideUp.Length > 0 && !act.SideUp)
        {
            yield return Problem.Of("sideUp", "build.fit.which-side", ("tag", tag.Code), ("side", part.SideUp));
        }

        // The other half of what was machined as one: mixed up by earlier hands, or noted wrong.
        foreach (var half in place.Kind.Halves.Select(k => Kin.Of(table, place, k)).OfType<Address>())
        {
            var mate = MateCheck.Of(place, half, book.Tags.Values, table.Engine, book.Mixing);
            if (mate.Answer == MateAnswer.WrongWayRound)
            {
                yield return new Problem("tag", mate.Why, Fact.Of("build.fit.halves.do"));
            }
        }
    }
}
