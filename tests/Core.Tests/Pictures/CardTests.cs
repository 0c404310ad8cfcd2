using System.Text;
using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Tests.Pictures;

public sealed class CardTests
{
    private static readonly Func<Spot, double> Bench = at => 0.45 + (0.03 * Math.Sin(at.X / 3) * Math.Cos(at.Y / 5));

    private static Raster Photograph(DrawnView view, DrawnFlaws? flaws = null, int seed = 1, params (int Number, Spot At, double Turn)[] cards)
    {
        var drawn = cards.Select(c => DrawnPicture.Card(c.Number, c.At, c.Turn)).ToArray();
        return DrawnPicture.Draw(
            at => drawn.Select(c => c(at)).FirstOrDefault(l => l is not null) ?? Bench(at),
            view,
            flaws ?? new DrawnFlaws(),
            seed
        );
    }

    /// <summary>The check value of CRC-8 with this polynomial over the digits 1 to 9 in the catalogue of parametrised CRC algorithms (CRC-8/SMBUS); from memory.</summary>
    [Fact]
    public void The_check_is_that_of_the_catalogue() => ScaleCard.Crc8(Encoding.ASCII.GetBytes("123456789")).ShouldBe(0xF4);

    [Fact]
    public void Each_number_is_read_one_way_up_only()
    {
        for (var number = 1; number <= ScaleCard.Most; number++)
        {
            var dots = ScaleCard.Dots(number).ToDictionary(d => (d.Column, d.Row), d => d.Hollow);
            ScaleCard.Number((c, r) => dots[(c, r)]).ShouldBe(number);
            ScaleCard.Number((c, r) => dots[(ScaleCard.Columns - 1 - c, ScaleCard.Rows - 1 - r)]).ShouldBeNull();
        }

        var some = ScaleCard.Dots(1234).ToDictionary(d => (d.Column, d.Row), d => d.Hollow);
        ScaleCard.Number((c, r) => (c, r) is (2, 1) or (3, 1) ? null : some[(c, r)]).ShouldBe(1234);
        ScaleCard.Number((c, r) => r < 2 ? null : some[(c, r)]).ShouldBeNull();
    }

    /// <summary>However it lies, and turned away by up to 35°.</summary>
    [Fact]
    public void A_card_is_found_however_it_lies()
    {
        var random = new Random(11);
        for (var n = 0; n < 12; n++)
        {
            var (turn, tilt, towards) = (360 * random.NextDouble(), 35.0 * n / 11, 360 * random.NextDouble());
            var view = new DrawnView(1200, 900, 9, new Spot(30, 20), 0, tilt, towards);
            var number = random.Next(1, ScaleCard.Most + 1);
            var at = new Spot(30, 20) - Turned(new Spot(25, 15), turn);
            var card = CardFinder.Find(Photograph(view, seed: n, cards: (number, at, turn))).ShouldHaveSingleItem($"turn {turn:0} tilt {tilt:0}");
            card.Number.ShouldBe(number);
            card.Dots.Count.ShouldBe(24);
            card.Map.Residual.ShouldBeLessThan(0.15);
            card.Map.Tilt(new Spot(25, 15)).ShouldBe(tilt, tilt < 8 ? 4 : 1.5);
            // Where each dot is: as it was drawn.
            foreach (var (plane, seen) in card.Dots)
            {
                (seen - view.Seen(at + Turned(plane, turn))).Length.ShouldBeLessThan(0.35);
            }
        }
    }

    [Fact]
    public void Two_cards_are_two_and_none_is_none()
    {
        var view = new DrawnView(1600, 1000, 8, new Spot(60, 30));
        CardFinder
            .Find(Photograph(view, cards: [(5, new Spot(5, 10), 0), (77, new Spot(130, 60), 180)]))
            .Select(c => c.Number)
            .Order()
            .ShouldBe([5, 77]);
        CardFinder.Find(Photograph(view)).ShouldBeEmpty();
        CardFinder.Find(new Raster(1, 1, [0.5f])).ShouldBeEmpty();
        CardFinder.Find(new Raster(300, 200, new float[300 * 200])).ShouldBeEmpty();
    }

    [Fact]
    public void A_soft_picture_is_told_as_soft_and_a_covered_dot_does_not_hide_the_card()
    {
        var view = new DrawnView(1200, 900, 9, new Spot(25, 15), 10, 20, 30);
        CardSeen Soft(double blur) => CardFinder.Find(Photograph(view, new DrawnFlaws(Blur: blur), cards: (9, default, 0))).ShouldHaveSingleItem();
        var (sharp, soft) = (Soft(0.7), Soft(4));
        soft.Soft.ShouldBeGreaterThan(2.5 * sharp.Soft);

        var card = DrawnPicture.Card(9, default);
        var covered = DrawnPicture.Draw(at => at is { X: > 16 and < 34, Y: > 6 and < 14 } ? 0.5 : card(at) ?? 0.45, view, new DrawnFlaws(), 2);
        var seen = CardFinder.Find(covered).ShouldHaveSingleItem();
        seen.Number.ShouldBe(9);
        seen.Dots.Count.ShouldBe(22);
    }

    private static Spot Turned(Spot at, double turn)
    {
        var (cos, sin) = (Math.Cos(turn * Math.PI / 180), Math.Sin(turn * Math.PI / 180));
        return new Spot((cos * at.X) - (sin * at.Y), (sin * at.X) + (cos * at.Y));
    }
}
