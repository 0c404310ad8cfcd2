using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Casebook;

/// <summary>Gives a case another numbering (<see cref="Renumber"/>).</summary>
public static class RenumberCase
{
    /// <summary>Moves every record of a case to the address its part has now. Physical marks stay and are told until they are made anew.</summary>
    public static Renumbering Apply(EngineCase engineCase, EngineLayout @new, string why)
    {
        var map = Renumber.Map(engineCase.Layout, @new).ToDictionary(r => r.Old, r => r.New, StringComparer.Ordinal);
        string New(string place) => map.GetValueOrDefault(place, place);
        foreach (var part in engineCase.Parts)
        {
            var place = New(part.Place);
            // Marked twice over: what stands on the metal is still the first one.
            part.MarkedAs =
                part.Method == MarkMethod.None ? ""
                : part.MarkedAs == place ? ""
                : part.MarkedAs.Length > 0 ? part.MarkedAs
                : place != part.Place ? part.Place
                : "";
            part.Place = place;
        }

        engineCase.Findings.ForEach(f => f.Place = New(f.Place));
        engineCase.Debris.ForEach(d => d.Place = New(d.Place));
        engineCase.Photos.ForEach(p => p.Place = New(p.Place));
        engineCase.Readings.ForEach(r => r.Place = New(r.Place));
        engineCase.Verdicts.ForEach(v => v.Place = New(v.Place));
        engineCase.Conclusions.ForEach(c => (c.Place, c.ComputedPlace) = (New(c.Place), New(c.ComputedPlace)));
        var renumbering = new Renumbering
        {
            Before = engineCase.Layout,
            After = @new,
            Map = map,
            Why = why,
        };
        engineCase.Layout = @new;
        return renumbering;
    }
}
