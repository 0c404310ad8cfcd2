using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Tests.Casebook;

public sealed class KindBackgroundTests
{
    private static readonly AddressTable Table = new(Engine.From(KnowledgeBase.BuiltIn.Families.First(f => f.Layout.Cylinders == 6).Layout));
    private static readonly Guid A = Guid.NewGuid();
    private static readonly Guid B = Guid.NewGuid();

    [Fact]
    public void Sound_places_of_other_engines_are_told_by_kind_of_part_each_place_once()
    {
        KindReading[] readings =
        [
            new(A, "K1", "crankpin-diameter", 10),
            new(A, "K1", "crankpin-diameter", 12),
            new(A, "K2", "crankpin-diameter", 14),
            new(B, "K1", "crankpin-diameter", 20),
            new(B, "K2", "crankpin-diameter", 99),
            new(B, "M1", "crankpin-diameter", 5),
            new(B, "K30", "crankpin-diameter", 1),
        ];
        var told = KindBackground.Of(readings, (of, place) => !(of == B && place == "K2"), Table);
        told.ShouldBe(
            [
                new KindBackground("crankpin-diameter", "crankpin", 2, 3, 11, 14, 20),
                new KindBackground("crankpin-diameter", "main-journal", 1, 1, 5, 5, 5),
            ],
            ignoreOrder: true
        );
        KindBackground.Of(readings, (_, _) => false, Table).ShouldBeEmpty();
    }

    [Fact]
    public void Of_an_even_number_the_middle_lies_between_two() =>
        KindBackground
            .Of([new(A, "K1", "x", 1), new(A, "K2", "x", 2), new(B, "K1", "x", 4), new(B, "K2", "x", 9)], (_, _) => true, Table)
            .ShouldHaveSingleItem()
            .Median.ShouldBe(3);
}
