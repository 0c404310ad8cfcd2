using VividSleuth.Core.Cases;

namespace VividSleuth.Core.Index;

/// <summary>Something that must not stay as it is: a part without a mark, a mate that was never tagged.</summary>
public sealed record LooseEnd(string Place, string Text);

/// <summary>What a person who comes back after three weeks must know first.</summary>
public static class LooseEnds
{
    public static IReadOnlyList<LooseEnd> Of(EngineCase engineCase, AddressTable table)
    {
        var parts = engineCase.Parts.Where(p => p.Stands()).ToArray();
        var ends = new List<LooseEnd>();
        foreach (var part in parts)
        {
            var address = table.Find(part.Place)!;
            if (part.Method == MarkMethod.None && !address.Kind.Interchangeable)
            {
                ends.Add(new LooseEnd(part.Place, $"{part.Place} has no mark."));
            }

            if (part.Custody is not (Custody.OnEngine or Custody.Scrapped) && part.Where.Length == 0)
            {
                ends.Add(new LooseEnd(part.Place, $"{part.Place} is off the engine and nobody wrote where it lies."));
            }

            foreach (var mate in address.Kind.Mates.Select(k => table.Find(k, address.Station)).OfType<Address>())
            {
                var other = Array.Find(parts, p => p.Place == mate.Code);
                if (other is not null && string.CompareOrdinal(part.Place, other.Place) < 0)
                {
                    var result = MateCheck.Of(address, mate, parts);
                    if (result.Answer == MateAnswer.WrongWayRound)
                    {
                        ends.Add(new LooseEnd(part.Place, $"{address.Code} and {mate.Code}: {result.Why}"));
                    }
                }
                else if (other is null && address.Kind.Id is PartKinds.Rod && mate.Kind.Id is PartKinds.RodCap)
                {
                    ends.Add(new LooseEnd(mate.Code, $"{address.Code} is tagged but its cap {mate.Code} is not."));
                }
            }
        }

        return ends;
    }
}
