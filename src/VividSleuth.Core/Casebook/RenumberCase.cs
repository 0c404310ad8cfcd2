using VividSleuth.Core.Build;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Casebook;

/// <summary>Gives a case another numbering (<see cref="Renumber"/>) or a corrected layout (<see cref="Relayout"/>).</summary>
public static class RenumberCase
{
    /// <summary>Moves every record of a case to the address its part has now. Physical marks stay and are told until they are made anew.</summary>
    public static Renumbering Apply(EngineCase engineCase, EngineLayout @new, string why) =>
        Apply(engineCase, @new, Renumber.Map(engineCase.Layout, @new), why, Engine.From(engineCase.Layout), Engine.From(@new));

    /// <summary>Corrects the layout of a case; what it was stays in the record.</summary>
    public static Renumbering Apply(EngineCase engineCase, LayoutChange change, string why) =>
        Apply(engineCase, change.Layout, change.Map, why, null, null);

    /// <summary>Addresses at which anything is recorded, withdrawn or not.</summary>
    public static IReadOnlySet<string> Recorded(EngineCase engineCase) =>
        engineCase
            .Parts.Select(p => p.Place)
            .Concat(engineCase.Parts.Where(p => p.On.Length > 0).Select(p => p.On))
            .Concat(engineCase.Stows.SelectMany(s => s.Items.Where(i => i.Place.Length > 0).Select(i => i.Place)))
            .Concat(engineCase.Findings.Select(f => f.Place))
            .Concat(engineCase.Debris.Select(d => d.Place))
            .Concat(engineCase.Photos.Select(p => p.Place))
            .Concat(engineCase.Readings.Select(r => r.Place))
            .Concat(engineCase.Verdicts.Select(v => v.Place))
            .Concat(engineCase.Examinations.Select(e => e.Place))
            .Concat(engineCase.OrderLines.SelectMany(l => l.Places))
            .Concat(engineCase.BackActs.Where(a => a.Kind is BackActKind.Fitted or BackActKind.TakenOut).SelectMany(a => new[] { a.Of, a.Tag }))
            .Concat(engineCase.Conclusions.SelectMany(c => new[] { c.Place, c.ComputedPlace }))
            .ToHashSet(StringComparer.Ordinal);

    private static Renumbering Apply(
        EngineCase engineCase,
        EngineLayout @new,
        IReadOnlyList<Renumbered> moves,
        string why,
        Engine? before,
        Engine? after
    )
    {
        int Station(StationScope scope, int station) =>
            before is null || after is null || scope == StationScope.Engine ? station : Renumber.Station(scope, station, before, after);
        var map = moves.ToDictionary(r => r.Old, r => r.New, StringComparer.Ordinal);
        string New(string place) =>
            map.TryGetValue(place, out var now) ? now
            // A candidate's places go where the engine's own go that they stand in for.
            : place.Split('.') is [var own, var letter] && map.TryGetValue(own, out var moved) ? $"{moved}.{letter}"
            : place;
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
            part.On = New(part.On);
        }

        engineCase.Stows.ForEach(s => s.Items = [.. s.Items.Select(i => i with { Place = New(i.Place) })]);
        foreach (var candidate in engineCase.Candidates.Where(c => c.Station is not null))
        {
            candidate.Station = Station(PartKinds.Get(CandidateSets.KindsOf(candidate.What)[0]).Scope, candidate.Station!.Value);
        }

        foreach (var sound in engineCase.Sounds)
        {
            int Now(int cylinder) => cylinder == 0 ? 0 : Station(StationScope.Cylinder, cylinder);
            (sound.Pickup, sound.CutOut) = (Now(sound.Pickup), Now(sound.CutOut));
        }

        engineCase.Findings.ForEach(f => f.Place = New(f.Place));
        engineCase.Debris.ForEach(d => d.Place = New(d.Place));
        engineCase.Photos.ForEach(p => p.Place = New(p.Place));
        engineCase.Readings.ForEach(r => r.Place = New(r.Place));
        engineCase.Verdicts.ForEach(v => v.Place = New(v.Place));
        engineCase.Examinations.ForEach(e => e.Place = New(e.Place));
        foreach (var act in engineCase.BackActs)
        {
            (act.Of, act.Tag) = act.Kind is BackActKind.Fitted or BackActKind.TakenOut ? (New(act.Of), New(act.Tag)) : (act.Of, act.Tag);
        }

        foreach (var line in engineCase.OrderLines)
        {
            line.Places = [.. line.Places.Select(New)];
            line.Wants = [.. line.Wants.Select(w => w with { Of = New(w.Of) })];
        }

        engineCase.Conclusions.ForEach(c => (c.Place, c.ComputedPlace) = (New(c.Place), New(c.ComputedPlace)));
        foreach (var step in engineCase.Steps)
        {
            // New lists: what the database kept is compared with what is there.
            step.Stations = [.. step.Stations.Select(s => step.Per == FastenerCount.InAll ? s : Station(StepStations.ScopeOf(step.Per), s)).Order()];
            step.Overrides =
            [
                .. step.Overrides.Select(o => new StepOverride
                {
                    Lock = o.Lock,
                    Of = o.Lock == StepLock.Unread ? New(o.Of) : o.Of,
                    Reason = o.Reason,
                }),
            ];
        }

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
