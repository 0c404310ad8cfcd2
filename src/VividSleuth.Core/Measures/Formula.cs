namespace VividSleuth.Core.Measures;

/// <summary>A figure that a formula takes.</summary>
/// <param name="NameId">Of its name; several formulas may call different figures by one id.</param>
/// <param name="Least">Least that makes sense, base unit of the quantity; a figure below is refused.</param>
/// <param name="Most">Most that makes sense.</param>
/// <param name="Unit">What it is told in where the quantity has no unit of its own.</param>
public sealed record FormulaInput(string Id, string NameId, Quantity Quantity, double Least, double Most, string Unit = "")
{
    public Fact Name => Fact.Of($"input.{NameId}");

    /// <summary>What is wrong with a figure; null where it may be put in. It is never rounded into the range.</summary>
    public Problem? Check(double value) =>
        double.IsNaN(value) ? Problem.Of(Id, "measures.input-no-figure", ("name", Name))
        : value < Least || value > Most
            ? Problem.Of(
                Id,
                "measures.input-out-of-range",
                ("name", Name),
                ("value", new Number(value, 6)),
                ("behind", Behind),
                ("least", new Number(Least, 6)),
                ("most", new Number(Most, 6))
            )
        : null;

    private string Behind =>
        Unit.Length > 0 ? $" {Unit}"
        : Quantity == Quantity.Ratio ? ""
        : $" {QuantityParser.BaseUnit(Quantity)}";
}

/// <summary>What a formula comes to for given figures, published or worked by hand.</summary>
/// <param name="Within">How far the result may lie from it: figures are published rounded.</param>
public sealed record WorkedFigure(IReadOnlyList<double> Inputs, double Result, double Within, string Source);

/// <summary>
/// A formula: one record, used by the sheet, the reckoners, the command line and the tests alike. Figures are in the base units of their
/// quantities.
/// </summary>
/// <param name="Equation">As it stands in a textbook.</param>
/// <param name="Source">Standard with paragraph, book, or “common practice, no source”.</param>
public sealed record Formula(
    string Id,
    string Equation,
    string Source,
    Quantity Result,
    IReadOnlyList<FormulaInput> Inputs,
    WorkedFigure Worked,
    Func<IReadOnlyList<double>, double> Function
)
{
    public Fact Name => Fact.Of($"formula.{Id}");

    /// <param name="values">One for each input, in their order.</param>
    /// <exception cref="ProblemException">A figure lies outside its range; each problem names its input.</exception>
    public double Of(params IReadOnlyList<double> values)
    {
        if (values.Count != Inputs.Count)
        {
            throw new ArgumentException($"{Id} takes {Inputs.Count} figures and not {values.Count}.", nameof(values));
        }

        var problems = Inputs.Zip(values, (i, v) => i.Check(v)).OfType<Problem>().ToArray();
        return problems.Length > 0 ? throw new ProblemException(problems) : Function(values);
    }

    /// <summary>The same with the uncertainty of each figure carried through (<see cref="Estimate.Through"/>).</summary>
    /// <exception cref="ProblemException">A figure lies outside its range.</exception>
    public Estimate Through(params IReadOnlyList<Estimate> values)
    {
        Of([.. values.Select(v => v.Value)]);
        return Estimate.Through(Function, values);
    }

    public FormulaInput Input(string id) => Inputs.Single(i => i.Id == id);
}
