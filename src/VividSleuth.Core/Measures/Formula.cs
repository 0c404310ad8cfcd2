namespace VividSleuth.Core.Measures;

/// <summary>A figure that a formula takes.</summary>
/// <param name="Least">Least that makes sense, base unit of the quantity; a figure below is refused.</param>
/// <param name="Most">Most that makes sense.</param>
/// <param name="Unit">What it is told in where the quantity has no unit of its own.</param>
public sealed record FormulaInput(string Id, string Name, Quantity Quantity, double Least, double Most, string Unit = "")
{
    /// <summary>What is wrong with a figure; null where it may be put in. It is never rounded into the range.</summary>
    public Problem? Check(double value) =>
        double.IsNaN(value) ? new Problem(Id, $"{Name} is no figure.", "Give a number.")
        : value < Least || value > Most
            ? new Problem(Id, $"{Name} cannot be {value:0.######}{Behind}.", $"Give {Least:0.######} to {Most:0.######}{Behind}.")
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
    string Name,
    string Equation,
    string Source,
    Quantity Result,
    IReadOnlyList<FormulaInput> Inputs,
    WorkedFigure Worked,
    Func<IReadOnlyList<double>, double> Function
)
{
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

    /// <summary>The same with the doubt of each figure carried through (<see cref="Estimate.Through"/>).</summary>
    /// <exception cref="ProblemException">A figure lies outside its range.</exception>
    public Estimate Through(params IReadOnlyList<Estimate> values)
    {
        Of([.. values.Select(v => v.Value)]);
        return Estimate.Through(Function, values);
    }

    public FormulaInput Input(string id) => Inputs.Single(i => i.Id == id);
}
