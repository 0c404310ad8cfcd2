using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;
using VividSleuth.Words;

namespace VividSleuth.Server.Verdict;

/// <summary>The order on paper: the list, and what goes with the parts to whoever machines them.</summary>
public static class OrderPdf
{
    /// <summary>All lines with how far they are.</summary>
    public static byte[] List(CaseReader reader, Sentences sentences)
    {
        using var paper = Begin(reader, sentences, "server.order-of");
        var states = reader.Order.Lines.ToDictionary(l => l.Line);
        foreach (
            var lines in reader
                .Case.OrderLines.Where(l => l.Stands())
                .GroupBy(l => l.Supplier, StringComparer.OrdinalIgnoreCase)
                .OrderBy(g => g.Key, StringComparer.OrdinalIgnoreCase)
        )
        {
            paper.Heading(lines.Key.Length > 0 ? lines.Key : sentences.Say(Fact.Of("server.order-of-nobody")));
            using var table = Table(paper, sentences, (62, "what"), (14, "count"), (26, "price"), (28, "stage"), (46, "remarks"));
            foreach (var line in lines.OrderBy(l => l.At))
            {
                var state = states[line.Id];
                table.Row(
                    sentences.Say(Fact.Of("server.order-what", ("what", line.What), ("number", line.PartNumber), ("places", line.Places.ToArray()))),
                    Plain(sentences, line.Quantity),
                    line.Price is { } price ? sentences.Say(Money(price, line.Currency)) : "",
                    sentences.Say(state.Stage),
                    string.Join(' ', state.Against.Select(sentences.Say).Append(line.Remarks).Where(t => t.Length > 0))
                );
            }
        }

        paper.Paragraph(
            sentences.Say(
                Fact.Of(
                    "server.order-sum",
                    ("sum", Money(reader.Order.Cost, reader.Order.Currency)),
                    ("unpriced", reader.Order.Unpriced > 0 ? Fact.Of("server.order-unpriced", ("count", reader.Order.Unpriced)) : null)
                )
            )
        );
        return paper.Save();
    }

    /// <summary>What a machine shop or specialist is to do, with a drawing for each size.</summary>
    /// <param name="supplier">Name of the shop; null is all that is not done here.</param>
    /// <exception cref="ProblemException">Nothing is.</exception>
    public static byte[] ForShop(CaseReader reader, string? supplier, Sentences sentences)
    {
        var states = reader.Order.Lines.ToDictionary(l => l.Line);
        var lines = reader
            .Case.OrderLines.Where(l =>
                l.Stands()
                && l.Kind != SupplierKind.Parts
                && (string.IsNullOrEmpty(supplier) || l.Supplier.Equals(supplier, StringComparison.OrdinalIgnoreCase))
                && states[l.Id].Stage is OrderStage.Wanted or OrderStage.Asked or OrderStage.Ordered or OrderStage.Expected
            )
            .OrderBy(l => l.At)
            .ToArray();
        if (lines.Length == 0)
        {
            throw new ProblemException(Problem.Of("supplier", "server.nothing-for-the-shop"));
        }

        using var paper = Begin(reader, sentences, "server.shop-order-of");
        if (!string.IsNullOrEmpty(supplier))
        {
            paper.Paragraph(sentences.Say(Fact.Of("server.shop-order-to", ("name", supplier))));
        }

        paper.Paragraph(sentences.Say(Fact.Of("server.shop-order-defers")));
        var number = 0;
        foreach (var line in lines)
        {
            number++;
            paper.Heading(sentences.Say(Fact.Of("server.shop-order-line", ("number", number), ("what", line.What))));
            var course = reader.Knowledge.Course(line.Course);
            var state = states[line.Id];
            Fact?[] told =
            [
                line.Places.Count > 0 ? Fact.Of("server.shop-order-places", ("places", line.Places.ToArray())) : null,
                state.Along.Count > 0 ? Fact.Of("server.shop-order-along", ("places", state.Along.ToArray())) : null,
                course is { Takes.Length: > 0 } ? Fact.Of("server.shop-order-takes", ("takes", course.Takes)) : null,
                course is { Caution.Length: > 0 } ? Fact.Of("server.shop-order-caution", ("caution", course.Caution)) : null,
                line.Remarks.Length > 0 ? Fact.Of("server.shop-order-remarks", ("remarks", line.Remarks)) : null,
            ];
            foreach (var fact in told.OfType<Fact>())
            {
                paper.Paragraph(sentences.Say(fact));
            }

            foreach (var gate in state.Gates.Where(g => g.Stands != GateStands.Open))
            {
                paper.Paragraph(sentences.Say(Fact.Of("server.shop-order-held", ("gate", gate.Name), ("evidence", gate.Evidence))));
            }

            if (line.Wants.Count > 0)
            {
                using var table = Table(paper, sentences, (30, "of"), (50, "figure"), (26, "least"), (26, "most"), (44, "source"));
                foreach (var want in line.Wants)
                {
                    table.Row(
                        Of(want, sentences),
                        Name(reader.Knowledge, want),
                        Size(reader.Knowledge, want, want.Least, sentences),
                        Size(reader.Knowledge, want, want.Most, sentences),
                        want.Thumb ? sentences.Say(Fact.Of("server.shop-order-thumb", ("source", want.Source))) : want.Source
                    );
                }
            }
        }

        foreach (var drawing in ShopDrawing.Of(reader, lines, sentences))
        {
            drawing.DrawOn(paper.NewPage(sentences.Say(Fact.Of("server.shop-order-drawing"))));
        }

        return paper.Save();
    }

    internal static string Of(WantedFigure want, Sentences sentences) =>
        Core.Engines.PartKinds.Find(want.Of) is null ? want.Of : sentences.Say(Fact.Of($"part.{want.Of}"));

    internal static string Name(KnowledgeBase knowledge, WantedFigure want) =>
        knowledge.Characteristic(want.Characteristic)?.Name ?? want.Characteristic;

    private static string Size(KnowledgeBase knowledge, WantedFigure want, decimal? value, Sentences sentences) =>
        value is { } v ? sentences.Say(new Amount((double)v, knowledge.Characteristic(want.Characteristic)?.Quantity ?? Quantity.Length, 3)) : "";

    private static Fact Money(decimal amount, string currency) =>
        Fact.Of("server.order-money", ("amount", new Number((double)amount, Currencies.DigitsOf(currency), Fixed: true)), ("currency", currency));

    private static string Plain(Sentences sentences, decimal number) => sentences.Say(Fact.Of("server.order-count", ("number", number)));

    private static Paper Begin(CaseReader reader, Sentences sentences, string title)
    {
        var paper = new Paper(sentences.Say(Fact.Of(title, ("case", reader.Case.Title))), language: sentences.Tag);
        paper.Paragraph(
            sentences.Say(
                Fact.Of(
                    "server.order-head",
                    ("engine", reader.Case.EngineName),
                    ("serial", reader.Case.Serial),
                    ("prefix", reader.Case.Prefix),
                    ("day", DateOnly.FromDateTime(DateTime.UtcNow))
                )
            )
        );
        return paper;
    }

    private static PaperTable Table(Paper paper, Sentences sentences, params (double Width, string Column)[] columns) =>
        paper.Table([.. columns.Select(c => (c.Width, sentences.Say(Fact.Of($"word.order-column.{c.Column}"))))]);
}
